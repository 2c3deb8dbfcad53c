import { createStore } from 'zustand/vanilla';
import { frontalOptions, readOptions } from '../../core/visit/readOptions.ts';
import type { FitSession, Take } from '../../core/records/types.ts';
import type { FrontalResult } from '../../core/kinematics/frontalReading.ts';
import { isFrontal } from '../../core/landmarks/landmarks.ts';
import type { ReadResult } from '../../core/kinematics/read.ts';
import { withoutHidden } from '../../core/kinematics/review.ts';
import { steadied } from '../../core/tracking/steadied.ts';
import type { Tracks } from '../../core/tracking/tracks.ts';
import { tracksOf } from '../storage/sessions';
import { spawnReading, type Spawned } from '../workers/spawn';
import type { ReadApi } from '../workers/read.worker';

/** What came of a take: read from the side, read from the front or rear, or what it still needs. */
export type TakeResult =
  | { kind: 'missing'; take: Take; what: 'tracks' | 'scale' }
  | { kind: 'side'; take: Take; result: ReadResult; tracks: Tracks }
  | { kind: 'frontal'; take: Take; result: FrontalResult; tracks: Tracks };

/** How many readings are kept: those of a visit's takes, with some to spare. */
const MOST = 24;

/** Readings by all that they depend on: each is made once, whoever asks. */
const made = new Map<string, Promise<TakeResult>>();

/** Of each reading that was made, whether it gave figures: for whoever wants no more than that. */
export const readsStore = createStore<{ reads: Readonly<Record<string, boolean>> }>()(() => ({ reads: {} }));
const noteReads = (key: string, reads: boolean): void =>
  readsStore.setState((s) => ({ reads: { ...s.reads, [key]: reads } }));

let worker: Spawned<ReadApi> | null = null;

/** Everything a reading depends on, as one string: it is made anew when it changes. */
export const readingKey = (session: FitSession, take: Take): string =>
  JSON.stringify([
    take.id,
    take.view,
    take.tracking,
    take.hidden,
    take.cameraPath,
    isFrontal(take.view) ? frontalOptions(session, take) : readOptions(session, take),
  ]);

/** A take's tracks read, as they are given. @throws where the worker can't be had, with a sentence */
export async function readGiven(session: FitSession, take: Take, kept: Tracks | null): Promise<TakeResult> {
  const side = isFrontal(take.view) ? null : readOptions(session, take);
  const frontal = isFrontal(take.view) ? frontalOptions(session, take) : null;
  const tracks = kept && withoutHidden(kept, take.hidden);
  if (!tracks || (!side && !frontal)) return { kind: 'missing', take, what: tracks ? 'scale' : 'tracks' };
  worker ??= spawnReading();
  const mine = worker;
  const { api } = mine;
  const still = steadied(tracks, take.cameraPath, take.markedFrame);
  try {
    return side
      ? { kind: 'side', take, tracks, result: await api.readTracks(still, side) }
      : { kind: 'frontal', take, tracks, result: await api.readFrontal(still, frontal!) };
  } catch (error) {
    // What failed once is not asked again: the next reading gets a worker of its own.
    mine.end();
    if (worker === mine) worker = null;
    throw error;
  }
}

/** The reading of a take of a visit: made once, and shared by all that show it. */
export function readingOf(session: FitSession, take: Take): Promise<TakeResult> {
  const key = readingKey(session, take);
  const known = made.get(key);
  if (known) {
    // The ones asked for last are kept longest.
    made.delete(key);
    made.set(key, known);
    return known.then((r) => ({ ...r, take }));
  }
  const fresh = tracksOf(take).then((tracks) => readGiven(session, take, tracks));
  made.set(key, fresh);
  for (const oldest of made.keys()) {
    if (made.size <= MOST) break;
    made.delete(oldest);
  }
  fresh.then(
    (r) => {
      if (r.kind !== 'missing') noteReads(key, r.result.ok);
      else if (r.what === 'tracks') made.delete(key);
    },
    () => made.delete(key),
  );
  return fresh;
}
