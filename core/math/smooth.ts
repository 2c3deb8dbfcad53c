import { zeroLagLowPass } from './butterworth.ts';
import { resample } from './resample.ts';

/**
 * Smooths a series with gaps and uneven stamps: each unbroken run is brought on to an even grid, filtered without lag and
 * brought back to its own times. Runs too short to filter are left as they are.
 * @param tS times, s, strictly growing  @param values NaN where unseen  @param cutoffHz low-pass cut-off
 */
export function smoothSeries(
  tS: ArrayLike<number>,
  values: ArrayLike<number>,
  cutoffHz: number,
): Float64Array {
  const out = Float64Array.from(values);
  let i = 0;
  while (i < out.length) {
    if (!Number.isFinite(values[i])) {
      i += 1;
      continue;
    }
    let end = i;
    while (end < out.length && Number.isFinite(values[end])) end += 1;
    if (end - i >= 8) {
      const run = out.slice(i, end);
      const times = run.map((_, k) => tS[i + k]);
      const step = (times[times.length - 1] - times[0]) / (times.length - 1);
      const grid = run.map((_, k) => times[0] + k * step);
      const smooth = zeroLagLowPass(resample(times, run, grid), cutoffHz, 1 / step);
      out.set(resample(grid, smooth, times), i);
      // Rounding may push the last stamp past the grid's end by a hair.
      if (!Number.isFinite(out[end - 1])) out[end - 1] = smooth[smooth.length - 1];
    }
    i = end;
  }
  return out;
}
