import Papa from 'papaparse';
import { DECIMAL, openTable } from './table.ts';
import { emptyTracks, type Tracks } from '../tracking/tracks.ts';

export type ParsedTracks = { ok: true; tracks: Tracks } | { ok: false; message: string };

/**
 * Reads tracks from the open table: `frame,t_s,<landmark>_x_px,<landmark>_y_px[,<landmark>_conf]…`, one row a frame, an empty
 * cell for a landmark not seen. Rows count from 1 with the header as row 1, as a spreadsheet shows them.
 * @returns the tracks, or one sentence naming row and column of the first thing wrong
 */
// eslint-disable-next-line max-lines-per-function -- one step after the other, each needing what the one before gave
export function parseTracksCsv(text: string): ParsedTracks {
  const fail = (message: string): ParsedTracks => ({ ok: false, message });
  const table = openTable(text);
  if (!table.ok) return table;
  const { names, rows } = table;
  const column = (name: string): number => names.indexOf(name);
  if (column('frame') < 0) return fail('Row 1, column frame: the column is missing.');
  if (column('t_s') < 0) return fail('Row 1, column t_s: the column with the time in seconds is missing.');
  const keys: string[] = [];
  for (const name of names) {
    const m = /^(.+)_([xy])_px$/.exec(name);
    if (!m) continue;
    if (!/^[A-Za-z]\w{0,39}$/.test(m[1]))
      return fail(`Row 1, column ${name.slice(0, 40)}: that is no landmark’s name.`);
    const other = `${m[1]}_${m[2] === 'x' ? 'y' : 'x'}_px`;
    if (column(other) < 0) return fail(`Row 1, column ${other}: the column is missing beside ${name}.`);
    if (m[2] === 'x') keys.push(m[1]);
  }
  if (keys.length === 0) return fail('Row 1, column 3: no landmark columns such as hip_x_px, hip_y_px.');
  if (rows.length === 0) return fail('Row 2, column frame: there is no row under the header.');
  const withConfidence = new Set(keys.filter((key) => column(`${key}_conf`) >= 0));
  const tS: number[] = [];
  const tracks = emptyTracks(
    rows.map(() => 0),
    keys,
  );
  for (let r = 0; r < rows.length; r += 1) {
    const at = (name: string): string => table.at(r, name);
    const where = (name: string): string => `Row ${r + 2}, column ${name}`;
    const t = at('t_s');
    if (!DECIMAL.test(t) || !Number.isFinite(Number(t)))
      return fail(`${where('t_s')}: “${t.slice(0, 40)}” is not a time in seconds.`);
    if (r > 0 && Number(t) <= tS[r - 1])
      return fail(
        Number(t) === tS[r - 1]
          ? `${where('t_s')}: the time stands still at ${t} s; every frame is later than the one before.`
          : `${where('t_s')}: the time goes back from ${tS[r - 1]} to ${t}.`,
      );
    tS.push(Number(t));
    if (!/^\d+$/.test(at('frame')))
      return fail(`${where('frame')}: “${at('frame').slice(0, 40)}” is not a frame number.`);
    for (const key of keys) {
      const cells = [at(`${key}_x_px`), at(`${key}_y_px`)];
      for (const [k, cell] of cells.entries()) {
        const name = `${key}_${k ? 'y' : 'x'}_px`;
        if (cell !== '' && !(DECIMAL.test(cell) && Math.abs(Number(cell)) < 1e6)) {
          return fail(`${where(name)}: “${cell.slice(0, 40)}” is not a pixel position.`);
        }
        if (cell === '' && cells[1 - k] !== '') return fail(`${where(name)}: empty, but its partner is not.`);
      }
      if (cells[0] === '') continue;
      const conf = withConfidence.has(key) ? at(`${key}_conf`) : '1';
      if (conf !== '' && !(DECIMAL.test(conf) && Number(conf) >= 0 && Number(conf) <= 1)) {
        return fail(`${where(`${key}_conf`)}: “${conf.slice(0, 40)}” is not between 0 and 1.`);
      }
      const track = tracks.landmarks[key];
      track.xPx[r] = Number(cells[0]);
      track.yPx[r] = Number(cells[1]);
      track.confidence[r] = conf === '' ? 1 : Number(conf);
    }
  }
  return { ok: true, tracks: { ...tracks, tS: Float64Array.from(tS) } };
}

/** Writes tracks as the open table: pixels to a thousandth, seconds to a microsecond, unseen cells empty. */
export function writeTracksCsv(tracks: Tracks): string {
  const keys = Object.keys(tracks.landmarks);
  const fields = ['frame', 't_s', ...keys.flatMap((k) => [`${k}_x_px`, `${k}_y_px`, `${k}_conf`])];
  const data = Array.from(tracks.tS, (t, i) => [
    `${i}`,
    t.toFixed(6),
    ...keys.flatMap((k) => {
      const p = tracks.landmarks[k];
      return Number.isFinite(p.xPx[i])
        ? [p.xPx[i].toFixed(3), p.yPx[i].toFixed(3), p.confidence[i].toFixed(3)]
        : ['', '', ''];
    }),
  ]);
  return `${Papa.unparse({ fields, data }, { newline: '\n' })}\n`;
}
