import type { FitSession, Take } from '../../core/records/types.ts';
import { plainName, type Landmark } from '../../core/landmarks/landmarks.ts';
import type { Tracks } from '../../core/tracking/tracks.ts';
import { reanchored } from '../../core/landmarks/poseJoints.ts';
import { askPoses } from './askPoses';
import { keepCorrected } from './correcting';
import { runJob } from './jobs';

/** The model is asked about this many frames, and no closer together than so many. */
const POSES = 24;
const CLOSEST_FRAMES = 8;

export const holdingJob = (takeId: string): string => `hold:${takeId}`;

/** Holds paths that were followed without a sticker to where the pose model sees the joint, every so many frames. */
export async function holdByModel(
  session: FitSession,
  take: Take,
  { tracks, loose, film }: { tracks: Tracks; loose: readonly Landmark[]; film: Blob },
): Promise<void> {
  const { from, to } = take.trim ?? { from: 0, to: take.video.frames - 1 };
  const step = Math.max(CLOSEST_FRAMES, Math.ceil((to - from) / POSES));
  const indices = new Set([take.markedFrame]);
  for (let i = from; i <= to; i += step) indices.add(i);
  const frames = [...indices].sort((a, b) => a - b);
  await runJob(holdingJob(take.id), {
    label: 'Holding paths by the pose model',
    to: `/sessions/${session.id}/track`,
    work: async (handle) => {
      const { seen } = await askPoses(film, { framesOf: () => frames, view: take.view }, handle);
      if (handle.signal.aborted) return '';
      const landmarks = { ...tracks.landmarks };
      const words: string[] = [];
      for (const key of loose) {
        const anchors = seen.map((s) => ({ frame: s.frame, p: s.joints[key] ?? null }));
        const { xPx, yPx, movedPx } = reanchored(landmarks[key], anchors, take.markedFrame);
        if (movedPx === 0) continue;
        landmarks[key] = { ...landmarks[key], xPx, yPx };
        words.push(`${plainName(key)} by up to ${movedPx.toFixed(0)} px`);
      }
      if (words.length === 0) return 'The model agrees with every path: nothing was moved.';
      await keepCorrected(session.id, take, {
        made: { tS: tracks.tS, landmarks },
        corrections: take.corrections,
        hidden: take.hidden,
      });
      return `Moved to the joint: ${words.join(', ')}. Undo takes it back.`;
    },
  });
}
