import type { BikeSetup, FootSetup } from './setup.ts';

/** One washer between crank and pedal. */
export const WASHER_MM = 1.5;

/**
 * From the bike's middle to the middle of the foot: half the Q factor, the pedal's axle, a washer, less the cleat's offset:
 * the cleat towards the little toe brings the foot in (handbook: rules, stance arithmetic).
 * @returns mm, or null while Q factor, axle or cleat are not measured
 */
export function stanceSideMm(bike: BikeSetup, foot: FootSetup): number | null {
  const { qFactorMm } = bike.crank;
  const { axleLengthMm } = bike.pedals;
  if (qFactorMm === null || axleLengthMm === null || foot.cleatOutwardMm === null) return null;
  return qFactorMm / 2 + axleLengthMm + foot.washers * WASHER_MM - foot.cleatOutwardMm;
}
