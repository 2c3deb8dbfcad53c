import type { ImagePoint } from '../../core/math/vec.ts';
import type { Correction, FitSession, Hidden, Take } from '../../core/records/types.ts';
import { plainName, type Landmark } from '../../core/landmarks/landmarks.ts';
import { mendTrack } from '../../core/tracking/mend.ts';
import type { Tracks } from '../../core/tracking/tracks.ts';
import { mustEdit } from '../session/visits';
import { saving } from '../storage/saveState';
import { saveTracks } from '../storage/stores';
import { spawnTracker } from '../workers/spawn';
import { withWorker } from './withWorker';
import { runJob, type JobEnd } from './jobs';

const SNAP_PX = 6;

export const correctingJob = (takeId: string): string => `correct:${takeId}`;

/** Keeps what was corrected on a take: new tracks where some were made, and what was noted about them. */
export async function keepCorrected(
  visitId: string,
  take: Take,
  { made, corrections, hidden }: { made: Tracks | null; corrections: Correction[]; hidden: Hidden[] },
): Promise<void> {
  const revision = made ? Date.now() : take.tracking.revision;
  if (made) await saving(() => saveTracks(take.id, revision, made));
  await mustEdit(visitId, {
    kind: 'corrected',
    takeId: take.id,
    corrections,
    hidden,
    tracking: { ...take.tracking, revision },
  });
}

/** Puts a landmark right on a frame, and follows it again from there as far as the next frame on which it was pointed out. */
export function putRight(
  session: FitSession,
  take: Take,
  {
    landmark,
    frame,
    at,
    tracks,
    film,
  }: { landmark: Landmark; frame: number; at: ImagePoint; tracks: Tracks; film: Blob },
): Promise<JobEnd<string>> {
  const range = take.trim ?? { from: 0, to: take.video.frames - 1 };
  const right = [
    take.markedFrame,
    ...take.corrections.filter((c) => c.landmark === landmark && c.frame !== frame).map((c) => c.frame),
  ].filter((f) => f !== frame);
  const part = {
    from: Math.max(range.from, ...right.filter((f) => f < frame)),
    to: Math.min(range.to, ...right.filter((f) => f > frame)),
  };
  return runJob(correctingJob(take.id), {
    label: `Tracking ${plainName(landmark)} again`,
    to: `/sessions/${session.id}/track`,
    work: ({ signal }) =>
      withWorker(spawnTracker(), signal, async (api) => {
        // A finger misses by a few pixels: the sticker under it is meant.
        const centre = await api.snap(film, frame, at);
        const near = centre && Math.hypot(centre.x - at.x, centre.y - at.y) < SNAP_PX;
        const place = near ? centre : at;
        const fresh = await api.follow(film, frame, place, part);
        if (!fresh) throw new Error('The film could not be opened.');
        const mended = mendTrack(tracks.landmarks[landmark], fresh, { at: frame, right, range });
        await keepCorrected(session.id, take, {
          made: { tS: tracks.tS, landmarks: { ...tracks.landmarks, [landmark]: mended } },
          corrections: [
            ...take.corrections.filter((c) => c.landmark !== landmark || c.frame !== frame),
            { landmark, frame, x: place.x, y: place.y },
          ],
          hidden: take.hidden,
        });
        return `${plainName(landmark)} corrected on frame ${frame}, followed again from ${part.from} to ${part.to}.`;
      }),
  });
}
