import { proxy } from 'comlink';
import { createStore } from 'zustand/vanilla';
import type { Take } from '../../core/records/types.ts';
import { keepWhole, wholeOf, type Whole } from '../storage/stores';
import { spawnClipReader } from '../workers/spawn';
import { jobEnded, runJob } from './jobs';
import { surveyJob } from './surveys';
import { withWorker } from './withWorker';

/** Which frames of a take's film can be shown, by take. */
export const wholeFilmStore = createStore<Readonly<Record<string, Whole>>>()(() => ({}));

export const wholeJob = (takeId: string): string => `whole:${takeId}`;

const tellWhole = (takeId: string, whole: Whole): void => wholeFilmStore.setState({ [takeId]: whole });

/** Notes which frames of a take's film can be shown. */
export async function noteWhole(takeId: string, whole: Whole): Promise<void> {
  tellWhole(takeId, whole);
  // Made anew when it could not be kept.
  await keepWhole(takeId, whole).catch(() => undefined);
}

/**
 * Decodes a take's film once from end to end, in parallel with everything else, unless that has been done: where it is damaged is known
 * before anybody relies on it.
 */
export async function lookThrough(take: Take, film: Blob): Promise<void> {
  // Two decoders at once would both take twice as long: the one that is waited for goes first, and may have seen every frame.
  await jobEnded(surveyJob(take.id));
  if (wholeFilmStore.getState()[take.id]) return;
  const known = await wholeOf(take.id).catch(() => null);
  if (known?.bytes === film.size) {
    tellWhole(take.id, known);
    return;
  }
  const end = await runJob(wholeJob(take.id), {
    label: `Decoding ${take.clipName}`,
    to: null,
    work: ({ signal, tell }) =>
      withWorker(spawnClipReader(), signal, (reader) => reader.lookThrough(film, proxy(tell))),
  });
  if (end.ok && end.value) await noteWhole(take.id, { bytes: film.size, ...end.value });
}
