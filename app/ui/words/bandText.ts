import type { Band } from '../../../core/protocol/judge.ts';
/** “33 to 42°”, “at most 115°”. */
export function bandText(band: Band, unit: '°' | 'mm'): string {
  const u = unit === 'mm' ? ' mm' : '°';
  const n = (v: number): string => String(v).replace('-', '−');
  if (band.low !== null && band.high !== null) return `${n(band.low)} to ${n(band.high)}${u}`;
  return band.high !== null ? `at most ${n(band.high)}${u}` : `at least ${n(band.low ?? 0)}${u}`;
}
