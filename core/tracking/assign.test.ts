import { describe, expect, it } from 'vitest';
import { seededRandom } from '../../sim/random.ts';
import { assignCheapest, assignLandmarks, type Option } from './assign.ts';

const at = (x: number, cost: number): Option => ({ x, y: 0, cost });

describe('which place is whose', () => {
  it('a row that steps on by more than half its distance is followed, none takes its neighbour’s place', () => {
    // Stickers at 0, 20 and 40 step on by 12: every place is nearer to the sticker after it.
    const [a, b, c] = [0, 20, 40].map((x) =>
      [12, 32, 52].map((to) => at(to, 0.01 * (to - x) ** 2)).sort((p, q) => p.cost - q.cost),
    );
    const chosen = assignCheapest([a, b, c]);
    expect(chosen.map((k, i) => [a, b, c][i][k].x)).toEqual([12, 32, 52]);
  });

  it('of what vies for the same places the cheapest whole is found: as cheap as trying everything', () => {
    const random = seededRandom(12);
    for (let round = 0; round < 60; round += 1) {
      const places = Array.from({ length: 5 }, (_, k) => 30 * k);
      const options = Array.from({ length: 4 }, () =>
        places.map((x) => at(x, 20 * random())).sort((p, q) => p.cost - q.cost),
      );
      const costOf = (chosen: readonly number[]): number =>
        chosen.reduce((s, k, i) => s + (k < 0 ? 14 : options[i][k].cost), 0);
      let least = Infinity;
      const tryAll = (i: number, used: number[], cost: number): void => {
        if (i === options.length) least = Math.min(least, cost);
        else {
          tryAll(i + 1, used, cost + 14);
          for (const o of options[i]) if (!used.includes(o.x)) tryAll(i + 1, [...used, o.x], cost + o.cost);
        }
      };
      tryAll(0, [], 0);
      const chosen = assignCheapest(options);
      expect(costOf(chosen)).toBeCloseTo(least, 9);
      const taken = chosen.flatMap((k, i) => (k < 0 ? [] : [options[i][k].x]));
      expect(new Set(taken).size).toBe(taken.length);
    }
  });

  it('what is far from all others is decided by itself; nothing near is lost', () => {
    expect(assignCheapest([[at(0, 1)], [], [at(500, 3), at(520, 9)], [at(0, 0.5)]])).toEqual([-1, -1, 0, 0]);
    expect(assignCheapest([[at(0, 15)]])).toEqual([-1]);
  });

  it('a limb’s length decides between two that look alike', () => {
    const knee = [at(0, 0)];
    const ankle = [at(60, 0.5), at(100, 1)];
    expect(assignLandmarks([knee, ankle], [{ a: 0, b: 1, lengthPx: 100 }])).toEqual([0, 1]);
    expect(assignLandmarks([knee, ankle], [])).toEqual([0, 0]);
  });
});
