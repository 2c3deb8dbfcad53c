import { describe, expect, it } from 'vitest';
import { landmarksOf } from '../../core/kinematics/angles.ts';
import { SIDE_LANDMARKS } from '../../core/landmarks/landmarks.ts';
import { answer, bikeOf, inseamOf, moved, saddle, well } from './humanCase.ts';

/** What each plan must still know. */
const body = (r: Parameters<typeof inseamOf>[0]) => ({ results: { inseam: { both: inseamOf(r) } } });

describe.each(SIDE_LANDMARKS)('a plan without the %s', (lost) => {
  const low = moved(well(), saddle(-26));
  const a = answer({ right: low, left: low, lost: [lost], visit: { asFound: bikeOf(low), body: body(low) } });
  it('still raises a saddle that is 26 mm low where the knee is told, and moves nothing else; moves nothing now where it is not', () => {
    const lines = [...a.now, ...a.try];
    if (landmarksOf('kneeFlexionDeg').includes(lost)) {
      expect(a.now).toEqual([]);
      return;
    }
    expect(lines.map((l) => l.key)).toEqual(['saddleUp']);
    expect(lines[0].moves.saddleUp).toBeGreaterThanOrEqual(3);
  });
  it('quotes no figure that hangs on it, and none that is not finite', () => {
    const text = JSON.stringify(a);
    expect(text).not.toMatch(/NaN|Infinity/);
    const keys = new Set(a.measures.map((m) => m.key));
    for (const line of a.now) for (const p of line.predicted) expect(keys.has(p.key), p.key).toBe(true);
    // JSON writes what is not finite as null.
    for (const m of a.measures)
      expect(Number.isFinite(m.value) && Number.isFinite(m.uncertainty), m.key).toBe(true);
    for (const l of [...a.now, ...a.later, ...a.try])
      for (const p of l.predicted) expect(Number.isFinite(p.after + p.low + p.high), p.key).toBe(true);
  });
  it('leaves a well-fitted rider alone', () => {
    const rider = well();
    const fine = answer({
      right: rider,
      left: rider,
      lost: [lost],
      visit: { asFound: bikeOf(rider), body: body(rider) },
    });
    expect(fine.leaveAlone).toBe(true);
  });
});
