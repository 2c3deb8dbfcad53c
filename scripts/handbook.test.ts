import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { expect, it } from 'vitest';
import { PROTOCOLS, type MeasureKey } from '../core/protocol/protocols.ts';

const HANDBOOK = 'docs/handbook';
const plain = (text: string): string => text.toLowerCase().trim();

/** Headings of each part of the handbook, the part's own title first. */
const parts = new Map(
  readdirSync(HANDBOOK).map((file): [string, string[]] => {
    const headings = [...readFileSync(`${HANDBOOK}/${file}`, 'utf8').matchAll(/^#+ (.+)$/gm)].map((m) =>
      plain(m[1]),
    );
    return [headings[0], headings];
  }),
);

const sources = ['app', 'core', 'sim', 'scripts', 'e2e'].flatMap((room) =>
  readdirSync(room, { recursive: true, encoding: 'utf8' })
    .filter((file) => /\.tsx?$/.test(file) && !file.endsWith('handbook.test.ts'))
    .map((file) => `${room}/${file}`),
);

it('every place of the handbook that a comment names is there', () => {
  let cited = 0;
  const wrong: string[] = [];
  for (const file of sources) {
    // A comment may be broken anywhere.
    const text = readFileSync(file, 'utf8').replace(/\n\s*(\/\/|\*)\s*/g, ' ');
    for (const [, citation] of text.matchAll(/[Hh]andbook: ([^).:]*)/g))
      for (const of of citation.split(';')) {
        cited += 1;
        const [part, ...headings] = of.split(',').map(plain);
        const known = parts.get(part);
        if (!known || headings.some((h) => !known.includes(h))) wrong.push(`${file}: “${of.trim()}”`);
      }
  }
  expect(wrong).toEqual([]);
  expect(cited).toBeGreaterThan(60);
});

it('the bands in the handbook are those that the studio begins with', () => {
  const ROWS: [row: RegExp, key: MeasureKey][] = [
    [/^knee flexion, least/, 'kneeFlexionMinDeg'],
    [/^knee flexion, most/, 'kneeFlexionMaxDeg'],
    [/^hip angle, least/, 'hipAngleMinDeg'],
    [/^back angle/, 'backAngleDeg'],
    [/^shoulder angle/, 'shoulderAngleDeg'],
    [/^elbow flexion/, 'elbowFlexionDeg'],
    [/^foot pitch at 90°/, 'footPitch90Deg'],
    [/^foot pitch at 180°/, 'footPitch180Deg'],
    [/^ankle range/, 'ankleRangeDeg'],
    [/^knee over spindle/, 'kneeOverSpindleMm'],
    [/^hip travel/, 'hipVerticalTravelMm'],
    [/^knee path width/, 'kneePathWidthMm'],
  ];
  const table = readFileSync(`${HANDBOOK}/targets.md`, 'utf8')
    .split('\n')
    .filter((line) => line.startsWith('| '))
    .map((line) => line.slice(2, -2).split(' | '));
  const number = (text: string): number => Number(text.replace('−', '-'));
  for (const [row, key] of ROWS) {
    const cells = table.find(([name]) => row.test(name))!.slice(1);
    PROTOCOLS.forEach((protocol, k) => {
      const band = protocol.bands[key];
      const [, low, high] = /^(?:(−?\d+)–|≥ )?(−?\d+)$/.exec(cells[k].replace('≤ ', '')) ?? [];
      const stated = cells[k].startsWith('≥')
        ? { low: number(high), high: null }
        : { low: low === undefined ? null : number(low), high: number(high) };
      expect({ key, protocol: protocol.id, ...stated }).toEqual({
        key,
        protocol: protocol.id,
        low: band?.low ?? null,
        high: band?.high ?? null,
      });
    });
  }
});

it('links between the documents lead somewhere', () => {
  const docs = [
    'README.md',
    ...readdirSync('docs', { recursive: true, encoding: 'utf8' }).map((f) => `docs/${f}`),
  ];
  for (const file of docs.filter((f) => f.endsWith('.md'))) {
    const folder = file.replace(/[^/]*$/, '');
    for (const [, to] of readFileSync(file, 'utf8').matchAll(/\]\((?!https?:|#)([^)#]+)/g))
      expect(existsSync(`${folder}${to}`), `${file} → ${to}`).toBe(true);
  }
});
