import { wrap, type Remote } from 'comlink';
import type { ClipReader } from './clip.worker';
import type { PlanApi } from './plan.worker';
import type { ReadApi } from './read.worker';
import type { TrackApi } from './track.worker';

/** A worker that looks like an object of async functions, and can be ended. */
export interface Spawned<T> {
  api: Remote<T>;
  end: () => void;
}

const spawned = <T>(worker: Worker): Spawned<T> => ({ api: wrap<T>(worker), end: () => worker.terminate() });

export const spawnClipReader = (): Spawned<ClipReader> =>
  spawned(new Worker(new URL('./clip.worker.ts', import.meta.url), { type: 'module' }));
export const spawnTracker = (): Spawned<TrackApi> =>
  spawned(new Worker(new URL('./track.worker.ts', import.meta.url), { type: 'module' }));
export const spawnReading = (): Spawned<ReadApi> =>
  spawned(new Worker(new URL('./read.worker.ts', import.meta.url), { type: 'module' }));
export const spawnPlanner = (): Spawned<PlanApi> =>
  spawned(new Worker(new URL('./plan.worker.ts', import.meta.url), { type: 'module' }));
