import type { FilmPart } from '../../core/visit/filmParts.ts';
import { proxy } from 'comlink';
import equal from 'fast-deep-equal';
import { createStore } from 'zustand/vanilla';
import type { FitSession, Take, TrackingState } from '../../core/records/types.ts';
import { GUIDES } from '../../core/landmarks/landmarks.ts';
import type { Tracks } from '../../core/tracking/tracks.ts';
import { mustEdit, visitStore } from '../session/visits';
import { saving } from '../storage/saveState';
import { saveTracks } from '../storage/stores';
import { surveyStore } from './surveys';
import { spawnTracker } from '../workers/spawn';
import type { TrackProgress } from '../workers/trackClip';
import { runJob, stopJob } from './jobs';

/** How the last tracking of a take goes or went, in this page. */
export interface TrackingNow {
  /** All that is tracked so far, and the revision that it is kept by. */
  made: { revision: number; tracks: Tracks } | null;
  /** Why it could not go on. */
  trouble: string | null;
  /** Landmarks without a sticker, followed by the look of the spot. */
  patches: readonly string[];
}

const NOTHING: TrackingNow = { made: null, trouble: null, patches: [] };

export const trackingStore = createStore<{ takes: Readonly<Record<string, TrackingNow>> }>()(() => ({
  takes: {},
}));

const put = (takeId: string, part: Partial<TrackingNow>): void =>
  trackingStore.setState(({ takes }) => ({
    takes: { ...takes, [takeId]: { ...(takes[takeId] ?? NOTHING), ...part } },
  }));

export const trackingJob = (takeId: string): string => `track:${takeId}`;
export const stopTracking = (takeId: string): void => stopJob(trackingJob(takeId));

/** The part of the film that is followed: the trimmed one, and the marked frame with it; null is the whole. */
export const rangeOf = (take: Take): FilmPart | null =>
  take.trim && {
    from: Math.min(take.trim.from, take.markedFrame),
    to: Math.max(take.trim.to, take.markedFrame),
  };

/** What is tracked so far is kept every so often: a page that is closed loses no more than that, ms. */
const KEEP_MS = 1200;
const MARKS_CHANGED = 'The marks were changed while the film was tracked: track it again from the new ones.';
/** A frame that is being worked on is finished when it is stopped. */
const GRACE_MS = 10_000;

/** A take of an open visit as it is shown now, with its visit. */
export const shownTake = (visitId: string, takeId: string): { session: FitSession; take: Take } | null => {
  const session = visitStore.getState().open[visitId]?.shown;
  const take = session?.takes.find((t) => t.id === takeId);
  return session && take ? { session, take } : null;
};

/** Stores a take's tracks, with how its camera moved where that was seen. @param step one to take back */
export async function keepTracks(
  visitId: string,
  take: Take,
  { tracks, tracking, step }: { tracks: Tracks; tracking: TrackingState; step: string },
): Promise<void> {
  await saving(() => saveTracks(take.id, tracking.revision, tracks));
  const path = surveyStore.getState().takes[take.id]?.cameraPath;
  if (path && !equal(shownTake(visitId, take.id)?.take.cameraPath, path))
    await mustEdit(visitId, { kind: 'camera-path', takeId: take.id, path }, step);
  await mustEdit(visitId, { kind: 'tracking', takeId: take.id, tracking }, step);
}

/**
 * Follows a take's marks through its film, whatever page is drawn meanwhile; what is done is kept with the visit.
 * @param station where it is asked for: anywhere else its end is reported
 */
// eslint-disable-next-line max-lines-per-function -- one step after the other, each needing what the one before gave
export async function trackTake(
  session: FitSession,
  take: Take,
  film: Blob,
  station: 'track' | 'film' = 'track',
): Promise<void> {
  put(take.id, NOTHING);
  // Tracks of earlier marks stay where they are, for an undo.
  const revision = Date.now();
  const keep = async (tracks: Tracks, state: 'done' | 'stopped', framesDone: number): Promise<void> => {
    // The fitter may have gone back to the marks meanwhile: these tracks are not of the new ones.
    const now = shownTake(session.id, take.id)?.take;
    if (!now) throw new Error('The film was removed while it was tracked.');
    if (now.markedFrame !== take.markedFrame || !equal(now.marks, take.marks)) throw new Error(MARKS_CHANGED);
    await keepTracks(session.id, take, {
      tracks,
      tracking: { state, framesDone, estimated: false, revision },
      // One step to take back, however often it was kept on the way.
      step: `tracking ${revision}`,
    });
  };
  const end = await runJob(trackingJob(take.id), {
    label: `Tracking ${take.clipName}`,
    to: `/sessions/${session.id}/${station}`,
    oneTab: true,
    graceMs: GRACE_MS,
    work: async ({ signal, tell }) => {
      const worker = spawnTracker();
      signal.addEventListener('abort', () => void worker.api.stop());
      let keptAt = performance.now();
      let keeping: Promise<unknown> = Promise.resolve();
      let answered = false;
      const onProgress = (p: TrackProgress): void => {
        // Word of the way may come after the answer, which came by another port: it is old then.
        if (answered || signal.aborted) return;
        tell(p.framesDone, p.frames);
        put(take.id, { made: { revision, tracks: p.tracks } });
        if (performance.now() - keptAt < KEEP_MS) return;
        keptAt = performance.now();
        // One that finds no room says so in the page's corner; the last one, with all of it, is the one that counts.
        keeping = keep(p.tracks, 'stopped', p.framesDone).catch(() => undefined);
      };
      const marks = Object.fromEntries(
        GUIDES[take.view].flatMap(({ key }) => {
          const m = take.marks[key];
          return m ? [[key, { x: m.x, y: m.y }]] : [];
        }),
      );
      try {
        const answer = await worker.api.track(
          film,
          take.markedFrame,
          marks,
          proxy(onProgress),
          rangeOf(take),
        );
        answered = true;
        await keeping;
        if (!answer.ok) throw new Error(`${answer.trouble.title} ${answer.trouble.advice}`);
        put(take.id, { made: { revision, tracks: answer.tracks }, patches: answer.patches });
        await keep(answer.tracks, answer.stopped ? 'stopped' : 'done', answer.framesDone);
      } finally {
        worker.end();
      }
    },
  });
  put(take.id, { trouble: end.ok ? null : end.why });
}
