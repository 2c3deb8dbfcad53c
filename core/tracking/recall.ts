import type { ImagePoint } from '../math/vec.ts';

/** Where a lost landmark must be by what the others did before: px, and how far that may be off. */
export interface Recalled extends ImagePoint {
  spreadPx: number;
}

/** What was seen on earlier frames, a few turns long. */
export interface StrokeMemory {
  /** Keeps where the landmarks were seen on a frame; null for one that was not. */
  note: (seen: readonly (ImagePoint | null)[]) => void;
  /** Where a landmark was when the others stood as they do on this frame; null where they never did with it in sight. */
  recall: (which: number, seen: readonly (ImagePoint | null)[]) => Recalled | null;
}

/** Frames that are kept: some four turns at 60 frames/s. */
const KEPT = 256;
/** So many others have to be seen, or their stand says too little. */
const LEAST_SEEN = 3;
/** Root mean square of how far the others may stand from where they did, px, before the stand counts as another one. */
const SAME_STAND_PX = 5;
/** The lost one's place may be off by as much as the others miss, and by so much more, px. */
const LEAST_SPREAD_PX = 2;

/**
 * Remembers how the landmarks of a pedalling rider stood to each other. A leg on a crank is a linkage of one freedom: where its other
 * joints stand says where in the stroke it is, whatever the cadence and whichever way time runs, and so where the lost one must be as
 * soon as one turn has been seen. A body that has moved on the bike since stands as it never did, and nothing is recalled.
 * @param count of landmarks, in the order of every call
 */
export function strokeMemory(count: number): StrokeMemory {
  const rows: Float64Array[] = [];
  let oldest = 0;
  const at = (k: number): Float64Array => rows[(oldest + k) % rows.length];
  /** Mean square of how far two stands differ, over what both have and is not the one asked for; Infinity where too little is common. */
  const gap = (a: Float64Array, b: Float64Array, not: number): number => {
    let [sum, n] = [0, 0];
    for (let i = 0; i < count; i += 1) {
      if (i === not || Number.isNaN(a[2 * i]) || Number.isNaN(b[2 * i])) continue;
      sum += (a[2 * i] - b[2 * i]) ** 2 + (a[2 * i + 1] - b[2 * i + 1]) ** 2;
      n += 1;
    }
    return n < LEAST_SEEN ? Infinity : sum / n;
  };
  const rowOf = (seen: readonly (ImagePoint | null)[]): Float64Array =>
    Float64Array.from({ length: 2 * count }, (_, k) => {
      const p = seen[k >> 1];
      return p ? (k % 2 === 0 ? p.x : p.y) : NaN;
    });
  return {
    note(seen) {
      if (rows.length < KEPT) rows.push(rowOf(seen));
      else {
        rows[oldest] = rowOf(seen);
        oldest = (oldest + 1) % KEPT;
      }
    },
    recall(which, seen) {
      const now = rowOf(seen);
      let best: { k: number; gap: number } | null = null;
      for (let k = 0; k < rows.length; k += 1) {
        const row = at(k);
        if (Number.isNaN(row[2 * which])) continue;
        const d = gap(now, row, which);
        if (d < (best?.gap ?? Infinity)) best = { k, gap: d };
      }
      if (!best) return null;
      // Between two frames: as far along as the others are.
      let place = { x: at(best.k)[2 * which], y: at(best.k)[2 * which + 1] };
      let missed = best.gap;
      for (const k of [best.k - 1, best.k + 1]) {
        if (k < 0 || k >= rows.length || Number.isNaN(at(k)[2 * which])) continue;
        const along = between(now, [at(best.k), at(k)], which);
        if (!along || along.gap >= missed) continue;
        missed = along.gap;
        const [a, b] = [at(best.k), at(k)];
        place = {
          x: a[2 * which] + along.share * (b[2 * which] - a[2 * which]),
          y: a[2 * which + 1] + along.share * (b[2 * which + 1] - a[2 * which + 1]),
        };
      }
      const rms = Math.sqrt(missed);
      return rms > SAME_STAND_PX ? null : { ...place, spreadPx: LEAST_SPREAD_PX + rms };
    },
  };
}

/** How far from one stand to another a third one lies, 0…1, and what it misses the way between them by (mean square, px²). */
function between(
  now: Float64Array,
  [a, b]: readonly [Float64Array, Float64Array],
  not: number,
): { share: number; gap: number } | null {
  let [dot, span, own, n] = [0, 0, 0, 0];
  for (let i = 0; i < now.length; i += 1) {
    if (i >> 1 === not || Number.isNaN(now[i]) || Number.isNaN(a[i]) || Number.isNaN(b[i])) continue;
    dot += (now[i] - a[i]) * (b[i] - a[i]);
    span += (b[i] - a[i]) ** 2;
    own += (now[i] - a[i]) ** 2;
    n += 0.5;
  }
  if (n < LEAST_SEEN || span === 0 || dot <= 0 || dot > span) return null;
  return { share: dot / span, gap: (own - (dot * dot) / span) / n };
}
