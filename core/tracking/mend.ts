import type { LandmarkTrack } from './tracks.ts';

/** Places closer than this are the same spot, seen twice, px. */
const AGREE_PX = 1.5;
/** Frames over which one track turns into the other. */
const BLEND = 6;

/** A landmark followed anew from a frame that was put right: a value for each frame of the film, NaN where it was not followed. */
export type Fresh = LandmarkTrack;

const copy = (t: LandmarkTrack): LandmarkTrack => ({
  xPx: t.xPx.slice(),
  yPx: t.yPx.slice(),
  confidence: t.confidence.slice(),
});

/**
 * Puts a stretch followed anew into a track, from a corrected frame towards the next frame that is known to be right (the mark,
 * another correction, or the film's end), without a jump. Where both agree the old track takes over again; where they never do,
 * the fresh one is bent to meet the known frame.
 * @param at the corrected frame  @param towards the known frame, before or after it
 * @param known whether `towards` is right in the old track (not so at the film's ends)
 */
function mendTowards(
  old: LandmarkTrack,
  fresh: Fresh,
  { at, towards, known }: { at: number; towards: number; known: boolean },
): void {
  const step = Math.sign(towards - at);
  if (step === 0) return;
  let meet = -1;
  for (let i = at + step; i !== towards + step; i += step) {
    if (Math.hypot(old.xPx[i] - fresh.xPx[i], old.yPx[i] - fresh.yPx[i]) <= AGREE_PX) {
      meet = i;
      break;
    }
  }
  const put = (i: number, x: number, y: number, c: number): void => {
    old.xPx[i] = x;
    old.yPx[i] = y;
    old.confidence[i] = c;
  };
  const end = meet >= 0 ? meet : towards;
  // What the fresh track misses the known frame by is shared out over the way to it.
  const bend = meet < 0 && known && Number.isFinite(fresh.xPx[towards] + old.xPx[towards]);
  const missX = bend ? old.xPx[towards] - fresh.xPx[towards] : 0;
  const missY = bend ? old.yPx[towards] - fresh.yPx[towards] : 0;
  for (let i = at + step; i !== end; i += step) {
    const share = (i - at) / (towards - at);
    put(i, fresh.xPx[i] + share * missX, fresh.yPx[i] + share * missY, fresh.confidence[i]);
  }
  if (meet < 0) {
    if (!known) put(end, fresh.xPx[end], fresh.yPx[end], fresh.confidence[end]);
    return;
  }
  // From there the old track holds; over a few frames the small difference is let go.
  for (let k = 0; k < BLEND; k += 1) {
    const i = meet + k * step;
    if (i === towards || i < 0 || i >= old.xPx.length) break;
    if (!Number.isFinite(fresh.xPx[i] + old.xPx[i])) break;
    const w = 1 - (k + 1) / (BLEND + 1);
    put(
      i,
      w * fresh.xPx[i] + (1 - w) * old.xPx[i],
      w * fresh.yPx[i] + (1 - w) * old.yPx[i],
      Math.max(old.confidence[i], w * fresh.confidence[i]),
    );
  }
}

/**
 * A track with one frame put right: only the stretch up to the nearest frames that are known to be right is changed.
 * @param fresh the landmark followed anew from that frame both ways  @param at the corrected frame
 * @param right other frames on which the track is right by the fitter's word: the mark and earlier corrections
 * @param range first and last followed frames
 * @returns a new track; the one given stays as it was
 */
export function mendTrack(
  track: LandmarkTrack,
  fresh: Fresh,
  { at, right, range }: { at: number; right: readonly number[]; range: { from: number; to: number } },
): LandmarkTrack {
  const out = copy(track);
  const before = Math.max(range.from, ...right.filter((f) => f < at));
  const after = Math.min(range.to, ...right.filter((f) => f > at));
  mendTowards(out, fresh, { at, towards: before, known: right.includes(before) });
  mendTowards(out, fresh, { at, towards: after, known: right.includes(after) });
  out.xPx[at] = fresh.xPx[at];
  out.yPx[at] = fresh.yPx[at];
  out.confidence[at] = 1;
  return out;
}

/** Two tracks that were taken for one another from a frame on (to another one): each gets the other's places. */
export function swapTracks(
  a: LandmarkTrack,
  b: LandmarkTrack,
  from: number,
  to: number,
): [LandmarkTrack, LandmarkTrack] {
  const [p, q] = [copy(a), copy(b)];
  for (const field of ['xPx', 'yPx', 'confidence'] as const) {
    for (let i = from; i <= to; i += 1) {
      p[field][i] = b[field][i];
      q[field][i] = a[field][i];
    }
  }
  return [p, q];
}
