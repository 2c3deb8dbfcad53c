import { jointsOfPose, type PosePoint } from '../../core/landmarks/poseJoints.ts';
import type { Landmark, View } from '../../core/landmarks/landmarks.ts';
import type { SeenPose } from '../../core/landmarks/posePaths.ts';
import { spawnClipReader } from '../workers/spawn';
import type { Handle } from './jobs';
import { openPoseModel, type PoseModel } from './poseModel';
import { withWorker } from './withWorker';

/** Asks the pose model about frames of a film, in order. @param framesOf which, by all frames' times, s @throws with a sentence where model or film can’t be opened */
export function askPoses(
  film: Blob,
  { framesOf, view }: { framesOf: (tS: Float64Array) => readonly number[]; view: View },
  { signal, tell }: Handle,
): Promise<{ tS: Float64Array; seen: SeenPose<Landmark>[] }> {
  let model: PoseModel | null = null;
  signal.addEventListener('abort', () => model?.close());
  return withWorker(spawnClipReader(), signal, async (reader) => {
    try {
      const opened = await reader.open(film);
      if (!opened.ok) throw new Error(opened.trouble.title);
      const { tS } = opened;
      const frames = framesOf(tS);
      tell(0, frames.length);
      const seen: SeenPose<Landmark>[] = [];
      model = await openPoseModel();
      if (signal.aborted) return { tS, seen };
      for (const [k, frame] of frames.entries()) {
        const picture = await reader.frame(frame);
        const points: PosePoint[] | null = picture && (await model.find(picture));
        seen.push({ frame, joints: points ? jointsOfPose(points, view) : {} });
        tell(k + 1, frames.length);
      }
      return { tS, seen };
    } finally {
      model?.close();
    }
  });
}
