import type { Band } from '../../core/protocol/judge.ts';
import { hasConvention, type Convention } from './angleText';

/** A band of flexion in the studio's convention: for the inside angle its ends change places. */
export function bandQuoted(key: string, band: Band, convention: Convention): Band {
  if (convention === 'bend' || !hasConvention(key) || key.endsWith('Mm')) return band;
  return {
    low: band.high === null ? null : 180 - band.high,
    high: band.low === null ? null : 180 - band.low,
  };
}

/** “33 to 42°”, “at most 115°”. */
export function bandText(band: Band, unit: '°' | 'mm'): string {
  const u = unit === 'mm' ? ' mm' : '°';
  const n = (v: number): string => String(v).replace('-', '−');
  if (band.low !== null && band.high !== null) return `${n(band.low)} to ${n(band.high)}${u}`;
  return band.high !== null ? `at most ${n(band.high)}${u}` : `at least ${n(band.low ?? 0)}${u}`;
}
