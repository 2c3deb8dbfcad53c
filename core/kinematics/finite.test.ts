import { describe, expect, it } from 'vitest';
import { CAST_ON_BONE as CAST } from '../../sim/cast.ts';
import { filmed, FILMED_MM_PER_PX } from '../../sim/filmed.ts';
import { judgeReading } from '../protocol/measures.ts';
import { PROTOCOLS } from '../protocol/protocols.ts';
import { SIDE_LANDMARKS, type SideLandmark } from '../landmarks/landmarks.ts';
import { notFinite } from './notFinite.fixture.ts';
import { readTracks } from './read.ts';
import type { Tracks } from '../tracking/tracks.ts';

const rider = { ...CAST[0].scene.rider, wanderDeg: 0 };
const whole = filmed({ rider });

function seenOnly(key: SideLandmark, seen: (frame: number) => boolean, frames = whole.tS.length): Tracks {
  const landmarks = Object.fromEntries(
    Object.entries(whole.landmarks).map(([name, t]) => {
      const [xPx, yPx] = [t.xPx.slice(0, frames), t.yPx.slice(0, frames)];
      if (name === key) for (let k = 0; k < frames; k += 1) if (!seen(k)) xPx[k] = yPx[k] = NaN;
      return [name, { xPx, yPx, confidence: t.confidence.slice(0, frames) }];
    }),
  );
  return { tS: whole.tS.slice(0, frames), landmarks: landmarks as Tracks['landmarks'] };
}

const last = whole.tS.length - 1;
const PATTERNS: readonly (readonly [string, (frame: number) => boolean])[] = [
  ['in the first 12 frames', (k) => k < 12],
  ['in the last 12 frames', (k) => k > last - 12],
  ['in the first second', (k) => whole.tS[k] < whole.tS[0] + 1],
  ['in one frame of seven', (k) => k % 7 === 0],
  ['in a few frames', (k) => [3, 90, 200, 201].includes(k)],
];

describe.each(SIDE_LANDMARKS)('the %s seen', (key) => {
  it.each(PATTERNS)('%s gives finite figures, or none with a reason', (_, seen) => {
    for (const frames of [whole.tS.length, 75, 140]) {
      const r = readTracks(seenOnly(key, seen, frames), {
        mmPerPx: FILMED_MM_PER_PX,
        crankMm: rider.crankMm,
      });
      if (!r.ok) {
        expect(r.detail.length).toBeGreaterThan(10);
        continue;
      }
      // The spindle's place on the foot is not measured where the spindle itself was marked.
      expect(notFinite({ ...r, crank: { ...r.crank, spindleFromToeMm: null } }), `${frames} frames`).toEqual(
        [],
      );
      for (const m of judgeReading(r, PROTOCOLS[0])) expect(notFinite(m), m.key).toEqual([]);
    }
  });
});
