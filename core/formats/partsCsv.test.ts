import { describe, expect, it } from 'vitest';
import { DEMO_PARTS } from '../../app/demo/parts.ts';
import { checkRecord } from '../records/schemas.ts';
import { parsePartsCsv, writePartsCsv } from './partsCsv.ts';

let n = 0;
const parse = (text: string) => parsePartsCsv(text, () => `p${(n += 1)}`);

describe('the table of parts', () => {
  it('comes back as it went, but for new ids', () => {
    const back = parse(writePartsCsv(DEMO_PARTS.parts));
    if (!back.ok) throw new Error(back.message);
    expect(back.parts.map((p) => ({ ...p, id: '' }))).toEqual(
      DEMO_PARTS.parts.map((p) => ({ ...p, id: '' })),
    );
    expect(new Set(back.parts.map((p) => p.id)).size).toBe(back.parts.length);
    expect(checkRecord('parts', { ...DEMO_PARTS, parts: back.parts })).toMatchObject({ ok: true });
  });
  it('needs only kind and name, takes decimal commas and another order of columns', () => {
    expect(parse('name;kind;length_mm\nShort one;Stem;"72,5"')).toMatchObject({
      ok: true,
      parts: [{ kind: 'stem', name: 'Short one', lengthMm: 72.5, count: 1, price: null }],
    });
  });
  it.each([
    ['', 'Row 1, column kind'],
    ['kind,length_mm\nstem,90', 'Row 1, column name'],
    ['kind,name,colour\nstem,a,red', 'Row 1, column colour'],
    ['kind,name\nengine,a', 'Row 2, column kind: “engine” is none of'],
    ['kind,name\nstem,', 'Row 2, column name'],
    ['kind,name,length_mm\nstem,a,90\nstem,b,long', 'Row 3, column length_mm: “long”'],
    ['kind,name,angle_deg\nstem,a,200', 'Row 2, column angle_deg'],
    ['kind,name,count\nstem,a,-2', 'Row 2, column count'],
    ['kind,name,name\nstem,a,b', 'a column appears twice'],
  ])('%j is refused by row and column', (text, message) => {
    const p = parse(text);
    expect(p.ok).toBe(false);
    if (!p.ok) expect(p.message).toContain(message);
  });
  it('writes nothing that a spreadsheet would run', () => {
    const [part] = DEMO_PARTS.parts;
    expect(writePartsCsv([{ ...part, name: '=HYPERLINK("x")' }])).toContain(`"'=HYPERLINK(""x"")"`);
  });
});
