import type { Band, Verdict } from './judge.ts';
import { MEASURE_NAMES, type MeasureKey } from './protocols.ts';

/** How knee and elbow are quoted: 0° straight (bend), or 180° straight (inside). */
export type Convention = 'bend' | 'inside';

/** Only knee and elbow have the two conventions; all others are quoted as defined. */
export const hasConvention = (key: string): boolean =>
  (key.startsWith('knee') || key.startsWith('elbow')) && !key.endsWith('Mm');

const turns = (key: string, convention: Convention): boolean => convention === 'inside' && hasConvention(key);

/** A flexion in the convention: bend (0 straight) or the inside angle (180 straight). */
export const quoted = (key: string, flexionDeg: number, convention: Convention): number =>
  turns(key, convention) ? 180 - flexionDeg : flexionDeg;

/** Which way the figure goes as it is quoted when the angle grows: the inside angle of a joint shrinks as it bends. */
export const quotedWay = (key: string, convention: Convention): 1 | -1 => (turns(key, convention) ? -1 : 1);

/** The convention's name beside a figure that has one. */
export const conventionWord = (key: string, convention: Convention): string =>
  hasConvention(key) ? (convention === 'inside' ? 'inside' : 'bend') : '';

/** A band in the convention: its ends change places with the angle. */
export const quotedBand = (key: string, { low, high }: Band, convention: Convention): Band =>
  turns(key, convention)
    ? { low: high === null ? null : 180 - high, high: low === null ? null : 180 - low }
    : { low, high };

/** On which side of its band a figure stands, as it is quoted: more bend is less inside angle. */
export function quotedVerdict(key: string, verdict: Verdict, convention: Convention): Verdict {
  if (!turns(key, convention) || verdict === 'in') return verdict;
  return (
    verdict.endsWith('low') ? verdict.replace('low', 'high') : verdict.replace('high', 'low')
  ) as Verdict;
}

export const VERDICT_WORDS: Record<Verdict, string> = {
  in: 'in band',
  'edge-low': 'at the lower edge',
  'edge-high': 'at the upper edge',
  'likely-low': 'likely below the band',
  'likely-high': 'likely above the band',
  low: 'below the band',
  high: 'above the band',
};

/** A verdict in words that agree with the figure beside it. */
export const verdictWords = (key: string, verdict: Verdict, convention: Convention): string =>
  VERDICT_WORDS[quotedVerdict(key, verdict, convention)];

const number = (v: number): string => String(Math.round(v)).replace('-', '−').replace(/^−0$/, '0');
const withUnit = (key: string, v: number): string => `${number(v)}${key.endsWith('Mm') ? ' mm' : '°'}`;

/** A measure's name in the convention: an elbow's bend is not its inside angle. */
export const measureName = (key: MeasureKey, convention: Convention): string =>
  turns(key, convention) ? MEASURE_NAMES[key].replace(/ bend$/, ', inside') : MEASURE_NAMES[key];

/** “knee at its straightest 43°, 33 to 42° wanted”, in the convention. */
export function measureText(
  m: { key: MeasureKey; value: number; band: Band },
  convention: Convention = 'bend',
): string {
  const { low, high } = quotedBand(m.key, m.band, convention);
  const name = measureName(m.key, convention).toLowerCase();
  const inside = turns(m.key, convention) && !name.endsWith('inside') ? ' inside' : '';
  const band =
    low !== null && high !== null
      ? `, ${number(low)} to ${withUnit(m.key, high)} wanted`
      : low !== null
        ? `, ${withUnit(m.key, low)} or more wanted`
        : high !== null
          ? `, ${withUnit(m.key, high)} or less wanted`
          : '';
  return `${name} ${withUnit(m.key, quoted(m.key, m.value, convention))}${inside}${band}`;
}
