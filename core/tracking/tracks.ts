import type { ImagePoint, Vec2 } from '../math/vec.ts';

/** One landmark through a clip: a value a frame, NaN where it was not seen. */
export interface LandmarkTrack {
  xPx: Float64Array;
  yPx: Float64Array;
  /** 0…1; 0 where unseen. */
  confidence: Float32Array;
}

/** What tracking leaves behind: the clip's own time stamps and every landmark's path, image pixels, y down. */
export interface Tracks {
  tS: Float64Array;
  landmarks: Record<string, LandmarkTrack>;
}

/** Empty tracks for a clip: nothing seen yet. */
export function emptyTracks(tS: ArrayLike<number>, keys: readonly string[]): Tracks {
  const n = tS.length;
  return {
    tS: Float64Array.from(tS),
    landmarks: Object.fromEntries(
      keys.map((key) => [
        key,
        {
          xPx: new Float64Array(n).fill(NaN),
          yPx: new Float64Array(n).fill(NaN),
          confidence: new Float32Array(n),
        },
      ]),
    ),
  };
}

/**
 * Tracks as they came out of a store, looked over: every path as long as the film's times.
 * @returns null where they are damaged, or no tracks at all
 */
export function storedTracks(stored: unknown): Tracks | null {
  const { tS, landmarks } = (stored ?? {}) as Partial<Tracks>;
  if (!(tS instanceof Float64Array) || typeof landmarks !== 'object' || landmarks === null) return null;
  const whole = Object.values(landmarks as Record<string, Partial<LandmarkTrack> | null>).every(
    (t) =>
      t?.xPx instanceof Float64Array &&
      t.yPx instanceof Float64Array &&
      t.confidence instanceof Float32Array &&
      [t.xPx, t.yPx, t.confidence].every((list) => list.length === tS.length),
  );
  return whole && tS.every((t, i) => (i === 0 ? Number.isFinite(t) : t > tS[i - 1]))
    ? { tS, landmarks }
    : null;
}

/** A landmark's place on a frame; NaN where unseen or not tracked at all. */
export function pointAt(tracks: Tracks, key: string, frame: number): ImagePoint {
  const track = tracks.landmarks[key];
  return track ? { x: track.xPx[frame], y: track.yPx[frame] } : { x: NaN, y: NaN };
}

/** On how many frames a landmark was seen; 0 where it was not tracked at all. */
export const framesSeen = (tracks: Tracks, key: string): number =>
  tracks.landmarks[key]?.xPx.reduce((n, v) => n + (Number.isFinite(v) ? 1 : 0), 0) ?? 0;

/** On how many frames of the strokes that count a path is there. @param strokeOf of each frame its stroke, −1 for none */
export const framesInStrokes = (path: readonly Vec2[], strokeOf: Int32Array): number =>
  path.reduce((n, p, i) => n + Number(strokeOf[i] >= 0 && Number.isFinite(p.x)), 0);

/** Tracks on which some landmarks are never seen. */
export const withoutLandmarks = (tracks: Tracks, keys: readonly string[]): Tracks => ({
  ...tracks,
  landmarks: Object.fromEntries(
    Object.entries(tracks.landmarks).map(([key, t]) =>
      keys.includes(key)
        ? [key, { ...t, xPx: t.xPx.slice().fill(NaN), yPx: t.yPx.slice().fill(NaN) }]
        : [key, t],
    ),
  ),
});

/** With fewer landmarks than this a frame on which none is seen says nothing of the film. */
const LEAST_TO_TELL = 3;

/**
 * Whether a frame was left out as the same picture again: nothing is seen on it, and much of it on the frames beside it.
 */
export function isLeftOut(tracks: Tracks, frame: number): boolean {
  const all = Object.values(tracks.landmarks);
  if (all.length < LEAST_TO_TELL) return false;
  const seen = (i: number): number => all.filter((t) => t.confidence[i] > 0).length;
  return seen(frame) === 0 && 2 * seen(frame - 1) >= all.length && 2 * seen(frame + 1) >= all.length;
}
