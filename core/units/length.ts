/** The units a studio may show lengths in. Everything is stored in millimetres. */
export type LengthUnit = 'mm' | 'cm' | 'in';

export type Parsed = { ok: true; value: number } | { ok: false; message: string };

const MM: Record<string, number> = {
  mm: 1,
  cm: 10,
  m: 1000,
  in: 25.4,
  inch: 25.4,
  inches: 25.4,
  '"': 25.4,
  '”': 25.4,
  '″': 25.4,
  ft: 304.8,
  foot: 304.8,
  feet: 304.8,
  "'": 304.8,
  '’': 304.8,
  '′': 304.8,
};

const HOW = 'Type a length as 803, 80.3 cm, 31 1/2 in or 5′ 8″.';

/** A plain number, a fraction, or a whole number with a fraction: “803”, “-4,5”, “5/8”, “31 1/2”. */
const NUMBER = String.raw`[-+−]?\d+(?:[.,]\d+)?(?:\s+\d+\s*\/\s*\d+|\s*\/\s*\d+)?|[-+−]?[.,]\d+`;
const PART = new RegExp(String.raw`^\s*(${NUMBER})\s*([a-z]+|["”″'’′])?`, 'i');

function numberOf(text: string): number {
  const plain = text.replace('−', '-').replace(',', '.').trim();
  const mixed = /^([-+]?\d+(?:\.\d+)?)\s+(\d+)\s*\/\s*(\d+)$/.exec(plain);
  if (mixed) {
    const whole = Number(mixed[1]);
    const part = Number(mixed[2]) / Number(mixed[3]);
    return whole < 0 || Object.is(whole, -0) ? whole - part : whole + part;
  }
  const fraction = /^([-+]?\d+)\s*\/\s*(\d+)$/.exec(plain);
  return fraction ? Number(fraction[1]) / Number(fraction[2]) : Number(plain);
}

/**
 * Reads a length as a fitter writes it. Without a unit the studio's own is meant; several parts add up (5′ 8″).
 * @param text what was typed  @param unit the studio's unit
 * @returns millimetres, or a sentence on what to type
 */
export function parseLength(text: string, unit: LengthUnit): Parsed {
  let rest = text.trim();
  if (rest === '') return { ok: false, message: HOW };
  let mm = 0;
  let parts = 0;
  let lastSize = Infinity;
  let negative = false;
  while (rest !== '') {
    const found = PART.exec(rest);
    if (!found) return { ok: false, message: `“${text.trim()}” is not a length. ${HOW}` };
    const named = found[2]?.toLowerCase();
    // “5′ 8” means inches after feet.
    const size = named === undefined ? (parts > 0 && lastSize === 304.8 ? 25.4 : MM[unit]) : MM[named];
    if (size === undefined)
      return { ok: false, message: `“${found[2]}” is not a unit of length known here. ${HOW}` };
    const n = numberOf(found[1]);
    if (!Number.isFinite(n) || (parts > 0 && (size >= lastSize || n < 0)))
      return { ok: false, message: `“${text.trim()}” is not a length. ${HOW}` };
    if (parts === 0) negative = found[1].trim().startsWith('-') || found[1].trim().startsWith('−');
    mm += parts > 0 && negative ? -n * size : n * size;
    lastSize = size;
    parts += 1;
    rest = rest.slice(found[0].length).trim();
  }
  return { ok: true, value: mm };
}

/**
 * A stored length in the studio's unit, without the unit's name: whole tenths of a millimetre are kept, inches get two decimals.
 * @param mm millimetres
 */
export function lengthText(mm: number, unit: LengthUnit): string {
  const shown = unit === 'in' ? (mm / 25.4).toFixed(2) : unit === 'cm' ? (mm / 10).toFixed(2) : mm.toFixed(1);
  return shown
    .replace(/\.?0+$/, '')
    .replace(/^-0$/, '0')
    .replace('-', '−');
}

/** The same with the unit's name: “735 mm”, “28.94 in”. */
export const lengthWithUnit = (mm: number, unit: LengthUnit): string => `${lengthText(mm, unit)} ${unit}`;

/** One length in a sentence, or two of them: “12 mm”, “5–10 mm”, “0 to 8 mm”, “± 3 mm”. */
const IN_A_SENTENCE = /\d+(?:\.\d+)?(?:(?:\s?–\s?| to | or | and )[+−-]?\d+(?:\.\d+)?)? mm\b/g;

/** A sentence whose lengths are in millimetres, with all of them in the studio's unit. */
export function sentenceIn(text: string, unit: LengthUnit): string {
  if (unit === 'mm') return text;
  return text.replace(IN_A_SENTENCE, (lengths) =>
    lengths.replace(/\d+(?:\.\d+)?/g, (mm) => lengthText(Number(mm), unit)).replace(/mm$/, unit),
  );
}

/** The same for every text of a value made of plain objects and lists: a plan, a suspect, a caution. */
export function wordsIn<T>(value: T, unit: LengthUnit): T {
  if (unit === 'mm') return value;
  if (typeof value === 'string') return sentenceIn(value, unit) as T;
  if (Array.isArray(value)) return value.map((v: unknown) => wordsIn(v, unit)) as T;
  if (value === null || typeof value !== 'object' || Object.getPrototypeOf(value) !== Object.prototype)
    return value;
  return Object.fromEntries(Object.entries(value).map(([key, v]) => [key, wordsIn(v as unknown, unit)])) as T;
}
