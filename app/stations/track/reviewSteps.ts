import type { ImagePoint } from '../../../core/math/vec.ts';
import type { Landmark } from '../../../core/landmarks/landmarks.ts';
import type { Doubt } from '../../../core/kinematics/review.ts';
import { pointAt, type Tracks } from '../../../core/tracking/tracks.ts';

export interface Review {
  doubts: readonly Doubt[];
  /** The doubt that was gone to. */
  current: Doubt | null;
  selected: Landmark | null;
  select: (key: Landmark | null) => void;
  /** Where the selected landmark is to be put on this frame; null while it stands as it was followed. */
  draft: ImagePoint | null;
  setDraft: (at: ImagePoint | null) => void;
  next: (by: 1 | -1) => void;
  putRight: (at?: ImagePoint) => Promise<void>;
  hide: () => Promise<void>;
  show: () => Promise<void>;
  /** From here to the doubt's end (or the film's). */
  swap: (other: Landmark) => Promise<void>;
  /** The other landmarks, the nearest to the selected one on this frame first. */
  nearest: readonly Landmark[];
  busy: boolean;
  message: string | null;
}

/** The doubt to go to next from a frame; several on one frame come one after another, after the last comes the first. */
export function nextDoubt(
  doubts: readonly Doubt[],
  current: Doubt | null,
  frame: number,
  by: 1 | -1,
): Doubt | null {
  if (doubts.length === 0) return null;
  const order = by === 1 ? doubts : [...doubts].reverse();
  const ahead = (d: Doubt): boolean => (by === 1 ? d.at > frame : d.at < frame);
  const k = current ? doubts.findIndex((d) => d.at === current.at && d.landmark === current.landmark) : -1;
  const adjacent = k >= 0 && current!.at === frame ? doubts[k + by] : undefined;
  return adjacent ?? order.find(ahead) ?? order[0];
}

/** The other landmarks, the nearest to a place on this frame first; what is not seen on it comes last. */
export function nearestTo(tracks: Tracks, key: Landmark, frame: number, here: ImagePoint): Landmark[] {
  const far = (other: Landmark): number => {
    const p = pointAt(tracks, other, frame);
    const gap = Math.hypot(p.x - here.x, p.y - here.y);
    return Number.isFinite(gap) ? gap : Infinity;
  };
  return (Object.keys(tracks.landmarks) as Landmark[])
    .filter((k) => k !== key)
    .sort((a, b) => far(a) - far(b));
}

/** Where a landmark is on a frame, or was seen last before it (else first after it). */
export function lastSeen(tracks: Tracks, key: Landmark, frame: number): ImagePoint | null {
  for (let i = frame; i >= 0; i -= 1) {
    const p = pointAt(tracks, key, i);
    if (Number.isFinite(p.x)) return p;
  }
  for (let i = frame + 1; i < tracks.tS.length; i += 1) {
    const p = pointAt(tracks, key, i);
    if (Number.isFinite(p.x)) return p;
  }
  return null;
}
