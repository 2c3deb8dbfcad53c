import { median } from './statistics.ts';
import { solveSymmetric } from './solveSymmetric.ts';
import { distance, type Vec2 } from './vec.ts';

export interface Circle {
  centre: Vec2;
  radius: number;
  /** Root mean square distance of the points used from the circle, in the points' unit. */
  residual: number;
  /** How many points were used after outliers were left out. */
  used: number;
}

/**
 * Where two circles meet, choosing the meeting point to the left of the line from a to b.
 * @param a centre of the first circle, mm   @param ra its radius, mm
 * @param b centre of the second circle, mm  @param rb its radius, mm
 * @returns the point in mm, or null where the circles do not meet
 */
export function circleMeetLeft(a: Vec2, ra: number, b: Vec2, rb: number): Vec2 | null {
  const d = distance(a, b);
  if (d === 0 || d > ra + rb || d < Math.abs(ra - rb)) return null;
  const along = (d * d + ra * ra - rb * rb) / (2 * d);
  const aside = Math.sqrt(Math.max(0, ra * ra - along * along));
  const ux = (b.x - a.x) / d;
  const uy = (b.y - a.y) / d;
  return { x: a.x + along * ux - aside * uy, y: a.y + along * uy + aside * ux };
}

/** Algebraic start (Kåsa 1976): x² + y² + Dx + Ey + F = 0 by least squares about the centroid. */
function algebraicCircle(points: readonly Vec2[]): { centre: Vec2; radius: number } | null {
  const n = points.length;
  const mx = points.reduce((s, p) => s + p.x, 0) / n;
  const my = points.reduce((s, p) => s + p.y, 0) / n;
  let suu = 0;
  let suv = 0;
  let svv = 0;
  let suz = 0;
  let svz = 0;
  let sz = 0;
  for (const p of points) {
    const u = p.x - mx;
    const v = p.y - my;
    const z = u * u + v * v;
    suu += u * u;
    suv += u * v;
    svv += v * v;
    suz += u * z;
    svz += v * z;
    sz += z;
  }
  const det = suu * svv - suv * suv;
  if (!(Math.abs(det) > 1e-9 * (suu + svv) ** 2)) return null;
  const cu = (suz * svv - svz * suv) / (2 * det);
  const cv = (svz * suu - suz * suv) / (2 * det);
  return { centre: { x: mx + cu, y: my + cv }, radius: Math.sqrt(cu * cu + cv * cv + sz / n) };
}

/** A step of this share of the radius moves nothing any more. */
const STANDS = 1e-9;

/**
 * A circle through a noisy path: algebraic start, then Gauss–Newton on the geometric distance with Tukey weights,
 * so that a stretch of wrong points does not pull the centre.
 * @param points seen points, px or mm, at least three and not in line
 * @returns the circle, or null where the points do not make one
 */
export function fitCircle(points: readonly Vec2[]): Circle | null {
  if (points.length < 3) return null;
  const start = algebraicCircle(points);
  if (!start) return null;
  let { centre, radius } = start;
  let weights = points.map(() => 1);
  for (let round = 0; round < 30; round += 1) {
    // Normal equations of the three unknowns (centre x, centre y, radius), each point with its weight.
    let [xx, xy, yy, x1, y1, n, bx, by, b1] = [0, 0, 0, 0, 0, 0, 0, 0, 0];
    for (let i = 0; i < points.length; i += 1) {
      const w = weights[i];
      const d = distance(points[i], centre) || 1e-9;
      const ux = (points[i].x - centre.x) / d;
      const uy = (points[i].y - centre.y) / d;
      const miss = d - radius;
      xx += w * ux * ux;
      xy += w * ux * uy;
      yy += w * uy * uy;
      x1 += w * ux;
      y1 += w * uy;
      n += w;
      bx += w * ux * miss;
      by += w * uy * miss;
      b1 += w * miss;
    }
    const a = [
      [xx, xy, x1],
      [xy, yy, y1],
      [x1, y1, n],
    ];
    const b = [bx, by, b1];
    const step = solveSymmetric(a, b);
    if (!step) return null;
    const [dx, dy, dr] = step;
    centre = { x: centre.x + dx, y: centre.y + dy };
    radius += dr;
    const misses = points.map((p) => Math.abs(distance(p, centre) - radius));
    const scale = Math.max(1e-6, 1.4826 * median(misses));
    weights = misses.map((miss) => {
      const u = miss / (4.685 * scale);
      return u < 1 ? (1 - u * u) ** 2 : 0;
    });
    if (Math.hypot(dx, dy, dr) < STANDS * radius) break;
  }
  let sum = 0;
  let used = 0;
  points.forEach((p, i) => {
    if (weights[i] === 0) return;
    sum += (distance(p, centre) - radius) ** 2;
    used += 1;
  });
  return used >= 3 ? { centre, radius, residual: Math.sqrt(sum / used), used } : null;
}
