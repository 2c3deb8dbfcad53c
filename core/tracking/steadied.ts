import { bisectRight } from 'd3';
import type { ImagePoint } from '../math/vec.ts';
import type { Tracks } from './tracks.ts';

/** How far the picture of what stands still has moved since the film began, px: the camera was knocked, or trembled. */
export interface CameraPath {
  tS: number[];
  xPx: number[];
  yPx: number[];
}

/** Where the picture stands at a time, px: evenly between the times that are known, and as at the ends beyond them. */
export function standsAt({ tS, xPx, yPx }: CameraPath, t: number): ImagePoint {
  if (tS.length === 0) return { x: 0, y: 0 };
  const after = bisectRight(tS, t);
  const b = Math.min(after, tS.length - 1);
  const a = Math.max(0, after - 1);
  const share = b === a ? 0 : (t - tS[a]) / (tS[b] - tS[a]);
  return { x: xPx[a] + share * (xPx[b] - xPx[a]), y: yPx[a] + share * (yPx[b] - yPx[a]) };
}

/**
 * Tracks as a camera that had not been moved would have seen them, from where it stood on one frame: the one on which scale and marks
 * were taken.
 */
export function steadied(tracks: Tracks, path: CameraPath | null, frame: number): Tracks {
  if (!path) return tracks;
  const rest = standsAt(path, tracks.tS[Math.min(frame, tracks.tS.length - 1)]);
  const off = Array.from(tracks.tS, (t) => standsAt(path, t));
  return {
    ...tracks,
    landmarks: Object.fromEntries(
      Object.entries(tracks.landmarks).map(([key, track]) => [
        key,
        {
          ...track,
          xPx: track.xPx.map((x, i) => x - (off[i].x - rest.x)),
          yPx: track.yPx.map((y, i) => y - (off[i].y - rest.y)),
        },
      ]),
    ),
  };
}
