/** Bounds of a target, either side open. */
export interface Band {
  low: number | null;
  high: number | null;
}

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
