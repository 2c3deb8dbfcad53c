import { readFileSync } from 'node:fs';
import { expect, it } from 'vitest';
import { ESTIMATE_SD_MM } from '../core/kinematics/estimated.ts';
import { SIDE_LANDMARKS } from '../core/landmarks/landmarks.ts';

it('a first look takes no joint as better than it was found on rendered riders', () => {
  const text = readFileSync(new URL('../docs/estimates.md', import.meta.url), 'utf8');
  for (const key of SIDE_LANDMARKS) {
    const cells = text
      .split('\n')
      .find((l) => l.startsWith(`| ${key} |`))!
      .split('|');
    const foundMm = Number(cells[4]);
    expect(foundMm, key).toBeGreaterThan(5);
    expect(ESTIMATE_SD_MM[key], key).toBeGreaterThanOrEqual(foundMm);
    expect(Number(cells[5]), key).toBe(ESTIMATE_SD_MM[key]);
  }
});
