import { isSeen, type ImagePoint, type PlanePoint } from '../math/vec.ts';
import { bridgeGaps } from '../math/gaps.ts';
import { smoothSeries } from '../math/smooth.ts';
import { undoRounding } from '../camera/stamps.ts';
import { median } from '../math/statistics.ts';
import { pointAt, type Tracks } from '../tracking/tracks.ts';

/** What became of a landmark on the way from the film to its path. */
export interface LandmarkNote {
  seenFrames: number;
  /** Frames put in by bridging a short gap. */
  bridgedFrames: number;
  /** Frames that stay gaps. */
  lostFrames: number;
  /** Localisation noise, SD of the path about its smooth course, px. */
  noisePx: number;
}

/** Landmarks' paths in a plane, y up, mm; short gaps bridged. */
export interface Paths<K extends string> {
  tS: Float64Array;
  /** Which of the tracks' frames each entry is: doubled stamps are left out. */
  frames: Int32Array;
  raw: Record<K, PlanePoint[]>;
  notes: Record<K, LandmarkNote>;
}

/** Longest bridged gaps, s of unseen time: the leg moves fast; hip, trunk and arm move slowly and over a whole stroke. */
const BRIDGE_LEG_S = 0.06;
const BRIDGE_TRUNK_S = 0.12;
const FAST = /^(knee|ankle|heel|toe|spindle)/;

/** Leaves out frames whose stamp does not move on (a phone may write the same one twice). */
function growingFrames(tS: ArrayLike<number>): number[] {
  const keep: number[] = [];
  for (let i = 0; i < tS.length; i += 1)
    if (keep.length === 0 || tS[i] > tS[keep[keep.length - 1]] + 1e-6) keep.push(i);
  return keep;
}

/** How many frames have a time stamp of their own. */
export const ownStamps = (tS: ArrayLike<number>): number => growingFrames(tS).length;

/**
 * Brings tracks into a plane.
 * @param map image pixels to mm
 */
export function bringToPlane<K extends string>(
  tracks: Tracks,
  keys: readonly K[],
  map: (seen: ImagePoint) => PlanePoint,
): Paths<K> {
  const keep = growingFrames(tracks.tS);
  const tS = undoRounding(Float64Array.from(keep, (i) => tracks.tS[i]));
  const frameS = median(tS.slice(1).map((t, i) => t - tS[i]));
  const raw = {} as Paths<K>['raw'];
  const notes = {} as Paths<K>['notes'];
  for (const key of keys) {
    const plane = keep.map((i) => map(pointAt(tracks, key, i)));
    const longest = (FAST.test(key) ? BRIDGE_LEG_S : BRIDGE_TRUNK_S) + frameS;
    const bridged = (axis: 'x' | 'y') =>
      bridgeGaps(
        tS,
        plane.map((p) => p[axis]),
        longest,
      );
    const [x, y] = [bridged('x'), bridged('y')];
    raw[key] = Array.from(x.values, (v, i) => ({ x: v, y: y.values[i] }));
    const seen = x.values.reduce((n, v) => n + (Number.isFinite(v) ? 1 : 0), 0);
    const put = x.filled.reduce((n, v) => n + v, 0);
    notes[key] = { seenFrames: seen - put, bridgedFrames: put, lostFrames: plane.length - seen, noisePx: 0 };
  }
  return { tS, frames: Int32Array.from(keep), raw, notes };
}

/** The paths after a zero-lag low pass. */
export function smoothPaths<K extends string>(paths: Paths<K>, cutoffHz: number): Record<K, PlanePoint[]> {
  const out = {} as Record<K, PlanePoint[]>;
  for (const [key, p] of Object.entries(paths.raw) as [K, PlanePoint[]][]) {
    const along = (axis: 'x' | 'y') =>
      smoothSeries(
        paths.tS,
        p.map((q) => q[axis]),
        cutoffHz,
      );
    const [x, y] = [along('x'), along('y')];
    out[key] = p.map((_, i) => ({ x: x[i], y: y[i] }));
  }
  return out;
}

/** 6 Hz at 90 rpm is the field's usual cut-off; a slower or faster leg has its shape at lower or higher frequencies. */
export const cutoffFor = (cadenceRpm: number): number => (6 * cadenceRpm) / 90;

/** Localisation noise: how far each path lies about its smooth course, px. */
export function noteNoise<K extends string>(
  paths: Paths<K>,
  smooth: Record<K, PlanePoint[]>,
  mmPerPx: number,
): void {
  for (const [key, p] of Object.entries(paths.raw) as [K, PlanePoint[]][]) {
    if (!paths.notes[key]) continue;
    const off = new Float64Array(2 * p.length).fill(NaN);
    p.forEach((q, i) => {
      if (!isSeen(q)) return;
      off[2 * i] = Math.abs(q.x - smooth[key][i].x);
      off[2 * i + 1] = Math.abs(q.y - smooth[key][i].y);
    });
    paths.notes[key].noisePx = (1.4826 * median(off)) / mmPerPx;
  }
}
