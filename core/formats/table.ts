import Papa from 'papaparse';

/** A table as text: its header and its rows, or one sentence naming row and column of the first thing wrong. */
export type OpenedTable =
  | { ok: true; names: string[]; rows: string[][]; at: (row: number, name: string) => string }
  | { ok: false; message: string };

const LONGEST_FILE_CHARS = 80_000_000;
/** Eight landmarks of three columns each, and room for ten times as many. */
const MOST_COLUMNS = 300;
/** Three hours at 120 frames a second. */
const MOST_ROWS = 1_300_000;

/** A number as written in a table: plain decimal, a dot, an optional exponent. `Number` alone would take '0x1F' and ''. */
export const DECIMAL = /^[+-]?(\d+\.?\d*|\.\d+)(e[+-]?\d+)?$/i;

/**
 * Opens a comma-separated table. Rows count from 1 with the header as row 1, as a spreadsheet shows them.
 * @returns `at`: a cell by the index of its row (the first under the header is 0) and its column's name, trimmed; '' where there is none
 */
export function openTable(text: string): OpenedTable {
  const fail = (message: string): OpenedTable => ({ ok: false, message });
  if (text.length > LONGEST_FILE_CHARS) return fail('The file is over 80 MB: no clip has that many frames.');
  if (text.includes('\u0000')) return fail('Row 1, column 1: this is not a text file.');
  const parsed = Papa.parse<string[]>(text.replace(/^\uFEFF/, ''), {
    skipEmptyLines: 'greedy',
    delimiter: ',',
    preview: MOST_ROWS + 2,
  });
  const broken = parsed.errors.find((e) => e.type !== 'Delimiter');
  if (broken) return fail(`Row ${(broken.row ?? 0) + 1}, column 1: ${broken.message}.`);
  const [header, ...rows] = parsed.data;
  if (!header) return fail('Row 1, column 1: the file is empty.');
  if (header.length > MOST_COLUMNS)
    return fail(`Row 1, column ${MOST_COLUMNS + 1}: no table that is read here has so many columns.`);
  if (rows.length > MOST_ROWS)
    return fail(`Row ${MOST_ROWS + 2}, column 1: no table that is read here has so many rows.`);
  const names = header.map((h) => h.trim());
  const first = new Map<string, number>();
  names.forEach((n, i) => first.has(n) || first.set(n, i));
  const twice = names.findIndex((n, i) => n !== '' && first.get(n) !== i);
  if (twice >= 0) return fail(`Row 1, column ${names[twice]}: this column appears twice.`);
  const long = rows.findIndex((row) => row.length > names.length);
  if (long >= 0) return fail(`Row ${long + 2}, column ${names.length + 1}: more cells than the header has.`);
  return {
    ok: true,
    names,
    rows,
    at: (row, name) => (rows[row][first.get(name) ?? -1] ?? '').trim(),
  };
}
