import { nanoid } from 'nanoid';
import { createStore } from 'zustand/vanilla';
import { NO_WIDTH } from '../../core/camera/frontalScale.ts';
import { isFrontal } from '../../core/landmarks/landmarks.ts';
import { openTake, type FitSession, type Take, type VideoInfo } from '../../core/records/types.ts';
import { NO_DEVICES } from '../../core/kinematics/devices.ts';
import { mustEdit, visitStore } from '../session/visits';
import { askToKeep } from '../storage/films';
import { isFull, saving, whyNot } from '../storage/saveState';
import { dropClip, saveClip } from '../storage/stores';
import type { ClipTrouble } from '../workers/clipTrouble';
import { spawnClipReader } from '../workers/spawn';
import { withWorker } from './withWorker';
import { runJob, stopJob } from './jobs';
import { surveyFilm } from './survey';
import { lookThrough } from './wholeFilms';

export interface FilmTrouble {
  name: string;
  trouble: ClipTrouble;
}

/** Why the last film of a visit was not taken in. */
export const filmStore = createStore<{ troubles: Readonly<Record<string, FilmTrouble | null>> }>()(() => ({
  troubles: {},
}));

export const addingJob = (visitId: string): string => `add:${visitId}`;
export const stopAdding = (visitId: string): void => stopJob(addingJob(visitId));

const trouble = (visitId: string, words: FilmTrouble | null): void =>
  filmStore.setState(({ troubles }) => ({ troubles: { ...troubles, [visitId]: words } }));

/** A new take is ridden as the one before, until it is stated otherwise. */
function newTake(
  session: FitSession,
  { film, name, demo, video }: { film: Blob; name: string; demo: Take['demo']; video: VideoInfo },
): Take {
  const last = openTake(session);
  return {
    id: nanoid(),
    // Round and set-up are given when it joins the visit.
    round: 1,
    setup: null,
    devices: NO_DEVICES,
    view: last?.view ?? 'drive',
    position: last?.position ?? null,
    effort: last?.effort ?? null,
    effortW: last?.effortW ?? null,
    cadenceRpm: last?.cadenceRpm ?? null,
    baselineOf: null,
    pairWith: null,
    note: '',
    trim: null,
    clipName: name.slice(0, 300),
    clipBytes: film.size,
    video,
    demo,
    axles: { rear: null, front: null },
    width: NO_WIDTH,
    rims: {},
    markedFrame: 0,
    marks: {},
    corrections: [],
    cameraPath: null,
    hidden: [],
    tracking: { state: 'none', framesDone: 0, estimated: false, revision: 0 },
  };
}

const NO_ROOM =
  'This device has no room left for it. Move other films out first: they are listed on the Backup page.';

/** A film that was taken in, with its frames' times, s. */
export interface AddedFilm {
  take: Take;
  tS: Float64Array;
}

/** Films of one visit are taken in one after another. */
const lines = new Map<string, Promise<unknown>>();

/**
 * Takes a film in as a take of a visit, whatever page is drawn meanwhile; nothing is stored before it has opened.
 * @param fetched the film, or where it comes from  @param isKnown what is on it has been followed already: it is not looked at again
 * @returns null where it was not taken in: the visit's trouble says why
 */
export function addFilm(
  session: FitSession,
  fetched: Blob | (() => Promise<Blob>),
  name: string,
  { demo = null, isKnown = false }: { demo?: Take['demo']; isKnown?: boolean } = {},
): Promise<AddedFilm | null> {
  const before = lines.get(session.id) ?? Promise.resolve();
  const mine = before.then(() => added(session.id, fetched, name, { demo, isKnown }));
  lines.set(session.id, mine);
  return mine;
}

async function added(
  visitId: string,
  fetched: Blob | (() => Promise<Blob>),
  name: string,
  { demo, isKnown }: { demo: Take['demo']; isKnown: boolean },
): Promise<AddedFilm | null> {
  trouble(visitId, null);
  const end = await runJob<(AddedFilm & { film: Blob }) | { trouble: ClipTrouble }>(addingJob(visitId), {
    label: `Opening ${name}`,
    to: `/sessions/${visitId}/film`,
    work: async ({ signal }) => {
      const film = fetched instanceof Blob ? fetched : await fetched();
      return withWorker(spawnClipReader(), signal, async (reader) => {
        const answer = await reader.open(film);
        if (!answer.ok) return { trouble: answer.trouble };
        const session = visitStore.getState().open[visitId]?.shown;
        if (!session) throw new Error('The visit was closed meanwhile. Open it, and choose the film again.');
        const take = newTake(session, { film, name, demo, video: answer.info });
        await saving(() => saveClip(take.id, film));
        // Stopped while it was stored: no visit has it, so it goes.
        if (signal.aborted) await dropClip(take.id);
        else {
          askToKeep();
          await mustEdit(visitId, { kind: 'take-added', take });
        }
        return { take, tS: answer.tS, film };
      });
    },
  });
  if (!end.ok) {
    const advice = isFull(end.error) ? NO_ROOM : whyNot(end.error);
    if (!end.stopped) trouble(visitId, { name, trouble: { title: 'The film could not be kept.', advice } });
    return null;
  }
  if ('trouble' in end.value) {
    trouble(visitId, { name, trouble: end.value.trouble });
    return null;
  }
  const { take, tS, film } = end.value;
  const session = visitStore.getState().open[visitId]?.shown;
  if (!isKnown) {
    if (session && !isFrontal(take.view)) void surveyFilm(session, take, film);
    void lookThrough(take, film);
  }
  return { take, tS };
}
