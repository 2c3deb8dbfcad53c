import { range, sum } from 'd3';
import { describe, expect, it } from 'vitest';
import { gaussian, seededRandom } from '../../sim/random.ts';
import { zeroLagLowPass } from './butterworth.ts';
import { bridgeGaps } from './gaps.ts';
import { curveExtremes, evaluateCurve, fitHarmonics, type HarmonicCurve } from './harmonics.ts';
import { resample } from './resample.ts';
import { smoothSeries } from './smooth.ts';
import { solveSymmetric } from './solveSymmetric.ts';
import { frameRateOf, undoRounding } from '../camera/stamps.ts';

const sine = (hz: number, rate: number, n: number): Float64Array =>
  Float64Array.from({ length: n }, (_, i) => Math.sin((2 * Math.PI * hz * i) / rate));

/** Amplitude of a frequency in the middle of a series, by projection. */
function amplitude(values: Float64Array, hz: number, rate: number): { gain: number; lagDeg: number } {
  let c = 0;
  let s = 0;
  const period = rate / hz;
  const n = Math.floor(((values.length * 0.6) / period) | 0) * period;
  const from = Math.floor(values.length * 0.2);
  for (let i = from; i < from + n; i += 1) {
    c += values[i] * Math.cos((2 * Math.PI * hz * i) / rate);
    s += values[i] * Math.sin((2 * Math.PI * hz * i) / rate);
  }
  return { gain: (2 * Math.hypot(c, s)) / n, lagDeg: (Math.atan2(c, s) * 180) / Math.PI };
}

describe('zeroLagLowPass', () => {
  it('is 3 dB down at its cut-off, passes the slow, stops the fast, and shifts nothing', () => {
    const at = amplitude(zeroLagLowPass(sine(6, 120, 2400), 6, 120), 6, 120);
    expect(at.gain).toBeCloseTo(Math.SQRT1_2, 2);
    expect(Math.abs(at.lagDeg)).toBeLessThan(0.5);
    expect(amplitude(zeroLagLowPass(sine(1.5, 120, 2400), 6, 120), 1.5, 120).gain).toBeGreaterThan(0.995);
    expect(amplitude(zeroLagLowPass(sine(24, 120, 2400), 6, 120), 24, 120).gain).toBeLessThan(0.01);
  });
  it('leaves a straight ramp as it is, to its ends', () => {
    const ramp = Float64Array.from({ length: 100 }, (_, i) => 3 * i - 20);
    zeroLagLowPass(ramp, 6, 60).forEach((v, i) => expect(Math.abs(v - ramp[i])).toBeLessThan(0.05));
  });
});

describe('gaps', () => {
  const t = Array.from({ length: 60 }, (_, i) => i / 60);
  const truth = t.map((s) => 100 * Math.sin(2 * Math.PI * 1.5 * s));
  it('bridges a short gap near the truth, says which, and leaves a long one', () => {
    const holed = truth.map((v, i) => ((i >= 20 && i < 23) || (i >= 40 && i < 50) ? NaN : v));
    const { values, filled } = bridgeGaps(t, holed, 0.06 + 1 / 60);
    for (let i = 20; i < 23; i += 1) {
      expect(Math.abs(values[i] - truth[i])).toBeLessThan(1.5);
      expect(filled[i]).toBe(1);
    }
    expect(values[44]).toBeNaN();
    expect(filled[44]).toBe(0);
  });
  it('does not invent what lies before the first or after the last sight', () => {
    const { values } = bridgeGaps(
      t,
      truth.map((v, i) => (i < 3 || i > 57 ? NaN : v)),
      1,
    );
    expect(values[1]).toBeNaN();
    expect(values[59]).toBeNaN();
  });
});

it('resamples uneven stamps on to a grid, and smoothing brings them back to their own times', () => {
  const random = seededRandom(4);
  const t = Float64Array.from({ length: 200 }, (_, i) => (i + 0.4 * random()) / 60);
  const v = t.map((s) => 50 * Math.sin(2 * Math.PI * 1.4 * s));
  const grid = Array.from({ length: 300 }, (_, i) => 0.02 + i / 100);
  resample(t, v, grid).forEach((x, i) =>
    expect(Math.abs(x - 50 * Math.sin(2 * Math.PI * 1.4 * grid[i]))).toBeLessThan(0.05),
  );
  const smooth = smoothSeries(t, v, 8);
  for (let i = 10; i < 190; i += 1) expect(Math.abs(smooth[i] - v[i])).toBeLessThan(0.1);
});

describe('time stamps', () => {
  const even = Float64Array.from({ length: 100 }, (_, i) => i / 60);
  it('takes a container’s rounding to milliseconds out, and nothing else', () => {
    const rounded = even.map((s) => Math.round(1000 * s) / 1000);
    undoRounding(rounded).forEach((s, i) => expect(Math.abs(s - even[i])).toBeLessThan(0.0001));
    expect(frameRateOf(rounded)).toMatchObject({ evenlyTimed: true });
    expect(frameRateOf(rounded).framesPerS).toBeCloseTo(60, 1);
    const uneven = even.map((s, i) => s + (i % 3 === 0 ? 0.004 : 0));
    expect(undoRounding(uneven)).toEqual(uneven);
  });
});

describe('fitHarmonics', () => {
  const truth: HarmonicCurve = { mean: 80, cos: [30, -3, 0.8], sin: [12, 4, -0.5] };
  const random = seededRandom(8);
  const theta = Array.from({ length: 360 }, (_, i) => i * 8.4);
  const strokeOf = theta.map((d) => Math.floor(d / 360));
  it('finds the order by cross-validation and the curve through noise', () => {
    const fit = fitHarmonics(
      theta,
      theta.map((d) => evaluateCurve(truth, d) + 0.4 * gaussian(random)),
      strokeOf,
    )!;
    expect(fit.order).toBeGreaterThanOrEqual(3);
    expect(fit.order).toBeLessThanOrEqual(5);
    for (let d = 0; d < 360; d += 7)
      expect(Math.abs(evaluateCurve(fit.curve, d) - evaluateCurve(truth, d))).toBeLessThan(0.2);
  });
  it('takes the order by which each stroke is best predicted by the others, fitted anew without it', () => {
    const row = (d: number, order: number): number[] => {
      const at = (d * Math.PI) / 180;
      return [1, ...range(1, order + 1).flatMap((k) => [Math.cos(k * at), Math.sin(k * at)])];
    };
    const dot = (a: readonly number[], b: readonly number[]): number => sum(a, (v, k) => v * b[k]);
    const fitted = (samples: readonly number[], values: readonly number[], order: number): number[] => {
      const rows = samples.map((i) => row(theta[i], order));
      const [terms] = rows;
      return solveSymmetric(
        terms.map((_, p) => terms.map((__, q) => sum(rows, (r) => r[p] * r[q]))),
        terms.map((_, p) => sum(samples, (i, k) => rows[k][p] * values[i])),
      )!;
    };
    for (const noise of [0.2, 9]) {
      const values = theta.map((d) => evaluateCurve(truth, d) + noise * gaussian(random));
      const missed = range(1, 9).map((order) =>
        sum([...new Set(strokeOf)], (stroke) => {
          const others = range(theta.length).filter((i) => strokeOf[i] !== stroke);
          const c = fitted(others, values, order);
          return sum(theta, (d, i) =>
            strokeOf[i] === stroke ? (values[i] - dot(c, row(d, order))) ** 2 : 0,
          );
        }),
      );
      const fit = fitHarmonics(theta, values, strokeOf)!;
      // A higher one must be better by a thousandth.
      let best = 1;
      for (let k = 2; k <= 8; k += 1) if (missed[k - 1] < 0.999 * missed[best - 1]) best = k;
      expect(fit.order, `noise ${noise}`).toBe(best);
      const c = fitted(range(theta.length), values, best);
      for (let d = 0; d < 360; d += 20)
        expect(evaluateCurve(fit.curve, d)).toBeCloseTo(dot(c, row(d, best)), 8);
    }
  });
  it('places lowest and highest value on the turn', () => {
    const one: HarmonicCurve = { mean: 10, cos: [0], sin: [4] };
    const e = curveExtremes(one);
    expect(e).toMatchObject({ min: 6, max: 14 });
    expect(e.maxAtDeg).toBeCloseTo(90, 1);
    expect(e.minAtDeg).toBeCloseTo(270, 1);
  });
  it('has no answer with a few samples', () => {
    expect(fitHarmonics([0, 1], [1, 2], [0, 0])).toBeNull();
  });
});
