import Papa from 'papaparse';
import type { MatFrame, TrainerSample } from '../kinematics/devices.ts';

/** A table of a device's readings, or a sentence on what is wrong with it and where. */
export type ParsedTrainer = { ok: true; samples: TrainerSample[] } | { ok: false; message: string };
export type ParsedMat = { ok: true; frames: MatFrame[]; cellMm: number } | { ok: false; message: string };

const rowsOf = (text: string): string[][] =>
  Papa.parse<string[]>(text.replace(/^\ufeff/, '').trim(), { skipEmptyLines: true }).data;

const numberIn = (cell: string | undefined): number | null => {
  const t = (cell ?? '').trim();
  return t !== '' && Number.isFinite(Number(t)) ? Number(t) : null;
};

const TRAINER_COLUMNS = ['t_s', 'power_w', 'cadence_rpm', 'left_percent'] as const;

/** `t_s,power_w,cadence_rpm,left_percent`, a row a reading; an empty left share where the trainer can't tell. */
export const writeTrainerCsv = (samples: readonly TrainerSample[]): string =>
  `${Papa.unparse(
    {
      fields: [...TRAINER_COLUMNS],
      data: samples.map((s) => [s.tS, s.powerW, s.cadenceRpm, s.leftPercent ?? '']),
    },
    { newline: '\n' },
  )}\n`;

/** Columns may stand in any order; times must grow. */
export function parseTrainerCsv(text: string): ParsedTrainer {
  const [header = [], ...rows] = rowsOf(text);
  const names = header.map((h) => h.trim().toLowerCase());
  const missing = TRAINER_COLUMNS.slice(0, 3).find((c) => !names.includes(c));
  if (missing)
    return {
      ok: false,
      message: `Row 1: there is no column “${missing}”. A trainer’s table has ${TRAINER_COLUMNS.join(', ')}.`,
    };
  const samples: TrainerSample[] = [];
  for (const [i, row] of rows.entries()) {
    const of = (c: (typeof TRAINER_COLUMNS)[number]): number | null => numberIn(row[names.indexOf(c)]);
    const [tS, powerW, cadenceRpm] = [of('t_s'), of('power_w'), of('cadence_rpm')];
    const share = names.includes('left_percent') ? of('left_percent') : null;
    const bad =
      tS === null || (samples.length > 0 && tS <= samples.at(-1)!.tS)
        ? 't_s must be a growing number of seconds'
        : powerW === null || powerW < 0 || powerW > 3000
          ? 'power_w must be 0 to 3000'
          : cadenceRpm === null || cadenceRpm < 0 || cadenceRpm > 300
            ? 'cadence_rpm must be 0 to 300'
            : share !== null && (share < 0 || share > 100)
              ? 'left_percent must be 0 to 100'
              : null;
    if (bad) return { ok: false, message: `Row ${i + 2}: ${bad}.` };
    samples.push({ tS: tS!, powerW: powerW!, cadenceRpm: cadenceRpm!, leftPercent: share });
  }
  return samples.length >= 2
    ? { ok: true, samples }
    : { ok: false, message: 'The table has fewer than two readings.' };
}

/** `t_s,cell_mm,r1c1_kpa,…`: rows from the saddle's nose back, columns from its left; a line a frame. */
export function writeMatCsv(frames: readonly MatFrame[], cellMm: number): string {
  const [rows, columns] = [frames[0]?.gridKPa.length ?? 0, frames[0]?.gridKPa[0]?.length ?? 0];
  const cells = Array.from(
    { length: rows * columns },
    (_, k) => `r${Math.floor(k / columns) + 1}c${(k % columns) + 1}_kpa`,
  );
  return `${Papa.unparse(
    { fields: ['t_s', 'cell_mm', ...cells], data: frames.map((f) => [f.tS, cellMm, ...f.gridKPa.flat()]) },
    { newline: '\n' },
  )}\n`;
}

export function parseMatCsv(text: string): ParsedMat {
  const [header = [], ...rows] = rowsOf(text);
  const names = header.map((h) => h.trim().toLowerCase());
  const places = names
    .map((n) => /^r(\d+)c(\d+)_kpa$/.exec(n))
    .map((f) => f && { row: Number(f[1]), column: Number(f[2]) });
  const cells = places.filter((p) => p !== null);
  const tall = Math.max(0, ...cells.map((p) => p.row));
  const wide = Math.max(0, ...cells.map((p) => p.column));
  if (!names.includes('t_s') || !names.includes('cell_mm') || cells.length === 0)
    return { ok: false, message: 'Row 1: a mat’s table has t_s, cell_mm, r1c1_kpa, r1c2_kpa and so on.' };
  const own = new Set(cells.map((p) => `${p.row}/${p.column}`));
  if (tall < 2 || wide < 2 || tall > 64 || wide > 64 || own.size !== tall * wide || cells.length !== own.size)
    return {
      ok: false,
      message: `Row 1: ${cells.length} cells don’t make a grid of ${tall} rows and ${wide} columns (2 to 64 each).`,
    };
  const frames: MatFrame[] = [];
  let cellMm = 0;
  for (const [i, row] of rows.entries()) {
    const fault = (what: string): ParsedMat => ({ ok: false, message: `Row ${i + 2}: ${what}.` });
    const tS = numberIn(row[names.indexOf('t_s')]);
    const size = numberIn(row[names.indexOf('cell_mm')]);
    if (tS === null || (frames.length > 0 && tS <= frames.at(-1)!.tS))
      return fault('t_s must be a growing number of seconds');
    if (size === null || size < 1 || size > 100 || (frames.length > 0 && size !== cellMm))
      return fault('cell_mm must be 1 to 100 and the same in every row');
    cellMm = size;
    const gridKPa = Array.from({ length: tall }, () => new Array<number>(wide).fill(0));
    for (const [k, place] of places.entries()) {
      if (!place) continue;
      const v = numberIn(row[k]);
      if (v === null || v < 0 || v > 2000) return fault(`${names[k]} must be 0 to 2000 kPa`);
      gridKPa[place.row - 1][place.column - 1] = v;
    }
    frames.push({ tS, gridKPa });
  }
  return frames.length > 0
    ? { ok: true, frames, cellMm }
    : { ok: false, message: 'The table has no readings.' };
}
