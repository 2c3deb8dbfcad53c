import type { Remote } from 'comlink';
import type { Spawned } from '../workers/spawn';

/** Asks a worker of a job's own, which ends with the job: done, failed or stopped. */
export async function withWorker<Api, T>(
  worker: Spawned<Api>,
  signal: AbortSignal,
  ask: (api: Remote<Api>) => Promise<T>,
): Promise<T> {
  signal.addEventListener('abort', worker.end);
  try {
    return await ask(worker.api);
  } finally {
    worker.end();
  }
}
