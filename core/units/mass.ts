import type { Parsed } from './length.ts';

/** The units a studio may show masses in. Everything is stored in kilograms. */
export type MassUnit = 'kg' | 'lb';

const KG: Record<string, number> = { kg: 1, lb: 0.45359237, lbs: 0.45359237, st: 6.35029318 };

/** Reads a mass: “72”, “72.5 kg”, “160 lb”, “11 st 6 lb”. @returns kilograms, or a sentence on what to type */
export function parseMass(text: string, unit: MassUnit): Parsed {
  const parts = [...text.matchAll(/(\d+(?:[.,]\d+)?)\s*([a-z]+)?\s*/gi)];
  const read = parts.map((p) => p[0]).join('');
  const kg = parts.reduce(
    (sum, p) => sum + Number(p[1].replace(',', '.')) * (p[2] ? KG[p[2].toLowerCase()] : KG[unit]),
    0,
  );
  return parts.length > 0 && read.length === text.trimStart().length && Number.isFinite(kg)
    ? { ok: true, value: kg }
    : { ok: false, message: 'Type a mass as 72, 72.5 kg, 160 lb or 11 st 6 lb.' };
}

/** A stored mass in the studio's unit, without the unit's name. */
export const massText = (kg: number, unit: MassUnit): string =>
  (unit === 'lb' ? kg / KG.lb : kg).toFixed(1).replace(/\.0$/, '');
