import { sub, type Vec2 } from './vec.ts';

export const DEG_PER_RAD = 180 / Math.PI;
export const RAD_PER_DEG = Math.PI / 180;

/**
 * The inside angle at a vertex between two limbs.
 * atan2 of cross and dot, since acos of a ratio loses digits near 0 and 180 degrees.
 * @param p end of the one limb  @param vertex the joint  @param q end of the other limb
 * @returns degrees, 0…180; NaN where a point is unseen
 */
export function insideAngleDeg(p: Vec2, vertex: Vec2, q: Vec2): number {
  const u = sub(p, vertex);
  const w = sub(q, vertex);
  return Math.atan2(Math.abs(u.x * w.y - u.y * w.x), u.x * w.x + u.y * w.y) * DEG_PER_RAD;
}

/**
 * Direction of a→b above the horizontal, in a plane whose y grows upward.
 * @returns degrees, −180…180
 */
export function elevationDeg(a: Vec2, b: Vec2): number {
  return Math.atan2(b.y - a.y, b.x - a.x) * DEG_PER_RAD;
}

/** An angle brought into 0 ≤ θ < 360 degrees. */
export function wrap360(deg: number): number {
  const r = deg % 360;
  return r < 0 ? r + 360 : r;
}

/** The signed difference a − b of two directions, −180 ≤ d < 180 degrees. */
export function turnDeg(a: number, b: number): number {
  return wrap360(a - b + 180) - 180;
}
