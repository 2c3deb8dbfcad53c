/** Bounds of a target, either side open. */
export interface Band {
  low: number | null;
  high: number | null;
}

/** How far a value lies beyond its band, 0 inside; with an inset, beyond a band that much narrower at either end. */
export const beyondBand = (value: number, { low, high }: Band, inset = 0): number =>
  Math.max(0, low === null ? 0 : low + inset - value, high === null ? 0 : value - (high - inset));

/** Where a value lies: outside by less than its uncertainty is at the edge, not out. */
export type Verdict = 'in' | 'edge-low' | 'edge-high' | 'low' | 'high';

/**
 * Judges a value against its band.
 * @param uncertainty 95 % half-width, the value's unit
 */
export function judge(value: number, uncertainty: number, band: Band): Verdict {
  if (band.high !== null && value > band.high) return value - band.high > uncertainty ? 'high' : 'edge-high';
  if (band.low !== null && value < band.low) return band.low - value > uncertainty ? 'low' : 'edge-low';
  return 'in';
}
