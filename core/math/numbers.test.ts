import { describe, expect, it } from 'vitest';
import { gaussian, seededRandom } from '../../sim/random.ts';
import { normalCdf, normalPdf } from './normal.ts';
import { resample } from './resample.ts';
import { solveSymmetric } from './solveSymmetric.ts';
import { mean, median, standardDeviation, studentT95 } from './statistics.ts';
import { bridgeGaps } from './gaps.ts';

describe('solving', () => {
  it('gives back what a system was made from, of any size, and spoils nothing', () => {
    const random = seededRandom(3);
    for (const n of [1, 2, 3, 8, 17]) {
      const half = Array.from({ length: n }, () => Array.from({ length: n }, () => gaussian(random)));
      const a = half.map((r, i) =>
        half.map((_, j) => r.reduce((s, v, k) => s + v * half[j][k], i === j ? 0.1 : 0)),
      );
      const x = Array.from({ length: n }, () => gaussian(random));
      const b = a.map((row) => row.reduce((s, v, k) => s + v * x[k], 0));
      const before = structuredClone([a, b]);
      solveSymmetric(a, b)!.forEach((v, k) => expect(v).toBeCloseTo(x[k], 6));
      expect([a, b]).toEqual(before);
    }
  });
  it('says that a system has no answer of its own', () => {
    expect(
      solveSymmetric(
        [
          [1, 2],
          [2, 4],
        ],
        [1, 2],
      ),
    ).toBeNull();
    expect(solveSymmetric([[0]], [1])).toBeNull();
  });
});

describe('means, medians and spreads', () => {
  it('leave out what is not finite in a median, and say so of a mean', () => {
    expect(median([3, NaN, 1, Infinity, 2])).toBe(2);
    expect(median([4, 1, 3, 2])).toBe(2.5);
    expect(median([])).toBeNaN();
    expect(mean([1, 2, 6])).toBe(3);
    expect(mean([1, NaN])).toBeNaN();
    expect(mean([])).toBeNaN();
  });
  it('the spread is that of a sample, and none of one', () => {
    expect(standardDeviation([2, 4, 4, 4, 5, 5, 7, 9])).toBeCloseTo(Math.sqrt(32 / 7), 12);
    expect(standardDeviation([5])).toBe(0);
  });
  it('Student’s t falls towards the normal distribution', () => {
    const t = [1, 2, 5, 10, 11, 20, 60, 1000].map(studentT95);
    t.slice(1).forEach((v, k) => expect(v).toBeLessThan(t[k]));
    expect(t.at(-1)).toBeCloseTo(1.96, 2);
    expect(studentT95(20)).toBeCloseTo(2.086, 2);
  });
  it('the normal distribution is the integral of its density, and even', () => {
    for (const z of [-2.5, -1, -0.2, 0, 0.7, 1.96, 3]) {
      const slope = (normalCdf(z + 1e-3) - normalCdf(z - 1e-3)) / 2e-3;
      expect(slope).toBeCloseTo(normalPdf(z, 0, 1), 3);
      expect(normalCdf(z) + normalCdf(-z)).toBeCloseTo(1, 8);
    }
    expect(normalCdf(1.96)).toBeCloseTo(0.975, 4);
    expect(normalPdf(12, 10, 4)).toBeCloseTo(normalPdf(0.5, 0, 1) / 4, 12);
  });
});

describe('samples at uneven times', () => {
  const random = seededRandom(9);
  const tS = Array.from({ length: 80 }, (_, k) => 0.016 * k + 0.004 * random());
  const wave = (t: number): number => 3 + 2 * Math.sin(9 * t) - Math.cos(4 * t);
  it('come out on an even grid as the curve that they were taken from', () => {
    const grid = Array.from({ length: 70 }, (_, k) => tS[0] + 0.0165 * k);
    resample(tS, tS.map(wave), grid).forEach((v, k) => {
      if (grid[k] <= tS[79]) expect(Math.abs(v - wave(grid[k]))).toBeLessThan(0.01);
    });
  });
  it('beside an unseen one nothing is made up, nor outside', () => {
    const holed = tS.map((t, k) => (k === 40 ? NaN : wave(t)));
    const [at, before, after] = resample(tS, holed, [tS[40] + 1e-3, tS[0] - 1, tS[79] + 1]);
    expect([at, before, after].every(Number.isNaN)).toBe(true);
  });
  it('short gaps are bridged along the curve, long ones and those at the ends stay', () => {
    const holed = tS.map((t, k) => ((k >= 20 && k < 22) || (k >= 50 && k < 60) || k < 2 ? NaN : wave(t)));
    const { values, filled } = bridgeGaps(tS, holed, 0.06);
    for (const k of [20, 21]) expect(Math.abs(values[k] - wave(tS[k]))).toBeLessThan(0.03);
    expect([...filled].reduce((s, v) => s + v, 0)).toBe(2);
    for (const k of [0, 1, 50, 55, 59]) expect(values[k]).toBeNaN();
  });
});
