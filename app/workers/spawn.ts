import { releaseProxy, wrap, type Remote } from 'comlink';
import { lookForNewer } from '../offline/register';
import type { ClipReader } from './clip.worker';
import type { FilesApi } from './fileReaders';
import type { LiveApi } from './live.worker';
import type { PlanApi } from './plan.worker';
import type { PracticeApi } from './practice.worker';
import type { ReadApi } from './read.worker';
import type { TrackApi } from './track.worker';

/** A worker that looks like an object of async functions, and can be ended. */
export interface Spawned<T> {
  api: Remote<T>;
  /** Whether it never came, broke down or was ended: nothing is answered any more. */
  isBroken: () => boolean;
  end: () => void;
}

/** A worker's file may be gone: a newer version of the application lies on the server, and this page is of the one before. */
const NOT_LOADED =
  'A part of the application could not be loaded, perhaps because a newer version was released meanwhile. What you typed is kept: reload the page.';

const ENDED = 'It was stopped before it was done.';

/** A worker as an object of async functions. A call to one that never came, or broke down, is answered with the error. */
export function spawned<T>(worker: Worker): Spawned<T> {
  let broken: Error | null = null;
  // Calls under way, and nothing of those that were answered: a film's frames would stay in memory with them.
  const underWay = new Set<(error: Error) => void>();
  const onError = (e: ErrorEvent): void => {
    // An error in the worker's own code has words; a file that did not come has none.
    broken = new Error(e.message || NOT_LOADED);
    if (!e.message) void lookForNewer();
    for (const fail of underWay) fail(broken);
  };
  worker.addEventListener('error', onError);
  const remote = wrap<T>(worker);
  const api = new Proxy(remote, {
    get: (target, key) => {
      if (typeof key === 'symbol' || key === 'then') return Reflect.get(target, key) as unknown;
      return (...args: unknown[]) =>
        new Promise((answer, fail) => {
          if (broken) return void fail(broken);
          underWay.add(fail);
          const held = Reflect.get(target, key) as (...given: unknown[]) => Promise<unknown>;
          held(...args)
            .then(answer, fail)
            .finally(() => underWay.delete(fail));
        });
    },
  });
  let ended = false;
  const end = (): void => {
    if (ended) return;
    ended = true;
    // Let go of on both sides: comlink’s own register would keep the worker, and the page that asked it, for good.
    worker.removeEventListener('error', onError);
    remote[releaseProxy]();
    worker.terminate();
    // Whoever still waits for an answer hears that none comes.
    broken ??= new Error(ENDED);
    for (const fail of underWay) fail(broken);
    underWay.clear();
  };
  return { api, isBroken: () => broken !== null, end };
}

export const spawnClipReader = (): Spawned<ClipReader> =>
  spawned(new Worker(new URL('./clip.worker.ts', import.meta.url), { type: 'module' }));
export const spawnTracker = (): Spawned<TrackApi> =>
  spawned(new Worker(new URL('./track.worker.ts', import.meta.url), { type: 'module' }));
export const spawnLive = (): Spawned<LiveApi> =>
  spawned(new Worker(new URL('./live.worker.ts', import.meta.url), { type: 'module' }));
export const spawnPractice = (): Spawned<PracticeApi> =>
  spawned(new Worker(new URL('./practice.worker.ts', import.meta.url), { type: 'module' }));
export const spawnReading = (): Spawned<ReadApi> =>
  spawned(new Worker(new URL('./read.worker.ts', import.meta.url), { type: 'module' }));
export const spawnPlanner = (): Spawned<PlanApi> =>
  spawned(new Worker(new URL('./plan.worker.ts', import.meta.url), { type: 'module' }));
export const spawnReaders = (): Spawned<FilesApi> =>
  spawned(new Worker(new URL('./files.worker.ts', import.meta.url), { type: 'module' }));
