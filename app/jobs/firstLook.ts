import { limbsLost } from '../../core/kinematics/estimated.ts';
import { plainName, SIDE_LANDMARKS } from '../../core/landmarks/landmarks.ts';
import { POSES_PER_S, posePaths } from '../../core/landmarks/posePaths.ts';
import { pointAt, type Tracks } from '../../core/tracking/tracks.ts';
import type { FitSession, Take } from '../../core/records/types.ts';
import { askPoses } from './askPoses';
import { runJob } from './jobs';
import { keepFollowed } from './survey';

export const firstLookJob = (takeId: string): string => `first-look:${takeId}`;

/** No more of a film is looked at than this, s: six turns tell as much as sixty, and each picture takes its time. */
const LONGEST_S = 8;
/** The leg, which a reading can’t do without. */
const LEG = ['hip', 'knee', 'ankle', 'toe'] as const;

/** Every so many frames of a film, from its first one on. */
function spacedFrames(tS: ArrayLike<number>, { from, to }: { from: number; to: number }): number[] {
  const out: number[] = [];
  for (let i = from; i <= to && tS[i] - tS[from] <= LONGEST_S; i += 1)
    if (out.length === 0 || tS[i] - tS[out[out.length - 1]] > 1 / POSES_PER_S - 1e-3) out.push(i);
  return out;
}

const lostWords = (lost: ReturnType<typeof limbsLost>): string =>
  `The pose model does not hold the leg on this film: from ${lost.map(([a, b]) => `${plainName(a)} to ${plainName(b)}`).join(' and from ')} it changes its length. Point the joints out on Mark, or film with stickers.`;

/** The frame on which the joints are seen best. */
function bestFrame(tracks: Tracks, frames: readonly number[]): number {
  const sureOn = (i: number): number =>
    Math.min(...SIDE_LANDMARKS.map((k) => tracks.landmarks[k].confidence[i]));
  return frames.reduce((a, b) => (sureOn(b) > sureOn(a) ? b : a));
}

/**
 * A first look at a film without stickers: the pose model's joints through the film, taken for the take's own as estimates, with the
 * wheels that were found; in one step to take back. @returns whether it came to its end
 */
export async function lookWithoutStickers(session: FitSession, take: Take, film: Blob): Promise<boolean> {
  const end = await runJob(firstLookJob(take.id), {
    label: `A first look at ${take.clipName}`,
    to: `/sessions/${session.id}/film`,
    oneTab: true,
    work: async (handle) => {
      const framesOf = (all: ArrayLike<number>): number[] =>
        spacedFrames(all, take.trim ?? { from: 0, to: all.length - 1 });
      const { tS, seen } = await askPoses(film, { framesOf, view: take.view }, handle);
      if (handle.signal.aborted) return '';
      const frames = seen.map((s) => s.frame);
      const tracks: Tracks = { tS, landmarks: posePaths(tS, seen, SIDE_LANDMARKS) };
      const missing = LEG.filter((k) => !tracks.landmarks[k].confidence.some((c) => c > 0));
      if (missing.length > 0)
        throw new Error(
          'The pose model sees no whole leg on this film. Point the joints out on Mark, or film with stickers.',
        );
      const lost = limbsLost(
        Object.fromEntries(LEG.map((k) => [k, frames.map((i) => pointAt(tracks, k, i))])),
      );
      if (lost.length > 0) throw new Error(lostWords(lost));
      const frame = bestFrame(tracks, frames);
      await keepFollowed(session, take, {
        tracks,
        frame,
        framesDone: frames[frames.length - 1] + 1,
        estimated: true,
        step: `first look ${take.id}`,
      });
      return '';
    },
    words: () => null,
  });
  return end.ok;
}
