import type { FitSession, Rider, Take } from '../../core/records/types.ts';
import type { FilmPart } from '../../core/visit/filmParts.ts';
import { storedTracks, type LandmarkTrack, type Tracks } from '../../core/tracking/tracks.ts';
import { store } from './database';
import { touching } from './touched';

// Where everything made here is kept, on this device only.
export const riderStore = store('riders');
export const bikeStore = store('bikes');
export const sessionStore = store('sessions');
export const settingsStore = store('settings');
/** The steps back and forward of every visit, by its id: next to the visits, so that they outlive the page. */
export const pastStore = store('past');
/** What stands half typed in fields. */
export const draftStore = store('drafts');
/** What was found when a take's film was decoded through: made anew when it is missing. */
const wholeStore = store('whole');
const clipStore = store('clips');
const trackStore = store('tracks');

/** Riders and visits are written and removed here only, so that the index hears of it. */
export const putRider = (rider: Rider): Promise<Rider> =>
  touching('rider', rider.id, () => riderStore.setItem(rider.id, rider));
export const putSession = (session: FitSession): Promise<FitSession> =>
  touching('session', session.id, () => sessionStore.setItem(session.id, session));
export const removeRider = (id: string): Promise<void> =>
  touching('rider', id, () => riderStore.removeItem(id));
export const removeSession = (id: string): Promise<void> =>
  touching('session', id, () => sessionStore.removeItem(id));

export const saveClip = (takeId: string, clip: Blob): Promise<Blob> => clipStore.setItem(takeId, clip);
export const loadClip = (takeId: string): Promise<Blob | null> => clipStore.getItem<Blob>(takeId);
export const dropClip = (takeId: string): Promise<void> => clipStore.removeItem(takeId);
export const clipKeys = (): Promise<string[]> => clipStore.keys();

/** Which frames of a film can be shown. */
export interface Whole {
  /** The film's size: another file of the same take is looked through anew. */
  bytes: number;
  frames: number;
  /** Frames that can't be decoded, both ends counted in, in their order. */
  broken: FilmPart[];
}

export const wholeOf = (takeId: string): Promise<Whole | null> => wholeStore.getItem<Whole>(takeId);
export const keepWhole = (takeId: string, whole: Whole): Promise<Whole> => wholeStore.setItem(takeId, whole);

interface StoredTracks {
  version: number;
  tS: Float64Array;
  landmarks: Record<string, LandmarkTrack>;
}

/** Tracks are kept by take and revision: an undo that brings marks back finds the tracks that were made from them. */
export const trackKey = (takeId: string, revision: number): string => `${takeId}@${revision}`;

export async function saveTracks(takeId: string, revision: number, tracks: Tracks): Promise<void> {
  await trackStore.setItem<StoredTracks>(trackKey(takeId, revision), { version: 1, ...tracks });
}

const tracksIn = (stored: StoredTracks | null): Tracks | null =>
  stored?.version === 1 ? storedTracks(stored) : null;

export async function loadTracks(take: Take): Promise<Tracks | null> {
  const stored =
    (await trackStore.getItem<StoredTracks>(trackKey(take.id, take.tracking.revision))) ??
    // From before tracks were kept by revision.
    (await trackStore.getItem<StoredTracks>(take.id));
  return tracksIn(stored);
}

/** The newest tracks there are of a take of which nothing else is known. */
export async function newestTracks(takeId: string): Promise<Tracks | null> {
  const revisions = (await trackKeys()).filter((key) => key.startsWith(`${takeId}@`));
  const newest = Math.max(...revisions.map((key) => Number(key.split('@')[1])));
  const stored = await trackStore.getItem<StoredTracks>(trackKey(takeId, newest));
  return tracksIn(stored);
}

export const trackKeys = (): Promise<string[]> => trackStore.keys();
export const dropTracks = (key: string): Promise<void> => trackStore.removeItem(key);

/** A take's film and every track ever made of it. */
export async function dropTake(takeId: string): Promise<void> {
  const tracks = (await trackKeys()).filter((key) => key === takeId || key.startsWith(`${takeId}@`));
  await Promise.all([dropClip(takeId), wholeStore.removeItem(takeId), ...tracks.map(dropTracks)]);
}
