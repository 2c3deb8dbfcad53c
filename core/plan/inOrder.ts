import type { Forecast, PredictedMeasure } from '../model/forecast.ts';
import { callsForChange } from '../protocol/protocols.ts';
import { both, type Moves } from './controls/controls.ts';
import type { Stage } from './controls/controlTable.ts';
import { inside } from './harm.ts';
import type { PlanCase, PlanLine } from './terms/plan.ts';

/** From the ground up, as a fitter works. */
export const STAGES: readonly Stage[] = ['feet', 'saddle', 'cockpit'];

/** The measures that a line moves, worked out from what the lines before it leave. */
export function movedBy(was: Forecast | null, f: Forecast): PredictedMeasure[] {
  if (!f.ok || !was?.ok) return [];
  return f.measures
    .map((m) => ({ ...m, before: was.measures.find((q) => q.key === m.key)?.after ?? m.before }))
    .filter((m) => Math.abs(m.after - m.before) > (m.key.endsWith('Mm') ? 0.5 : 0.15));
}

/**
 * The lines in the order in which they are done, each worked out from what the ones before it leave. By stage, as a fitter works; where a line
 * would so push something out that another line makes room for, in the order in which room is made.
 */
export function inOrder(
  c: PlanCase,
  lines: readonly PlanLine[],
  forecast: (moves: Moves) => Forecast | null,
): PlanLine[] {
  const tell = (list: readonly PlanLine[]): PlanLine[] => {
    let done: Moves = {};
    return list.map((l) => {
      const was = forecast(done);
      done = both(done, l.moves);
      const f = forecast(done);
      return { ...l, forecast: f, predicted: f ? movedBy(was, f) : [] };
    });
  };
  const pushes = (l: PlanLine): boolean =>
    l.predicted.some((m) => {
      const band = c.sides[0]?.measures.find((q) => q.key === m.key)?.band;
      return band && callsForChange(m.key) && inside(m.before, band) && !inside(m.after, band);
    });
  const byStage = tell(ranked([...lines], c.order));
  return c.order.length > 0 || !byStage.some(pushes) ? byStage : tell(lines);
}

/** The fitter's own order first, else from the foundation upwards. */
function ranked(lines: readonly PlanLine[], order: readonly string[]): PlanLine[] {
  const rank = (l: PlanLine): number => {
    const own = order.indexOf(l.key);
    return own >= 0 ? own : 100 + 10 * Number(l.when === 'try') + STAGES.indexOf(l.stage);
  };
  // Sorting is stable: of one stage the order of worth stays.
  return [...lines].sort((a, b) => rank(a) - rank(b));
}
