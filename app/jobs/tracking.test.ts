import 'fake-indexeddb/auto';
import { beforeEach, expect, it, vi } from 'vitest';
import { emptyTracks, type Tracks } from '../../core/tracking/tracks.ts';
import { CATALOGUE } from '../demo/catalogue.ts';
import { closeVisits, editVisit, openVisit, stepVisit, visitStore } from '../session/visits';
import { loadTracks, putSession } from '../storage/stores';
import type { TrackProgress } from '../workers/trackClip';
import { isRunning } from './jobs';
import { surveyStore, type TakeSurvey } from './surveys';
import { stopTracking, trackingJob, trackingStore, trackTake } from './tracking';

vi.stubGlobal('navigator', { userAgent: 'Chrome/140' });

/** Comlink’s proxies are for workers; the tracker here is in this room. */
vi.mock('comlink', () => ({ proxy: <T>(f: T): T => f }));

type Track = (...args: unknown[]) => Promise<unknown>;
const tracker = vi.hoisted(() => ({ track: null as Track | null, stopped: 0, ended: 0 }));
vi.mock('../workers/spawn', () => ({
  spawnTracker: () => ({
    api: {
      track: (...args: unknown[]) => tracker.track!(...args),
      stop: () => {
        tracker.stopped += 1;
      },
    },
    end: () => {
      tracker.ended += 1;
    },
  }),
}));

const ID = 'pilar-1';
const FRAMES = 40;

function tracksOf(done: number): Tracks {
  const tracks = emptyTracks(
    Float64Array.from({ length: FRAMES }, (_, i) => i / 60),
    ['knee'],
  );
  tracks.landmarks.knee.xPx.fill(100, 0, done);
  return tracks;
}
const answer = (done: number, stopped = false) => ({
  ok: true,
  tracks: tracksOf(done),
  framesDone: done,
  frames: FRAMES,
  stopped,
  ms: 1,
  trackerMs: 1,
  patches: [],
});
const take = () => visitStore.getState().open[ID].shown.takes[0];

beforeEach(async () => {
  closeVisits();
  Object.assign(tracker, { stopped: 0, ended: 0 });
  await putSession(structuredClone(CATALOGUE.sessions.find((s) => s.id === ID)!));
  await openVisit(ID);
});

it('what the worker tells after its answer is old: the whole tracks stay', async () => {
  let late!: () => void;
  tracker.track = (...args) => {
    const tell = args[3] as (p: TrackProgress) => void;
    late = () => tell({ framesDone: 2, frames: FRAMES, tracks: tracksOf(2) });
    return Promise.resolve(answer(FRAMES));
  };
  const clock = vi.spyOn(performance, 'now');
  await trackTake(visitStore.getState().open[ID].shown, take(), new Blob());
  clock.mockReturnValue(1e9);
  late();
  await new Promise((next) => setTimeout(next, 50));
  clock.mockRestore();
  expect(take().tracking).toMatchObject({ state: 'done', framesDone: FRAMES });
  const kept = (await loadTracks(take()))!;
  expect(kept.landmarks.knee.xPx.every(Number.isFinite)).toBe(true);
  expect(tracker.ended).toBe(1);
});

it('stopped, it keeps what is done; broken, it says why; either way it is over', async () => {
  let finish!: (a: object) => void;
  tracker.track = () => new Promise((done) => (finish = done));
  const session = visitStore.getState().open[ID].shown;
  const tracking = trackTake(session, take(), new Blob());
  await vi.waitFor(() => expect(finish).toBeDefined());
  stopTracking(take().id);
  await vi.waitFor(() => expect(tracker.stopped).toBe(1));
  finish(answer(12, true));
  await tracking;
  expect(take().tracking).toMatchObject({ state: 'stopped', framesDone: 12 });
  const before = take().tracking.revision;

  tracker.track = () => Promise.reject(new Error('Frame 7 can’t be decoded.'));
  await trackTake(session, take(), new Blob());
  expect(trackingStore.getState().takes[take().id].trouble).toBe('Frame 7 can’t be decoded.');
  expect(take().tracking.revision).toBe(before);
  expect(isRunning(trackingJob(take().id))).toBe(false);
});

it('tracks of marks that were moved meanwhile are not kept as the new ones’', async () => {
  let finish!: (a: object) => void;
  tracker.track = () => new Promise((done) => (finish = done));
  const tracking = trackTake(visitStore.getState().open[ID].shown, take(), new Blob());
  await vi.waitFor(() => expect(finish).toBeDefined());
  const { marks, markedFrame: frame, id: takeId } = take();
  const knee = { ...marks.knee!, x: marks.knee!.x + 9 };
  await editVisit(ID, { kind: 'marks', takeId, frame, marks: { ...marks, knee } });
  finish(answer(FRAMES));
  await tracking;
  expect(take().tracking.state).toBe('none');
  expect(trackingStore.getState().takes[takeId].trouble).toContain('marks were changed');
});

it('how the camera moved is kept with the tracks, in one step to take back', async () => {
  const path = { tS: [0, 0.5], xPx: [0, 9], yPx: [0, 3] };
  const { id } = take();
  surveyStore.setState({ takes: { [id]: { cameraPath: path } as unknown as TakeSurvey } });
  tracker.track = () => Promise.resolve(answer(FRAMES));
  await trackTake(visitStore.getState().open[ID].shown, take(), new Blob());
  expect(take()).toMatchObject({ cameraPath: path, tracking: { state: 'done', estimated: false } });
  await stepVisit(ID, 'undo');
  expect(take().cameraPath).toBeNull();
  surveyStore.setState({ takes: {} });
});
