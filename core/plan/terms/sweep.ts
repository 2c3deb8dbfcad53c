import { CONTROLS } from '../controls/controlTable.ts';
import { valueAt } from '../../bike/path.ts';
import type { BikeSetup } from '../../bike/setup.ts';
import type { Change } from './change.ts';
import type { Ridden } from '../../kinematics/ridden.ts';

/** A setting that was ridden: how it felt against the start of the sweep, and what was read on it. */
export interface SweepPoint {
  setting: number;
  /** Better counts one up, worse one down, from each setting to the next; 0 at the start. */
  felt: number;
  /** The rider said a word on it. */
  answered: boolean;
  ridden: Ridden | null;
}

/** How one setting was stepped through. */
export interface Sweep {
  /** Its place in the set-up: “saddle.heightMm”. */
  at: string;
  /** In the order they were ridden. */
  points: SweepPoint[];
  /** Lowest and highest setting that felt best. */
  plateau: { from: number; to: number } | null;
  /** The first setting beyond the plateau, on the way the sweep went, that felt worse; null while it has not turned. */
  turnsAt: number | null;
}

/** Places that a hand moves; what moves along with them is none. */
const HANDLED = new Set(Object.values(CONTROLS).map((c) => c.at));

/** Whether a change moved a place by hand: the setback that a saddle gains by going up was not stepped. */
const stepped = (c: Change, at: string): boolean =>
  c.values.some((v) => v.at === at && typeof v.from === 'number' && typeof v.to === 'number') &&
  HANDLED.has(at) &&
  !(at === 'saddle.setback80Mm' && c.values.some((v) => v.at === 'saddle.heightMm'));

/** Places in the set-up that were moved at least once, by how often. */
export function sweptPlaces(changes: readonly Change[]): string[] {
  const counts = new Map<string, number>();
  for (const c of changes)
    for (const v of c.values) if (stepped(c, v.at)) counts.set(v.at, (counts.get(v.at) ?? 0) + 1);
  return [...counts.keys()].sort((a, b) => counts.get(b)! - counts.get(a)!);
}

/**
 * One setting's step ladder out of the log (handbook: targets, steps and limits). A rider says better or worse
 * than just before, so the felt line adds words up along the way; a change put back takes its word with it.
 */
export function sweepOf(asFound: BikeSetup, changes: readonly Change[], at: string): Sweep {
  const start = valueAt(asFound, at);
  const points: SweepPoint[] = [];
  const own = changes.filter((c) => stepped(c, at));
  const first = own[0]?.values.find((v) => v.at === at)?.from;
  const begin = typeof first === 'number' ? first : typeof start === 'number' ? start : null;
  if (begin !== null) points.push({ setting: begin, felt: 0, answered: true, ridden: null });
  for (const c of own) {
    const { from, to } = c.values.find((v) => v.at === at)!;
    if (typeof to !== 'number' || typeof from !== 'number') continue;
    // The word is against the setting it was moved from, which need not be the point before: that one may have been put back.
    const base = points.findLast((p) => Math.abs(p.setting - from) < 1e-6)?.felt ?? 0;
    const by = c.word === 'better' ? 1 : c.word === 'worse' ? -1 : 0;
    points.push({ setting: to, felt: base + by, answered: c.word !== null, ridden: c.ridden });
  }
  const answeredPoints = points.filter((p) => p.answered);
  if (answeredPoints.length < 2) return { at, points, plateau: null, turnsAt: null };
  const best = Math.max(...answeredPoints.map((p) => p.felt));
  const on = answeredPoints.filter((p) => p.felt === best).map((p) => p.setting);
  const plateau = { from: Math.min(...on), to: Math.max(...on) };
  const way =
    Math.sign(answeredPoints.at(-1)!.setting - answeredPoints[0].setting) ||
    Math.sign(answeredPoints[1].setting - answeredPoints[0].setting);
  const beyond = answeredPoints
    .filter((p) => p.felt < best && (way > 0 ? p.setting > plateau.to : p.setting < plateau.from))
    .map((p) => p.setting);
  return {
    at,
    points,
    plateau,
    turnsAt: beyond.length ? (way > 0 ? Math.min(...beyond) : Math.max(...beyond)) : null,
  };
}

/**
 * What a figure was measured to be at each setting while the camera ran: before the first change of it, and after each.
 * @param at the setting, by its place in the set-up  @param key the figure
 */
export function measuredOver(
  changes: readonly Change[],
  at: string,
  key: string,
): { setting: number; value: number; uncertainty: number }[] {
  const points = new Map<number, { setting: number; value: number; uncertainty: number }>();
  for (const c of changes) {
    const figure = c.measured?.figures.find((f) => f.key === key);
    const v = c.values.find((q) => q.at === at);
    if (!figure || typeof v?.from !== 'number' || typeof v.to !== 'number') continue;
    const { before, after, uncertainty } = figure;
    if (!points.has(v.from)) points.set(v.from, { setting: v.from, value: before, uncertainty });
    points.set(v.to, { setting: v.to, value: after, uncertainty });
  }
  return [...points.values()].sort((a, b) => a.setting - b.setting);
}
