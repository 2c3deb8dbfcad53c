import { median } from '../math/statistics.ts';
import { resample } from '../math/resample.ts';
import { distance, type ImagePoint } from '../math/vec.ts';
import type { PosePoint } from './poseJoints.ts';

/** The pose model is asked about so many pictures a second: a foot at 95 rpm is seen a dozen times a turn. */
export const POSES_PER_S = 20;

/** A place is held against the line through its neighbours; so many times the usual miss, and at least so many px, is a slip of the model. */
const SLIP_TIMES = 6;
const SLIP_LEAST_PX = 12;
/** Poses further apart than this leave a gap between them, s. */
const LONGEST_S = 0.16;

/** What the pose model saw of a film, in order. */
export interface SeenPose<K extends string> {
  frame: number;
  joints: Partial<Record<K, PosePoint>>;
}

/** Poses without the ones on which the model slipped: the other leg, a hand on the wall. */
function withoutSlips(at: readonly { tS: number; p: PosePoint }[]): { tS: number; p: PosePoint }[] {
  const misses = at.map(({ tS, p }, i) => {
    const [a, b] = [at[i - 1], at[i + 1]];
    if (!a || !b) return 0;
    const share = (tS - a.tS) / (b.tS - a.tS);
    const between: ImagePoint = {
      x: a.p.x + share * (b.p.x - a.p.x),
      y: a.p.y + share * (b.p.y - a.p.y),
    };
    return distance(p, between);
  });
  const most = Math.max(SLIP_LEAST_PX, SLIP_TIMES * median(misses));
  // A slip bends the line at its neighbours too: only the worst of three counts.
  return at.filter(
    (_, i) => misses[i] <= most || misses[i] < Math.max(misses[i - 1] ?? 0, misses[i + 1] ?? 0),
  );
}

/**
 * A film's tracks from what the pose model saw on every so many pictures: slips left out, and a cubic between the others. What a film
 * without stickers gives for a first look.
 * @param tS times of all frames, s
 * @returns each landmark's path, px; NaN where the model did not see it
 */
export function posePaths<K extends string>(
  tS: ArrayLike<number>,
  seen: readonly SeenPose<K>[],
  keys: readonly K[],
): Record<K, { xPx: Float64Array; yPx: Float64Array; confidence: Float32Array }> {
  const out = {} as ReturnType<typeof posePaths<K>>;
  for (const key of keys) {
    const at = withoutSlips(
      seen.flatMap(({ frame, joints }) => {
        const p = joints[key];
        return p ? [{ tS: tS[frame], p }] : [];
      }),
    );
    const times = at.map((a) => a.tS);
    const lay = (of: (p: PosePoint) => number): Float64Array =>
      resample(
        times,
        at.map((a) => of(a.p)),
        tS,
      );
    const [xPx, yPx] = [lay((p) => p.x), lay((p) => p.y)];
    const confidence = new Float32Array(tS.length);
    let k = 0;
    for (let i = 0; i < tS.length; i += 1) {
      while (k < times.length - 1 && times[k + 1] <= tS[i]) k += 1;
      const [a, b] = [at[k], at[k + 1] ?? at[k]];
      const isGap = !a || (b.tS - a.tS > LONGEST_S && tS[i] > a.tS && tS[i] < b.tS);
      if (isGap || !Number.isFinite(xPx[i])) [xPx[i], yPx[i]] = [NaN, NaN];
      else confidence[i] = tS[i] === a.tS ? a.p.sure : Math.min(a.p.sure, b.p.sure);
    }
    out[key] = { xPx, yPx, confidence };
  }
  return out;
}
