import Papa from 'papaparse';
import { PART_KINDS, PART_NUMBERS, UNMEASURED_PART, type Part, type PartKind } from '../bike/parts.ts';

export type ParsedParts = { ok: true; parts: Part[] } | { ok: false; message: string };

const MOST_PARTS = 5000;
const COLUMNS = ['kind', 'name', ...PART_NUMBERS.map((n) => n.column), 'count'];

/**
 * Reads a table of parts: a header row, then one part a row; only `kind` and `name` are needed, empty cells are open.
 * @param newId makes ids  @returns the parts, or one sentence naming row and column of the first thing wrong
 */
export function parsePartsCsv(text: string, newId: () => string): ParsedParts {
  const fail = (row: number, column: string, why: string): ParsedParts => ({
    ok: false,
    message: `Row ${row}, column ${column}: ${why}`,
  });
  const { data } = Papa.parse<string[]>(text.replace(/^\uFEFF/, ''), { skipEmptyLines: 'greedy' });
  const [header = [], ...rows] = data;
  const names = header.map((h) => h.trim().toLowerCase());
  for (const needed of ['kind', 'name'])
    if (!names.includes(needed)) return fail(1, needed, 'the column is missing.');
  const strange = names.find((n) => !COLUMNS.includes(n));
  if (strange !== undefined)
    return fail(
      1,
      strange.slice(0, 40) || '(empty)',
      `this column is not known. Known are ${COLUMNS.join(', ')}.`,
    );
  if (new Set(names).size !== names.length) return fail(1, 'header', 'a column appears twice.');
  if (rows.length > MOST_PARTS) return fail(MOST_PARTS + 2, 'kind', `more than ${MOST_PARTS} parts.`);
  const parts: Part[] = [];
  for (const [i, row] of rows.entries()) {
    const at = (column: string): string => (row[names.indexOf(column)] ?? '').trim();
    const kind = at('kind').toLowerCase();
    if (!PART_KINDS.includes(kind as PartKind))
      return fail(i + 2, 'kind', `“${kind.slice(0, 40)}” is none of ${PART_KINDS.join(', ')}.`);
    // The apostrophe that keeps a name from being a formula is a spreadsheet’s, not the name’s.
    const name = at('name').replace(/^'(?=[=+\-@])/, '');
    if (name === '' || name.length > 120) return fail(i + 2, 'name', 'a name of 1 to 120 letters, please.');
    const part: Part = {
      id: newId(),
      kind: kind as PartKind,
      name,
      ...UNMEASURED_PART,
    };
    for (const { key, column, min, max } of PART_NUMBERS) {
      const cell = at(column);
      if (cell === '') continue;
      const value = Number(cell.replace(',', '.'));
      if (!/^[-+]?[\d.,]+$/.test(cell) || !Number.isFinite(value) || value < min || value > max)
        return fail(i + 2, column, `“${cell.slice(0, 40)}” is no number from ${min} to ${max}.`);
      part[key] = value;
    }
    const count = at('count');
    if (count !== '') {
      if (!/^\d{1,4}$/.test(count)) return fail(i + 2, 'count', `“${count.slice(0, 40)}” is no count.`);
      part.count = Number(count);
    }
    parts.push(part);
  }
  return { ok: true, parts };
}

/** Cells that a spreadsheet would take for a formula are given an apostrophe, as spreadsheets themselves do. */
const harmless = (text: string): string => (/^[=+\-@\t\r]/.test(text) ? `'${text}` : text);

/** Writes the table of parts. */
export const writePartsCsv = (parts: readonly Part[]): string =>
  Papa.unparse({
    fields: COLUMNS,
    data: parts.map((p) => [
      p.kind,
      harmless(p.name),
      ...PART_NUMBERS.map(({ key }) => p[key] ?? ''),
      p.count,
    ]),
  }) + '\n';
