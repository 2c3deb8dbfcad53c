import { expect, it } from 'vitest';
import { goodParts } from './filmParts.ts';

it('what lies between the damaged places is good, each frame once, the longest part first', () => {
  expect(goodParts({ frames: 10, broken: [] })).toEqual([{ from: 0, to: 9 }]);
  expect(goodParts({ frames: 10, broken: [{ from: 0, to: 9 }] })).toEqual([]);
  const broken = [
    { from: 0, to: 1 },
    { from: 5, to: 5 },
    { from: 18, to: 19 },
  ];
  const parts = goodParts({ frames: 20, broken });
  expect(parts[0]).toEqual({ from: 6, to: 17 });
  const good = parts.flatMap(({ from, to }) => Array.from({ length: to - from + 1 }, (_, k) => from + k));
  const bad = broken.flatMap(({ from, to }) => Array.from({ length: to - from + 1 }, (_, k) => from + k));
  expect([...good, ...bad].sort((a, b) => a - b)).toEqual(Array.from({ length: 20 }, (_, k) => k));
});
