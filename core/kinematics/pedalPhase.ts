import { DEG_PER_RAD } from '../math/angles.ts';
import { smoothSeries } from '../math/smooth.ts';
import { median } from '../math/statistics.ts';
import { cutoffFor } from './paths.ts';

/** The crank's turn as the feet's rise and fall tell it. */
export interface PedalPhase {
  /** Unwrapped angle of the right crank arm, degrees from the top; NaN where a foot is unseen. */
  thetaDeg: Float64Array;
  /** Half the feet's rise, in the heights' unit: the crank as it is seen. */
  amplitude: number;
  cadenceRpm: number;
}

/** Times at which a series goes from below zero to above. */
function risings(d: readonly number[], tS: ArrayLike<number>): number[] {
  const out: number[] = [];
  let below = false;
  for (let i = 1; i < d.length; i += 1) {
    if (!Number.isFinite(d[i]) || !Number.isFinite(d[i - 1])) continue;
    if (d[i - 1] < 0) below = true;
    if (below && d[i] >= 0) {
      out.push(tS[i - 1] + ((0 - d[i - 1]) / (d[i] - d[i - 1])) * (tS[i] - tS[i - 1]));
      below = false;
    }
  }
  return out;
}

/**
 * Crank angle from the heights of both feet: their difference is a cosine of it, so it and its own speed give the angle
 * (own derivation). Seen from the front, forward and backward look alike: pedalling forward is taken for granted.
 * @param rightHeight foot heights, y up, any unit, NaN where unseen  @param tS times, s
 * @returns null where the feet do not rise and fall in turn
 */
export function phaseFromFeet(
  rightHeight: readonly number[],
  leftHeight: readonly number[],
  tS: ArrayLike<number>,
): PedalPhase | null {
  const half = rightHeight.map((r, i) => (r - leftHeight[i]) / 2);
  const seen = half.filter(Number.isFinite).sort((a, b) => a - b);
  if (seen.length < 12) return null;
  const share = (p: number): number => seen[Math.round(p * (seen.length - 1))];
  const middle = (share(0.02) + share(0.98)) / 2;
  const rough = risings(
    half.map((v) => v - middle),
    tS,
  );
  if (rough.length < 2) return null;
  const turnS = median(rough.slice(1).map((t, i) => t - rough[i]));
  if (!(turnS > 0.25 && turnS < 3)) return null;
  const smooth = smoothSeries(tS as Float64Array, half, cutoffFor(60 / turnS));
  // The middle over whole turns, so that a part turn at the end does not pull it.
  const inside = (i: number): boolean => tS[i] >= rough[0] && tS[i] < rough[rough.length - 1];
  let [sum, n] = [0, 0];
  smooth.forEach((v, i) => {
    if (inside(i) && Number.isFinite(v)) [sum, n] = [sum + v, n + 1];
  });
  const mean = n > 0 ? sum / n : middle;
  const d = Array.from(smooth, (v) => v - mean);
  const speed = d.map((_, i) => {
    const [a, b] = [Math.max(0, i - 1), Math.min(d.length - 1, i + 1)];
    return (d[b] - d[a]) / (tS[b] - tS[a]);
  });
  const squares = d.filter((v, i) => inside(i) && Number.isFinite(v)).map((v) => v * v);
  const amplitude = Math.sqrt((2 * squares.reduce((s, v) => s + v, 0)) / squares.length);
  // The crank's speed is even at first; then as the angle itself tells it, over half a turn.
  let omega = d.map(() => (2 * Math.PI) / turnS);
  let theta: Float64Array = new Float64Array(d.length);
  for (let round = 0; round < 3; round += 1) {
    theta = unwrapped(d.map((v, i) => Math.atan2(-speed[i] / omega[i], v)));
    omega = localSpeed(theta, tS, turnS / 2, (2 * Math.PI) / turnS);
  }
  return { thetaDeg: theta.map((v) => v * DEG_PER_RAD), amplitude, cadenceRpm: 60 / turnS };
}

/** Joined turns, radians, beginning within the first one; forward is assumed across gaps. */
function unwrapped(raw: readonly number[]): Float64Array {
  const out = new Float64Array(raw.length).fill(NaN);
  let last = NaN;
  raw.forEach((v, i) => {
    if (!Number.isFinite(v)) return;
    if (!Number.isFinite(last)) out[i] = v < 0 ? v + 2 * Math.PI : v;
    else out[i] = v + 2 * Math.PI * Math.round((last - v) / (2 * Math.PI));
    last = out[i];
  });
  return out;
}

/** Speed of an angle by the straight line through what lies within half a window on either side. */
function localSpeed(
  theta: Float64Array,
  tS: ArrayLike<number>,
  windowS: number,
  otherwise: number,
): number[] {
  let from = 0;
  let to = 0;
  return Array.from(theta, (_, i) => {
    while (tS[from] < tS[i] - windowS / 2) from += 1;
    while (to < theta.length - 1 && tS[to + 1] <= tS[i] + windowS / 2) to += 1;
    let [n, st, sv, stt, stv] = [0, 0, 0, 0, 0];
    for (let k = from; k <= to; k += 1) {
      if (!Number.isFinite(theta[k])) continue;
      const t = tS[k] - tS[i];
      n += 1;
      st += t;
      sv += theta[k];
      stt += t * t;
      stv += t * theta[k];
    }
    const slope = (n * stv - st * sv) / (n * stt - st * st);
    return slope > 0.5 * otherwise && slope < 2 * otherwise ? slope : otherwise;
  });
}
