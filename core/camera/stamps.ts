import { median } from '../math/statistics.ts';

/** Containers that count whole milliseconds (WebM) round every stamp by up to half of one. */
const ROUNDING_S = 0.00055;

/** The least-squares even grid through time stamps, and how far the worst stamp is from it. */
function evenGrid(tS: ArrayLike<number>): { start: number; step: number; worst: number } {
  const n = tS.length;
  const mid = (n - 1) / 2;
  let sum = 0;
  let lean = 0;
  let spread = 0;
  for (let i = 0; i < n; i += 1) sum += tS[i];
  const mean = sum / n;
  for (let i = 0; i < n; i += 1) {
    lean += (i - mid) * (tS[i] - mean);
    spread += (i - mid) ** 2;
  }
  const step = lean / spread;
  const start = mean - mid * step;
  let worst = 0;
  for (let i = 0; i < n; i += 1) worst = Math.max(worst, Math.abs(tS[i] - start - i * step));
  return { start, step, worst };
}

/**
 * Takes a container's rounding out of time stamps: where all of them fit an even grid to within half a millisecond, the grid
 * is the better clock (a foot moves 0.3 px in that time). Stamps that are really uneven are handed back as they are.
 * @param tS times, s, growing
 */
export function undoRounding(tS: Float64Array): Float64Array {
  if (tS.length < 12) return tS;
  const grid = evenGrid(tS);
  return grid.worst <= ROUNDING_S ? tS.map((_, i) => grid.start + i * grid.step) : tS;
}

/** Frame rate and whether the frames are evenly spaced, from all time stamps; a rate of 0 for a single frame. */
export function frameRateOf(tS: Float64Array): { framesPerS: number; evenlyTimed: boolean } {
  if (tS.length < 2) return { framesPerS: 0, evenlyTimed: true };
  const grid = evenGrid(tS);
  if (grid.worst <= ROUNDING_S) return { framesPerS: 1 / grid.step, evenlyTimed: true };
  const step = median(tS.slice(1).map((t, i) => t - tS[i]));
  return { framesPerS: step > 0 ? 1 / step : 0, evenlyTimed: grid.worst < 0.3 * step };
}
