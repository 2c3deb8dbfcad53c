import { normalCdf } from '../math/normal.ts';

/** Bounds of a target, either side open. */
export interface Band {
  low: number | null;
  high: number | null;
}

/** How far a value lies beyond its band, 0 inside; with an inset, beyond a band that much narrower at either end. */
export const beyondBand = (value: number, { low, high }: Band, inset = 0): number =>
  Math.max(0, low === null ? 0 : low + inset - value, high === null ? 0 : value - (high - inset));

/** How probable it is that the true value lies under the band, and over it. */
export interface OutOfBand {
  low: number;
  high: number;
}

/**
 * P(the true value lies outside its band), from the figure and its doubt.
 * @param uncertainty 95 % half-width of the value itself, the value's unit
 */
export function outOfBand(value: number, uncertainty: number, { low, high }: Band): OutOfBand {
  const sd = Math.max(1e-9, uncertainty / 1.96);
  return {
    low: low === null ? 0 : normalCdf((low - value) / sd),
    high: high === null ? 0 : normalCdf((value - high) / sd),
  };
}

/** From which probability on a measure is called so (handbook: measuring, uncertainty). */
const SURE = { out: 0.8, likely: 0.5, edge: 0.2 } as const;

/** Where a true value probably lies: out, likely out, at the edge, in. */
export type Verdict = 'in' | 'edge-low' | 'edge-high' | 'likely-low' | 'likely-high' | 'low' | 'high';

/**
 * Judges a value against its band by how probable it is that the true one lies outside.
 * @param uncertainty 95 % half-width, the value's unit
 */
export function judge(value: number, uncertainty: number, band: Band): Verdict {
  const p = outOfBand(value, uncertainty, band);
  const side = p.high >= p.low ? 'high' : 'low';
  const most = p[side];
  if (most >= SURE.out) return side;
  if (most >= SURE.likely) return `likely-${side}`;
  return most >= SURE.edge ? `edge-${side}` : 'in';
}

/** Rather outside than in. */
export const isOut = (v: Verdict): boolean => isLow(v) || isHigh(v);
export const isLow = (v: Verdict): boolean => v === 'low' || v === 'likely-low';
const isHigh = (v: Verdict): boolean => v === 'high' || v === 'likely-high';
