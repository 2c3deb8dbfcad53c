import { distance, type ImagePoint } from '../math/vec.ts';

/** Points on a photo of the impression, px: both ends of a known length on the ruler, and the two dents' deepest places. */
export interface ImpressionPoints {
  rulerFrom: ImagePoint;
  rulerTo: ImagePoint;
  dentLeft: ImagePoint;
  dentRight: ImagePoint;
}

export type ImpressionResult =
  | { ok: true; spacingMm: number; mmPerPx: number; uncertaintyMm: number }
  | { ok: false; reason: 'ruler-too-short' | 'ruler-missing' | 'not-sit-bones' };

/** A finger or a mouse points to within about this, px. */
const POINTING_PX = 2;

/**
 * Sit-bone spacing from a photo of the impression with a ruler lying in the same plane.
 * @param rulerMm the length between the two points on the ruler
 * @returns the spacing and its 95 % uncertainty from pointing (each end ± 2 px, standard), mm
 */
export function spacingFromPhoto(p: ImpressionPoints, rulerMm: number): ImpressionResult {
  const rulerPx = distance(p.rulerFrom, p.rulerTo);
  const dentsPx = distance(p.dentLeft, p.dentRight);
  if (!(rulerMm > 0)) return { ok: false, reason: 'ruler-missing' };
  if (!(rulerPx > 30)) return { ok: false, reason: 'ruler-too-short' };
  const mmPerPx = rulerMm / rulerPx;
  const spacingMm = dentsPx * mmPerPx;
  if (spacingMm < 60 || spacingMm > 220) return { ok: false, reason: 'not-sit-bones' };
  // Both lengths have two pointed ends: relative errors add in quadrature.
  const relative = Math.SQRT2 * POINTING_PX * Math.hypot(1 / rulerPx, 1 / dentsPx);
  return { ok: true, spacingMm, mmPerPx, uncertaintyMm: 1.96 * spacingMm * relative };
}
