import { RAD_PER_DEG } from '../math/angles.ts';
import type { BikeSetup } from '../bike/setup.ts';
import { distance, type ImagePoint } from '../math/vec.ts';

/** What is as wide as was measured. */
export type WidthOf = 'bar' | 'hub' | 'pedals';

/** Two points of a film from the front or the rear that lie a known width apart, level, across the bike. */
export interface WidthReference {
  of: WidthOf;
  mm: number | null;
  /** Image pixels; `right` is on the rider's right. */
  right: ImagePoint | null;
  left: ImagePoint | null;
}

/** Where it lies ahead of the bottom bracket, mm: from the bike where it is known, else as on a middling one. */
export function aheadOf(of: WidthOf, view: 'front' | 'rear', bike: BikeSetup): number {
  const { frame, stem } = bike;
  if (of === 'pedals') return 0;
  if (of === 'hub') return view === 'front' ? (frame.frontCentreMm ?? 600) : -(frame.chainstayMm ?? 410);
  return (frame.reachMm ?? 385) + (stem.lengthMm ?? 90);
}

export const NO_WIDTH: WidthReference = { of: 'bar', mm: null, right: null, left: null };

export interface FrontalScale {
  mmPerPx: number;
  /** The picture's tilt: how far the reference falls towards the picture's right, degrees; taken out. */
  tiltDeg: number;
}

/**
 * Scale and tilt from a width across the bike. It holds at the reference's own distance from the camera: the crank, seen as the
 * feet's rise and fall, brings it to the rider's (see `readFrontal`).
 */
export function scaleFromWidth(
  w: WidthReference,
):
  | ({ ok: true } & FrontalScale)
  | { ok: false; reason: 'points-missing' | 'points-coincide' | 'width-missing' } {
  if (!w.right || !w.left) return { ok: false, reason: 'points-missing' };
  const spanPx = distance(w.right, w.left);
  if (!(spanPx > 10)) return { ok: false, reason: 'points-coincide' };
  if (!(w.mm && w.mm > 0)) return { ok: false, reason: 'width-missing' };
  const [a, b] = w.right.x < w.left.x ? [w.right, w.left] : [w.left, w.right];
  return { ok: true, mmPerPx: w.mm / spanPx, tiltDeg: Math.atan2(b.y - a.y, b.x - a.x) / RAD_PER_DEG };
}
