import Papa from 'papaparse';
import { wrap360 } from '../math/angles.ts';
import { ANGLE_KEYS, OPTIONAL_ANGLE_KEYS, type AngleKey, type AnyAngleKey } from '../kinematics/angles.ts';
import type { FrontalReading } from '../kinematics/frontalReading.ts';
import { curveOverStrokes, GRID_DEG } from '../kinematics/curves.ts';
import type { Reading } from '../kinematics/read.ts';
import { DECIMAL, openTable } from './table.ts';

const columnOf = (key: AnyAngleKey): string =>
  `${key.replace(/Deg$/, '').replace(/[A-Z]/g, (c) => `_${c.toLowerCase()}`)}_deg`;

/** Every frame of every counted stroke: `stroke,theta_deg,knee_flexion_deg,…` (strokes from 1, degrees to a thousandth). */
export function writeAnglesCsv(reading: Reading): string {
  const keys = Object.keys(reading.frameAnglesDeg) as AnyAngleKey[];
  const used = reading.strokes.filter((s) => !s.fault);
  const data: string[][] = [];
  reading.tS.forEach((t, i) => {
    const stroke = used.findIndex((s) => t >= s.startS && t < s.endS);
    if (stroke < 0 || !Number.isFinite(reading.thetaDeg[i])) return;
    data.push([
      `${stroke + 1}`,
      wrap360(reading.thetaDeg[i]).toFixed(3),
      ...keys.map((key) => {
        const v = reading.frameAnglesDeg[key]![i];
        return Number.isFinite(v) ? v.toFixed(3) : '';
      }),
    ]);
  });
  return `${Papa.unparse({ fields: ['stroke', 'theta_deg', ...keys.map(columnOf)], data }, { newline: '\n' })}\n`;
}

/** What a table of angles or curves says, to be compared with a reading. */
export type ParsedCurves<Key extends string> =
  | { ok: true; strokes: number; curves: Partial<Record<Key, number[]>>; ends: Partial<Record<Key, Ends>> }
  | { ok: false; message: string };
/** A curve's lowest and highest value. */
interface Ends {
  min: number;
  max: number;
}

/** Fewer frames than this say nothing of a curve's shape. */
const LEAST_ROWS = 24;
const ALL_ANGLES: readonly AnyAngleKey[] = [...ANGLE_KEYS, ...OPTIONAL_ANGLE_KEYS];

/**
 * Reads a table of angles as `writeAnglesCsv` writes it: strokes one after another, from 1.
 * @returns the mean curve of each angle on GRID_DEG, made as a reading makes it; an angle whose cells are empty is left out
 */
export function parseAnglesCsv(text: string): ParsedCurves<AnyAngleKey> {
  const fail = (message: string): ParsedCurves<AnyAngleKey> => ({ ok: false, message });
  const table = openTable(text);
  if (!table.ok) return table;
  const { names, rows, at } = table;
  for (const name of ['stroke', 'theta_deg'])
    if (!names.includes(name)) return fail(`Row 1, column ${name}: the column is missing.`);
  const keys = ALL_ANGLES.filter((key) => names.includes(columnOf(key)));
  if (keys.length === 0) return fail(`Row 1: no column of an angle, such as ${columnOf('kneeFlexionDeg')}.`);
  const stroke: number[] = [];
  const theta: number[] = [];
  const values = new Map(keys.map((key) => [key, [] as number[]]));
  for (let r = 0; r < rows.length; r += 1) {
    const where = (name: string): string => `Row ${r + 2}, column ${name}`;
    const s = at(r, 'stroke');
    const before = stroke.at(-1) ?? 0;
    if (!/^\d{1,6}$/.test(s) || Number(s) < 1)
      return fail(`${where('stroke')}: “${s.slice(0, 40)}” is no stroke’s number.`);
    if (Number(s) !== before && Number(s) !== before + 1)
      return fail(`${where('stroke')}: ${s} follows ${before}: strokes stand one after another, from 1.`);
    const t = at(r, 'theta_deg');
    if (!DECIMAL.test(t) || Number(t) < 0 || Number(t) > 360)
      return fail(`${where('theta_deg')}: “${t.slice(0, 40)}” is no crank angle from 0 to 360.`);
    stroke.push(Number(s));
    theta.push(Number(t));
    for (const key of keys) {
      const cell = at(r, columnOf(key));
      if (cell !== '' && !(DECIMAL.test(cell) && Math.abs(Number(cell)) <= 360))
        return fail(`${where(columnOf(key))}: “${cell.slice(0, 40)}” is no angle.`);
      values.get(key)!.push(cell === '' ? NaN : Number(cell));
    }
  }
  if (rows.length < LEAST_ROWS)
    return fail(`The table has ${rows.length} rows under its header: a curve takes ${LEAST_ROWS} or more.`);
  const strokeOf = stroke.map((s) => s - 1);
  const curves: Partial<Record<AnyAngleKey, number[]>> = {};
  const ends: Partial<Record<AnyAngleKey, Ends>> = {};
  for (const key of keys) {
    const v = values.get(key)!;
    if (!v.some(Number.isFinite)) continue;
    const { meanOnGrid, min, max } = curveOverStrokes({
      thetaDeg: theta,
      strokeOf,
      raw: v,
      smooth: v,
      used: [],
    });
    curves[key] = meanOnGrid;
    ends[key] = { min, max };
  }
  return { ok: true, strokes: stroke.at(-1)!, curves, ends };
}

export interface AngleSummary {
  min: number;
  max: number;
  minAtThetaDeg: number;
  maxAtThetaDeg: number;
  at: Record<'0' | '90' | '180' | '270', number>;
  strokeSdDeg: number;
  uncertaintyDeg: number;
}

export interface Summary {
  strokes: number;
  cadenceRpm: number;
  crank: { centreXPx: number; centreYPx: number; radiusPx: number; residualPx: number };
  /** Those whose landmarks were seen; a distance that was not told is null. */
  angles: Partial<Record<AngleKey, AngleSummary>>;
  kneeOverSpindleMm: number | null;
  hipTravelMm: { vertical: number; foreAft: number } | null;
}

/** What a reading says, as plain figures for files and for the command line. */
export function summarise(reading: Reading): Summary {
  const r = (v: number): number => Number(v.toFixed(4));
  const { kneeOverSpindleMm: knee, hipTravelMm: hip } = reading.body;
  return {
    strokes: reading.usedStrokes,
    cadenceRpm: r(reading.cadenceRpm),
    crank: {
      centreXPx: r(reading.crank.centrePx.x),
      centreYPx: r(reading.crank.centrePx.y),
      radiusPx: r(reading.crank.radiusPx),
      residualPx: r(reading.crank.residualPx),
    },
    angles: Object.fromEntries(
      ANGLE_KEYS.flatMap((key) => {
        const a = reading.angles[key];
        if (!a) return [];
        return [
          [
            key,
            {
              min: r(a.min),
              max: r(a.max),
              minAtThetaDeg: r(a.minAtThetaDeg),
              maxAtThetaDeg: r(a.maxAtThetaDeg),
              at: { '0': r(a.at['0']), '90': r(a.at['90']), '180': r(a.at['180']), '270': r(a.at['270']) },
              strokeSdDeg: r(a.strokeSdDeg),
              uncertaintyDeg: r(a.uncertainty.absoluteDeg),
            },
          ],
        ];
      }),
    ),
    kneeOverSpindleMm: knee && r(knee.value),
    hipTravelMm: hip && { vertical: r(hip.vertical.value), foreAft: r(hip.foreAft.value) },
  };
}

/** Columns of the curves from the front or the rear. */
const FRONTAL_COLUMNS = [
  'knee_left_mm',
  'knee_right_mm',
  'knee_over_foot_left_mm',
  'knee_over_foot_right_mm',
  'pelvis_deg',
  'shoulders_deg',
  'hip_shift_mm',
] as const;
export type FrontalColumn = (typeof FRONTAL_COLUMNS)[number];

/** The curve of each column; left out is what the reading has not. */
function frontalCurves(r: FrontalReading): Partial<Record<FrontalColumn, readonly number[]>> {
  const { left, right } = r.legs;
  return {
    knee_left_mm: left.kneeLateralMm.meanOnGrid,
    knee_right_mm: right.kneeLateralMm.meanOnGrid,
    knee_over_foot_left_mm: left.kneeOverFootMm.meanOnGrid,
    knee_over_foot_right_mm: right.kneeOverFootMm.meanOnGrid,
    pelvis_deg: r.pelvis?.curve.meanOnGrid,
    shoulders_deg: r.shoulders?.curve.meanOnGrid,
    hip_shift_mm: r.hipShiftMm?.curve.meanOnGrid,
  };
}

/** The mean curves from the front or the rear, a row every 2.5° of the crank: `theta_deg,knee_left_mm,…`; outward +. */
export function writeFrontalCsv(r: FrontalReading): string {
  const curves = frontalCurves(r);
  const there = FRONTAL_COLUMNS.filter((name) => curves[name]);
  const data = GRID_DEG.map((t, i) => [t.toFixed(1), ...there.map((name) => curves[name]![i].toFixed(2))]);
  return `${Papa.unparse({ fields: ['theta_deg', ...there], data }, { newline: '\n' })}\n`;
}

/** Reads curves from the front or the rear as `writeFrontalCsv` writes them: a row for each of GRID_DEG, none left empty. */
export function parseFrontalCsv(text: string): ParsedCurves<FrontalColumn> {
  const fail = (message: string): ParsedCurves<FrontalColumn> => ({ ok: false, message });
  const table = openTable(text);
  if (!table.ok) return table;
  const { names, rows, at } = table;
  if (!names.includes('theta_deg')) return fail('Row 1, column theta_deg: the column is missing.');
  const there = FRONTAL_COLUMNS.filter((name) => names.includes(name));
  if (there.length === 0) return fail('Row 1: no column of a curve, such as knee_left_mm.');
  if (rows.length !== GRID_DEG.length)
    return fail(`The table has ${rows.length} rows; a turn in steps of 2.5° has ${GRID_DEG.length}.`);
  const curves: Partial<Record<FrontalColumn, number[]>> = Object.fromEntries(there.map((n) => [n, []]));
  for (let r = 0; r < rows.length; r += 1) {
    if (Number(at(r, 'theta_deg')) !== GRID_DEG[r])
      return fail(`Row ${r + 2}, column theta_deg: ${GRID_DEG[r]} is expected here.`);
    for (const name of there) {
      const cell = at(r, name);
      if (!DECIMAL.test(cell) || Math.abs(Number(cell)) > 2000)
        return fail(`Row ${r + 2}, column ${name}: “${cell.slice(0, 40)}” is no value of a curve.`);
      curves[name]!.push(Number(cell));
    }
  }
  const ends = Object.fromEntries(
    there.map((n) => [n, { min: Math.min(...curves[n]!), max: Math.max(...curves[n]!) }]),
  );
  return { ok: true, strokes: 1, curves, ends };
}
