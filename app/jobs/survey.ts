import { proxy, transfer } from 'comlink';
import { isFrontal, SIDE_LANDMARKS, type Landmark, type View } from '../../core/landmarks/landmarks.ts';
import { isSeen, type ImagePoint } from '../../core/math/vec.ts';
import { pointAt, type Tracks } from '../../core/tracking/tracks.ts';
import type { FitSession, Mark, Take } from '../../core/records/types.ts';
import type { SessionEdit } from '../../core/visit/edits.ts';
import { isUnmoved, type ProposedWheels } from '../../core/survey/proposal.ts';
import type { HeldFilm } from '../../core/survey/nameFilm.ts';
import { verdictOf } from '../../core/survey/verdict.ts';
import { scaleOf } from '../../core/visit/readOptions.ts';
import { mustEdit } from '../session/visits';
import { surveyJob, surveyStore, type TakeSurvey } from './surveys';
import { buffersOf } from '../workers/planes';
import { spawnTracker } from '../workers/spawn';
import { keepTracks, rangeOf, shownTake, trackTake } from './tracking';
import { noteWhole } from './wholeFilms';
import { withWorker } from './withWorker';
import { runJob } from './jobs';

/** The side that a camera sees of a bike that points this way. */
export const sideOf = (facing: 'left' | 'right'): View => (facing === 'right' ? 'drive' : 'nonDrive');

/** The film before this one of the same picture size, on which the wheels are known. */
const before = (session: FitSession, take: Take): Take | undefined =>
  session.takes.findLast(
    (t) =>
      t.id !== take.id &&
      t.axles.rear !== null &&
      t.axles.front !== null &&
      t.video.widthPx === take.video.widthPx &&
      t.video.heightPx === take.video.heightPx,
  );

/** Looks at a take's film as a whole, whatever page is drawn meanwhile: what it is worth, its wheels, its stickers and their names. */
export async function surveyFilm(session: FitSession, take: Take, film: Blob): Promise<void> {
  if (surveyStore.getState().takes[take.id]) return;
  const scale = isFrontal(take.view) ? null : scaleOf(session, take);
  const known = {
    mmPerPx: scale?.ok ? scale.mmPerPx : null,
    facing: scale?.ok ? scale.facing : null,
  };
  const end = await runJob(surveyJob(take.id), {
    label: `Looking at ${take.clipName}`,
    // Nobody waits for it elsewhere: its end is seen where the film is.
    to: null,
    work: ({ signal, tell }) =>
      // Two workers: while one decodes the film to its end the other finds stickers and wheels.
      withWorker(spawnTracker(), signal, (finder) =>
        withWorker(spawnTracker(), signal, async (decoder) => {
          const found = await decoder.survey(
            film,
            { view: take.view, range: rangeOf(take) },
            proxy(tell),
            proxy((held: HeldFilm) => finder.lookAt(transfer(held, buffersOf(held)), take.view, known)),
          );
          if (found?.isWhole)
            await noteWhole(take.id, { bytes: film.size, frames: take.video.frames, broken: [] });
          return found;
        }),
      ),
    words: () => null,
  });
  if (!end.ok || !end.value) return;
  const { facts, named, wheels } = end.value;
  const points = Object.fromEntries(
    Object.entries(named?.points ?? {}).map(([key, p]) => [key, { ...p, onSticker: true }]),
  ) as TakeSurvey['points'];
  const old = before(session, take);
  const unmoved = wheels !== null && old !== undefined && isUnmoved(wheels, old.axles);
  const rimsKnown =
    old && (['rearTop', 'rearBottom', 'frontTop', 'frontBottom'] as const).every((k) => old.rims[k]);
  const survey: TakeSurvey = {
    verdict: verdictOf(facts, {
      leastSeen: named?.leastSeen ?? null,
      wheels: wheels !== null || isFrontal(take.view),
      file: { ...take.video, bytes: film.size },
    }),
    frame: named?.frame ?? null,
    points,
    cameraPath: facts.cameraPath,
    wheels:
      unmoved && rimsKnown
        ? { rear: old.axles.rear!, front: old.axles.front!, rims: old.rims as ProposedWheels['rims'] }
        : wheels && { rear: xy(wheels.rear), front: xy(wheels.front), rims: wheels.rims },
    unmoved,
    facing: named?.facing ?? null,
  };
  surveyStore.setState(({ takes }) => ({ takes: { ...takes, [take.id]: survey } }));
  // A film is filed under the side that it shows; who turns it back says that it is mirrored.
  const side = named && !isFrontal(take.view) ? sideOf(named.facing) : take.view;
  if (side !== take.view)
    await mustEdit(session.id, { kind: 'set', at: `takes.#${take.id}.view`, value: side }).catch(
      () => undefined,
    );
}

const xy = ({ x, y }: ImagePoint): ImagePoint => ({ x, y });

/** Takes joints for the take's own, with wheels: those that were found on it when left out. @param step one to take back */
async function keepProposal(
  session: FitSession,
  take: Take,
  {
    frame,
    marks,
    step,
    wheels = surveyStore.getState().takes[take.id]?.wheels ?? null,
  }: { frame: number; marks: Take['marks']; step: string; wheels?: ProposedWheels | null },
): Promise<void> {
  const edit = (e: SessionEdit): Promise<void> => mustEdit(session.id, e, step);
  // Axles that were pointed out by hand stay.
  if (wheels && !(take.axles.rear && take.axles.front)) {
    const { rear, front, rims } = wheels;
    await edit({ kind: 'wheels', takeId: take.id, rear: xy(rear), front: xy(front), rims });
  }
  await edit({ kind: 'marks', takeId: take.id, frame, marks });
}

/**
 * Takes tracks that nobody marked for the take's own: the joints of one of their frames as its marks, its wheels, then the tracks.
 * @param step one to take back
 */
export async function keepFollowed(
  session: FitSession,
  take: Take,
  {
    tracks,
    frame,
    framesDone,
    estimated,
    step,
    wheels,
  }: {
    tracks: Tracks;
    frame: number;
    framesDone: number;
    /** By the pose model, on no stickers. */
    estimated: boolean;
    step: string;
    wheels?: ProposedWheels | null;
  },
): Promise<void> {
  const marks = Object.fromEntries(
    SIDE_LANDMARKS.flatMap((key): [Landmark, Mark][] => {
      const at = pointAt(tracks, key, frame);
      return isSeen(at) ? [[key, { ...at, onSticker: !estimated }]] : [];
    }),
  );
  await keepProposal(session, take, { frame, marks, step, wheels });
  await keepTracks(session.id, take, {
    tracks,
    tracking: { state: 'done', framesDone, estimated, revision: Date.now() },
    step,
  });
}

/**
 * Takes what is proposed for the take's own: wheels and marks, in one step to take back; then tracks it.
 * @returns whether the tracks came to their end
 */
export async function measureTake(session: FitSession, take: Take, film: Blob): Promise<boolean> {
  const survey = surveyStore.getState().takes[take.id];
  if (survey && survey.frame !== null && Object.keys(take.marks).length === 0) {
    const marks = Object.fromEntries(
      Object.entries(survey.points).map(([key, { x, y, onSticker }]) => [key, { x, y, onSticker }]),
    );
    await keepProposal(session, take, { frame: survey.frame, marks, step: `measure ${take.id}` });
  }
  const stored = shownTake(session.id, take.id);
  if (!stored) return false;
  await trackTake(stored.session, stored.take, film, 'film');
  return shownTake(session.id, take.id)?.take.tracking.state === 'done';
}
