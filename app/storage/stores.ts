import localforage from 'localforage';
import type { LandmarkTrack, Tracks } from '../../core/stroke/tracks.ts';

/** Where everything made here is kept, on this device only. */
const store = (storeName: string): LocalForage =>
  localforage.createInstance({ name: 'deep-angle', storeName, driver: localforage.INDEXEDDB });

export const riderStore = store('riders');
export const sessionStore = store('sessions');
export const settingsStore = store('settings');
const clipStore = store('clips');
const trackStore = store('tracks');

export const saveClip = (takeId: string, clip: Blob): Promise<Blob> => clipStore.setItem(takeId, clip);
export const loadClip = (takeId: string): Promise<Blob | null> => clipStore.getItem<Blob>(takeId);

interface StoredTracks {
  version: number;
  tS: Float64Array;
  landmarks: Record<string, LandmarkTrack>;
}

export async function saveTracks(takeId: string, tracks: Tracks): Promise<void> {
  await trackStore.setItem<StoredTracks>(takeId, { version: 1, ...tracks });
}

export async function loadTracks(takeId: string): Promise<Tracks | null> {
  const stored = await trackStore.getItem<StoredTracks>(takeId);
  return stored?.version === 1 ? { tS: stored.tS, landmarks: stored.landmarks } : null;
}

export async function dropTake(takeId: string): Promise<void> {
  await Promise.all([clipStore.removeItem(takeId), trackStore.removeItem(takeId)]);
}

export const dropTracks = (takeId: string): Promise<void> => trackStore.removeItem(takeId);
