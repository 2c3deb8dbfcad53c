import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { analysis } from './analysis.ts';
import { Refusal } from './refusal.ts';

const run = (...args: string[]) => spawnSync('node', ['scripts/analyse.mjs', ...args], { encoding: 'utf8' });
const folder = mkdtempSync(join(tmpdir(), 'analyse-'));
const file = (name: string, text: string): string => {
  const path = join(folder, name);
  writeFileSync(path, text);
  return path;
};

describe('npm run analyse', () => {
  it('prints the summary of a tracks table as JSON', () => {
    const done = run('public/demo/pilar.tracks.csv', '--mm-per-px', '2.46');
    expect(done.status).toBe(0);
    const s = JSON.parse(done.stdout) as Record<string, never>;
    expect(Object.keys(s)).toEqual([
      'strokes',
      'cadenceRpm',
      'crank',
      'angles',
      'kneeOverSpindleMm',
      'hipTravelMm',
    ]);
    expect(Object.keys(s.crank)).toEqual(['centreXPx', 'centreYPx', 'radiusPx', 'residualPx']);
    expect(Object.keys(s.angles)).toHaveLength(8);
    expect(Object.keys(s.angles['kneeFlexionDeg'])).toEqual([
      'min',
      'max',
      'minAtThetaDeg',
      'maxAtThetaDeg',
      'at',
      'strokeSdDeg',
      'uncertaintyDeg',
    ]);
    expect(s.cadenceRpm).toBeCloseTo(76.4, 0);
    expect(s.strokes).toBe(7);
  });
  it('reads the other facing as told', () => {
    const idris = ['public/demo/idris.tracks.csv', '--mm-per-px', '2.7'];
    expect(analysis([...idris, '--facing', 'left'])).toBe(analysis(idris));
    expect(() => analysis([...idris, '--facing', 'right'])).toThrow(/The crank turns backwards/);
  });
  it.each([
    [
      'a wrong cell',
      () => [
        file(
          'cell.csv',
          readFileSync('public/demo/pilar.tracks.csv', 'utf8').replace(/^(2,[^,]+),[^,]+/m, '$1,oops'),
        ),
        '--mm-per-px',
        '2.5',
      ],
      /Row 4, column hip_x_px/,
    ],
    ['no file', () => [join(folder, 'none.csv'), '--mm-per-px', '2.5'], /can't be read/],
    ['no scale', () => ['public/demo/pilar.tracks.csv'], /--mm-per-px/],
    [
      'a wrong facing',
      () => ['public/demo/pilar.tracks.csv', '--mm-per-px', '2', '--facing', 'up'],
      /--facing/,
    ],
    ['a scale below nothing', () => ['public/demo/pilar.tracks.csv', '--mm-per-px', '0'], /--mm-per-px/],
    ['two tables', () => ['a.csv', 'b.csv', '--mm-per-px', '2'], /name one tracks table/],
    ['an option that is none', () => ['a.csv', '--mm-per-inch', '2'], /mm-per-inch/],
  ] as [string, () => string[], RegExp][])('refuses %s with a sentence', (_, args, expected) => {
    const refused = () => analysis(args());
    expect(refused).toThrow(Refusal);
    expect(refused).toThrow(expected);
  });
  it('answers what it refuses with one line and exit 2', () => {
    const done = run(join(folder, 'none.csv'), '--mm-per-px', '2.5');
    expect(done.status).toBe(2);
    expect(done.stdout).toBe('');
    expect(done.stderr).toMatch(/^analyse: .*can't be read \(ENOENT\)\n$/);
  });
});
