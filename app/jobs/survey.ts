import { proxy } from 'comlink';
import { createStore } from 'zustand/vanilla';
import { isFrontal, type Landmark, type View } from '../../core/landmarks/landmarks.ts';
import type { ImagePoint } from '../../core/math/vec.ts';
import type { FitSession, Take } from '../../core/records/types.ts';
import { isUnmoved, type ProposedPoint, type ProposedWheels } from '../../core/survey/proposal.ts';
import { verdictOf, type FilmVerdict } from '../../core/survey/verdict.ts';
import { scaleOf } from '../../core/visit/readOptions.ts';
import { mustEdit, visitStore } from '../session/visits';
import { spawnTracker } from '../workers/spawn';
import { rangeOf, trackTake } from './tracking';
import { withWorker } from './withWorker';
import { runJob } from './jobs';

/** What is proposed for a take, and what the fitter has put right in it; kept until it is measured. */
export interface TakeSurvey {
  verdict: FilmVerdict;
  /** The frame on which the points stand; null where no rider was found. */
  frame: number | null;
  points: Partial<Record<Landmark, ProposedPoint>>;
  wheels: ProposedWheels | null;
  /** The wheels stand where they stood for the take before. */
  unmoved: boolean;
  /** Which way the bike points; null where no rider was found. */
  facing: 'left' | 'right' | null;
}

export const surveyStore = createStore<{ takes: Readonly<Record<string, TakeSurvey>> }>()(() => ({
  takes: {},
}));

export const surveyJob = (takeId: string): string => `survey:${takeId}`;

const put = (takeId: string, part: Partial<TakeSurvey>): void =>
  surveyStore.setState(({ takes }) =>
    takes[takeId] ? { takes: { ...takes, [takeId]: { ...takes[takeId], ...part } } } : { takes },
  );

/** A point is put by hand, or its name is confirmed: nobody asks about it any more. */
export function settlePoint(takeId: string, key: Landmark, at: ImagePoint & { onSticker: boolean }): void {
  const now = surveyStore.getState().takes[takeId];
  if (now) put(takeId, { points: { ...now.points, [key]: { ...at, sure: 1 } } });
}

/** An axle is put by hand; its tyre's ends go with it. */
export function settleAxle(takeId: string, which: 'rear' | 'front', at: ImagePoint): void {
  const now = surveyStore.getState().takes[takeId];
  if (!now?.wheels) return;
  const was = now.wheels[which];
  const by = { x: at.x - was.x, y: at.y - was.y };
  const rims = { ...now.wheels.rims };
  for (const end of [`${which}Top`, `${which}Bottom`] as const)
    rims[end] = { x: rims[end].x + by.x, y: rims[end].y + by.y };
  put(takeId, { wheels: { ...now.wheels, [which]: at, rims } });
}

/** The side that a camera sees of a bike that points this way. */
const sideOf = (facing: 'left' | 'right'): View => (facing === 'right' ? 'drive' : 'nonDrive');

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
      withWorker(spawnTracker(), signal, (api) =>
        api.survey(film, { view: take.view, known, range: rangeOf(take) }, proxy(tell)),
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
      named: named !== null,
      wheels: wheels !== null || isFrontal(take.view),
    }),
    frame: named?.frame ?? null,
    points,
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

/** The take as it is stored now. */
const now = (visitId: string, takeId: string): { session: FitSession; take: Take } | null => {
  const session = visitStore.getState().open[visitId]?.shown;
  const take = session?.takes.find((t) => t.id === takeId);
  return session && take ? { session, take } : null;
};

/**
 * Takes what is proposed for the take's own: wheels and marks, in one step to take back; then tracks it.
 * @returns whether the tracks came to their end
 */
export async function measureTake(session: FitSession, take: Take, film: Blob): Promise<boolean> {
  const survey = surveyStore.getState().takes[take.id];
  const step = `measure ${take.id}`;
  if (survey && survey.frame !== null && Object.keys(take.marks).length === 0) {
    // Axles that were pointed out by hand stay.
    if (survey.wheels && !(take.axles.rear && take.axles.front))
      await mustEdit(session.id, { kind: 'wheels', takeId: take.id, ...survey.wheels }, step);
    const marks = Object.fromEntries(
      Object.entries(survey.points).map(([key, { x, y, onSticker }]) => [key, { x, y, onSticker }]),
    );
    await mustEdit(session.id, { kind: 'marks', takeId: take.id, frame: survey.frame, marks }, step);
  }
  const stored = now(session.id, take.id);
  if (!stored) return false;
  await trackTake(stored.session, stored.take, film, 'film');
  return now(session.id, take.id)?.take.tracking.state === 'done';
}
