import { median } from './statistics.ts';
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
    // Normal equations of the three unknowns (centre x, centre y, radius).
    let a11 = 0;
    let a12 = 0;
    let a13 = 0;
    let a22 = 0;
    let a23 = 0;
    let a33 = 0;
    let b1 = 0;
    let b2 = 0;
    let b3 = 0;
    points.forEach((p, i) => {
      const d = distance(p, centre) || 1e-9;
      const cx = (p.x - centre.x) / d;
      const cy = (p.y - centre.y) / d;
      const r = d - radius;
      const w = weights[i];
      a11 += w * cx * cx;
      a12 += w * cx * cy;
      a13 += w * cx;
      a22 += w * cy * cy;
      a23 += w * cy;
      a33 += w;
      b1 += w * cx * r;
      b2 += w * cy * r;
      b3 += w * r;
    });
    const det = a11 * (a22 * a33 - a23 * a23) - a12 * (a12 * a33 - a23 * a13) + a13 * (a12 * a23 - a22 * a13);
    if (!(Math.abs(det) > 1e-12)) return null;
    const dx =
      (b1 * (a22 * a33 - a23 * a23) - a12 * (b2 * a33 - a23 * b3) + a13 * (b2 * a23 - a22 * b3)) / det;
    const dy =
      (a11 * (b2 * a33 - b3 * a23) - b1 * (a12 * a33 - a23 * a13) + a13 * (a12 * b3 - b2 * a13)) / det;
    const dr =
      (a11 * (a22 * b3 - a23 * b2) - a12 * (a12 * b3 - b2 * a13) + b1 * (a12 * a23 - a22 * a13)) / det;
    centre = { x: centre.x + dx, y: centre.y + dy };
    radius += dr;
    const scale = Math.max(1e-6, 1.4826 * median(points.map((p) => Math.abs(distance(p, centre) - radius))));
    weights = points.map((p) => {
      const u = (distance(p, centre) - radius) / (4.685 * scale);
      return Math.abs(u) < 1 ? (1 - u * u) ** 2 : 0;
    });
    if (Math.hypot(dx, dy, dr) < 1e-9 * radius) break;
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
