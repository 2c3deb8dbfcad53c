import { forecastOf, preparedOnce, type Forecast } from '../model/forecast.ts';
import { HABITS, type MeasureKey } from '../protocol/protocols.ts';
import { both, cannot, effectsOf, type Moves } from './controls/controls.ts';
import { CONTROLS, type ControlKey } from './controls/controlTable.ts';
import { isWhole, noFurther } from './controls/limits.ts';
import { bodyOf, type PlanCase } from './terms/plan.ts';

/** What a set of moves together would make of the figures; null where nothing can be predicted. */
export type Forecaster = (moves: Moves) => Forecast | null;

/** How a round's moves change every measure of the near film. */
export function forecaster(c: PlanCase): Forecaster {
  const near = c.sides[0];
  if (!near) return () => null;
  const body = bodyOf(c);
  return (moves) =>
    forecastOf(preparedOnce(near.model), {
      measured: near.measures,
      fx: effectsOf(c.bike, moves),
      habits: c.habits,
      body,
    });
}

/** Whether a value lies in a band, its ends among it. */
export const inside = (value: number, band: { low: number | null; high: number | null }): boolean =>
  (band.low === null || value >= band.low) && (band.high === null || value <= band.high);

/** The measures that moves push out of a band in which they were. */
export function pushedOut(c: PlanCase, f: Forecast | null): MeasureKey[] {
  if (!f?.ok) return [];
  return f.measures.flatMap((m) => {
    const band = c.sides[0].measures.find((q) => q.key === m.key)?.band;
    return band && inside(m.before, band) && !inside(m.after, band) && Math.abs(m.after - m.before) > 0.05
      ? [m.key]
      : [];
  });
}

/** The measures that an earlier line brings into its band and that come out of it again. */
function undone(c: PlanCase, was: Forecast | null, f: Forecast | null): MeasureKey[] {
  if (!was?.ok || !f?.ok) return [];
  return f.measures.flatMap((m) => {
    const band = c.sides[0].measures.find((q) => q.key === m.key)?.band;
    const before = was.measures.find((q) => q.key === m.key)?.after;
    const back = before !== undefined && band && inside(before, band) && !inside(m.after, band);
    return back && !HABITS.includes(m.key) ? [m.key] : [];
  });
}

/** What of the front may go with a saddle that moves fore-aft, nearest first: a stem, or the bar a little up or down. */
const WITH_THE_SADDLE: readonly Moves[] = [
  { spacers: 5 },
  { spacers: -5 },
  { spacers: 10 },
  { spacers: -10 },
  { stemLength: -10 },
  { stemLength: 10 },
];

/**
 * A saddle's step fore-aft that would push arms or back out by itself, with the least of the front that keeps them in; null where nothing
 * on this bike does.
 */
export function withBuild(
  c: PlanCase,
  {
    before,
    moves,
    key,
    forecast,
  }: { before: Moves; moves: Moves; key: string; forecast: (m: Moves) => Forecast | null },
): Moves | null {
  if (key !== 'saddleBack') return null;
  for (const front of WITH_THE_SADDLE) {
    if (cannot(c.bike, both(before, front))) continue;
    // Spacers go under only where the steerer is known to stand above the stem.
    if ((front.spacers ?? 0) > (c.bike.stem.steererAboveMm ?? 0)) continue;
    const together = { ...moves, ...front };
    const was = forecast(before);
    const f = forecast(both(before, together));
    const stays =
      f?.ok && pushedOut(c, f).every((k) => pushedOut(c, was).includes(k)) && undone(c, was, f).length === 0;
    if (stays) return together;
  }
  return null;
}

/** As much of the moves as leaves every measure in its band that is in it; null where not even a first step does. */
export function harmless(
  c: PlanCase,
  before: Moves,
  moves: Moves,
  forecast: (m: Moves) => Forecast | null,
): Moves | null {
  const parts = (Object.keys(moves) as ControlKey[]).some(isWhole);
  const was = forecast(before);
  const already = pushedOut(c, was);
  const fits = (share: number): Moves | null => {
    const part = Object.fromEntries(
      (Object.entries(moves) as [ControlKey, number][]).map(([key, by]) => {
        // A part is taken whole, and what is coupled to it goes with it.
        if (parts) return [key, by];
        const { step, unit } = CONTROLS[key];
        const grid = unit === 'mm' && step <= 5 ? 1 : unit === '°' ? 0.5 : Math.abs(by);
        return [key, Math.sign(by) * grid * Math.max(1, Math.round((share * Math.abs(by)) / grid))];
      }),
    ) as Moves;
    const f = forecast(both(before, part));
    if (f && !f.ok) return null;
    const stays = pushedOut(c, f).every((key) => already.includes(key)) && undone(c, was, f).length === 0;
    return stays ? part : null;
  };
  for (const share of [1, 0.8, 0.6, 0.45, 0.3]) {
    const part = fits(share);
    if (part) return part;
  }
  // A habit of the foot may be pushed to its edge by a first step: it is reported, and watched, not obeyed.
  const first = parts ? moves : noFurther(moves, (key) => CONTROLS[key].step);
  const f = forecast(both(before, first));
  return f?.ok && pushedOut(c, f).every((key) => HABITS.includes(key)) ? first : null;
}
