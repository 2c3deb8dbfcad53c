import { createStore } from 'zustand/vanilla';
import { scaleOf } from '../../core/visit/readOptions.ts';
import type { FitSession, Mark, Take } from '../../core/records/types.ts';
import { isFrontal, type Landmark } from '../../core/landmarks/landmarks.ts';
import { jointsOfPose } from '../../core/landmarks/poseJoints.ts';
import { spawnTracker } from '../workers/spawn';
import { withWorker } from './withWorker';
import { runJob } from './jobs';
import { openPoseModel, type PoseModel } from './poseModel';

export type Proposal = Partial<Record<Landmark, Mark & { sure: number }>>;

/** Marks proposed for a frame of a take, until they are taken or left. */
export const proposalStore = createStore<{
  takes: Readonly<Record<string, { frame: number; points: Proposal } | null>>;
}>()(() => ({ takes: {} }));

export const proposingJob = (takeId: string): string => `propose:${takeId}`;

export const propose = (takeId: string, frame: number, points: Proposal | null): void =>
  proposalStore.setState(({ takes }) => ({ takes: { ...takes, [takeId]: points && { frame, points } } }));

/** A proposal, or the sentence that says why there is none. */
type Found = Proposal | string;

async function proposed(
  take: Take,
  frame: number,
  label: string,
  find: (signal: AbortSignal) => Promise<Found>,
): Promise<void> {
  const end = await runJob(proposingJob(take.id), {
    label,
    work: ({ signal }) => find(signal),
  });
  if (end.ok && typeof end.value !== 'string') propose(take.id, frame, end.value);
}

/** All marks of a frame from its stickers. */
export const proposeFromStickers = (
  session: FitSession,
  take: Take,
  frame: number,
  film: Blob,
): Promise<void> =>
  proposed(take, frame, 'Looking for the stickers', async (signal) => {
    const scale = isFrontal(take.view) ? null : scaleOf(session, take);
    const pointed = Object.values(take.marks).find((m) => m.onSticker) ?? null;
    return withWorker(spawnTracker(), signal, async (api) => {
      const layout = await api.propose(
        film,
        frame,
        take.view,
        { mmPerPx: scale?.ok ? scale.mmPerPx : null, facing: scale?.ok ? scale.facing : null },
        pointed && { x: pointed.x, y: pointed.y },
      );
      if (!layout)
        return pointed
          ? 'No more stickers like the one pointed out lie as on a rider. Point the others out.'
          : 'No stickers of one colour were found. Point one out, and the others are looked for by its colour.';
      return Object.fromEntries(
        Object.entries(layout.points).map(([key, s]) => [key, { ...s, onSticker: true }]),
      ) as Proposal;
    });
  });

let model: PoseModel | null = null;

/** The pose model, opened once for a page that goes on asking. */
async function poseModel(): Promise<PoseModel> {
  model ??= await openPoseModel();
  return model;
}

/** Its page and its memory are given back. */
export function closePoseModel(): void {
  model?.close();
  model = null;
}

/** All marks of a frame by the pose model, pulled to the stickers near them. @param picture the frame; it is used up */
export const proposeFromModel = (
  take: Take,
  frame: number,
  film: Blob,
  picture: () => Promise<ImageBitmap>,
): Promise<void> =>
  proposed(
    take,
    frame,
    model ? 'Looking at the rider' : 'Loading the pose model, then looking at the rider',
    async (signal) => {
      signal.addEventListener('abort', closePoseModel);
      const points = await (await poseModel()).find(await picture());
      if (!points) return 'The model sees no rider on this frame. Try another one, or point the joints out.';
      return withWorker(
        spawnTracker(),
        signal,
        async (api) => (await api.pull(film, frame, take.view, jointsOfPose(points, take.view))) as Proposal,
      );
    },
  );
