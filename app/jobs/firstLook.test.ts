import 'fake-indexeddb/auto';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { SIDE_LANDMARKS } from '../../core/landmarks/landmarks.ts';
import type { SeenPose } from '../../core/landmarks/posePaths.ts';
import type { Landmark } from '../../core/landmarks/landmarks.ts';
import { pointAt } from '../../core/tracking/tracks.ts';
import type { Take } from '../../core/records/types.ts';
import { CAST } from '../../sim/cast.ts';
import { filmed } from '../../sim/filmed.ts';
import { CATALOGUE } from '../demo/catalogue.ts';
import { closeVisits, openVisit, stepVisit, visitStore } from '../session/visits';
import { loadTracks, putSession } from '../storage/stores';
import { jobStore } from './jobs';
import { firstLookJob, lookWithoutStickers } from './firstLook';
import { surveyStore, type TakeSurvey } from './surveys';

vi.stubGlobal('navigator', { userAgent: 'Chrome/140' });

const film = filmed({ rider: CAST[1].scene.rider, seconds: 5, rate: 60 });
const model = vi.hoisted(() => ({ unseen: [] as string[], frames: [] as number[], strayPx: 0 }));
/** A model that now and then takes the other leg's knee for this one's. */
const strayed = (p: { x: number; y: number }, key: string, frame: number) =>
  key === 'knee' && frame % 2 === 0 ? { x: p.x + model.strayPx, y: p.y } : p;
vi.mock('./askPoses', () => ({
  askPoses: (
    _: Blob,
    { framesOf }: { framesOf: (tS: Float64Array) => number[] },
  ): Promise<{ tS: Float64Array; seen: SeenPose<Landmark>[] }> => {
    const frames = framesOf(film.tS);
    model.frames = frames;
    const joints = (frame: number) =>
      Object.fromEntries(
        SIDE_LANDMARKS.filter((k) => !model.unseen.includes(k)).map((key) => [
          key,
          { ...strayed(pointAt(film, key, frame), key, frame), sure: frame === 60 ? 0.9 : 0.7 },
        ]),
      );
    return Promise.resolve({
      tS: film.tS,
      seen: frames.map((frame) => ({ frame, joints: joints(frame) })),
    });
  },
}));

const ID = 'pilar-1';
const take = (): Take => visitStore.getState().open[ID].shown.takes[0];
const look = async (): Promise<boolean> =>
  lookWithoutStickers(visitStore.getState().open[ID].shown, take(), new Blob(['film']));

beforeEach(async () => {
  closeVisits();
  Object.assign(model, { unseen: [], strayPx: 0 });
  const visit = structuredClone(CATALOGUE.sessions.find((s) => s.id === ID)!);
  Object.assign(visit.takes[0], {
    marks: {},
    axles: { rear: null, front: null },
    rims: {},
    tracking: { state: 'none', framesDone: 0, estimated: false, revision: 0 },
  });
  await putSession(visit);
  await openVisit(ID);
  const wheels = { rear: { x: 300, y: 400 }, front: { x: 700, y: 400 }, rims: {} } as TakeSurvey['wheels'];
  const cameraPath = { tS: [0, 2], xPx: [0, 3], yPx: [0, 1] };
  surveyStore.setState({
    takes: { [take().id]: { frame: null, points: {}, wheels, cameraPath } as unknown as TakeSurvey },
  });
});

describe('a first look without stickers', () => {
  it('takes the model’s joints through the film as estimates, with wheels and camera, in one step to take back', async () => {
    expect(await look()).toBe(true);
    expect(model.frames.slice(0, 3)).toEqual([0, 3, 6]);
    const now = take();
    expect(now.tracking).toMatchObject({ state: 'done', estimated: true });
    expect(now).toMatchObject({ markedFrame: 60, axles: { rear: { x: 300 } }, cameraPath: { xPx: [0, 3] } });
    expect(Object.keys(now.marks).sort()).toEqual([...SIDE_LANDMARKS].sort());
    expect(Object.values(now.marks).some((m) => m.onSticker)).toBe(false);
    const tracks = (await loadTracks(now))!;
    const [at, truth] = [tracks, film].map((t) => pointAt(t, 'knee', 100));
    expect(Math.hypot(at.x - truth.x, at.y - truth.y)).toBeLessThan(1.5);
    await stepVisit(ID, 'undo');
    expect(take()).toMatchObject({
      marks: {},
      axles: { rear: null },
      cameraPath: null,
      tracking: { state: 'none', estimated: false },
    });
  });
  it('of a rider whose leg the model does not see changes nothing, and says what to do', async () => {
    model.unseen = ['knee'];
    const before = take();
    expect(await look()).toBe(false);
    expect(take()).toEqual(before);
    expect(jobStore.getState().outcomes[firstLookJob(before.id)]).toContain('no whole leg');
  });
  it('of a leg whose limbs change their length gives no figure', async () => {
    model.strayPx = 90;
    const before = take();
    expect(await look()).toBe(false);
    expect(take()).toEqual(before);
    expect(jobStore.getState().outcomes[firstLookJob(before.id)]).toMatch(
      /does not hold the leg on this film: from hip to knee|from knee to ankle/,
    );
  });
});
