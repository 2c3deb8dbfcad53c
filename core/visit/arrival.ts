import type { PlanePoint } from '../math/vec.ts';
import type { Effects } from '../model/effects.ts';
import { ANGLE_KEYS } from '../kinematics/angles.ts';
import type { Reading } from '../kinematics/read.ts';
import { SITS_ELSEWHERE_MM } from '../kinematics/uncertainty.ts';

/** What a second film says of a change that is on the log. */
export type Arrival =
  | { kind: 'arrived' }
  /** Too small to be seen beside how one sits from ride to ride. */
  | { kind: 'unseen' }
  | { kind: 'same-film' }
  /** The log has the rider moved by so much, the film by so much, mm along the way that was moved. */
  | { kind: 'contradicted'; loggedMm: number; seenMm: number };

/** Two readings are of one film when every frame of them agrees closer than any two rides do, degrees. */
const SAME_FILM_DEG = 0.02;

/** Whether two readings are of one and the same film: the same frames with the same angles. */
export function isSameFilm(a: Reading, b: Reading): boolean {
  if (a === b) return true;
  if (a.tS.length !== b.tS.length) return false;
  let [seen, off] = [0, 0];
  for (const key of ANGLE_KEYS) {
    const [p, q] = [a.frameAnglesDeg[key], b.frameAnglesDeg[key]];
    for (let i = 0; p && q && i < p.length; i += 1) {
      if (!Number.isFinite(p[i]) || !Number.isFinite(q[i])) continue;
      seen += 1;
      off = Math.max(off, Math.abs(p[i] - q[i]));
    }
  }
  return seen > 0 && off < SAME_FILM_DEG;
}

/**
 * Whether what was moved at the saddle is seen at the hip of the second film. Only from films that show a change arriving is learned how
 * a rider answers one.
 */
export function arrivalOf(before: Reading, after: Reading, fx: Effects): Arrival {
  if (isSameFilm(before, after)) return { kind: 'same-film' };
  const logged = Math.hypot(fx.sitMm.x, fx.sitMm.y);
  const hipSeen = [before, after].every((r) => !r.standIns.includes('hip'));
  if (logged < 1 || !hipSeen) return { kind: 'unseen' };
  const way: PlanePoint = { x: fx.sitMm.x / logged, y: fx.sitMm.y / logged };
  const seen =
    way.x * (after.hipCurveMm.x.mean - before.hipCurveMm.x.mean) +
    way.y * (after.hipCurveMm.y.mean - before.hipCurveMm.y.mean);
  // Two rides: each sits elsewhere by its own.
  const sd = Math.SQRT2 * Math.hypot(way.x * SITS_ELSEWHERE_MM.foreAft, way.y * SITS_ELSEWHERE_MM.upDown);
  // Not seen at all is likelier than arrived where it lies nearer to nothing, and too far from what is logged.
  if (logged - seen > 1.96 * sd && Math.abs(seen) < logged / 2)
    return { kind: 'contradicted', loggedMm: logged, seenMm: seen };
  return logged > 1.96 * sd ? { kind: 'arrived' } : { kind: 'unseen' };
}
