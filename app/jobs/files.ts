import { proxy, type Remote } from 'comlink';
import { nanoid } from 'nanoid';
import type { DamagedEntry } from '../../core/formats/unpackBundle.ts';
import type { Inspection } from '../../core/formats/inspectBundle.ts';
import { whyNot } from '../storage/saveState';
import { spawnReaders } from '../workers/spawn';
import type { FilesApi } from '../workers/fileReaders';
import { withWorker } from './withWorker';
import { runJob } from './jobs';

/** Longer than this nobody waits for a file, ms. */
const PATIENCE_MS = { table: 60_000, backup: 900_000 };

const TOO_LONG = 'It takes too long to read: it was given up. No file of its kind is so large.';

/** Reads a file in a worker that is ended when the fitter stops it or patience runs out. @throws with a sentence */
async function inWorker<T>(
  label: string,
  patienceMs: number,
  read: (api: Remote<FilesApi>) => Promise<T>,
): Promise<T> {
  const end = await runJob(`file:${nanoid()}`, {
    label,
    everywhere: true,
    work: ({ signal }) =>
      withWorker(spawnReaders(), signal, (api) => {
        let timer: ReturnType<typeof setTimeout>;
        const patience = new Promise<never>((_, fail) => {
          timer = setTimeout(() => fail(new Error(TOO_LONG)), patienceMs);
        });
        return Promise.race([read(api), patience]).finally(() => clearTimeout(timer));
      }),
  });
  if (!end.ok) throw end.stopped ? new Error('Stopped: nothing of the file was imported.') : end.error;
  return end.value;
}

/** What can be read of one file: everything but backups. */
type Kind = Exclude<keyof FilesApi, 'backup' | 'films'>;

/** What came of a file: what its reader found, or one sentence that says what is wrong with it. */
type Read<K extends Kind> = Awaited<ReturnType<FilesApi[K]>> | { ok: false; message: string };

/** Reads one file from outside, away from the page; a file that can’t be read says so, whatever is wrong with it. */
export async function readFile<K extends Kind>(kind: K, file: Blob): Promise<Read<K>> {
  try {
    const how = (api: Remote<FilesApi>): Promise<Read<K>> =>
      (api[kind] as (f: Blob) => Promise<Read<K>>)(file);
    return await inWorker(`Reading ${file instanceof File ? file.name : 'the file'}`, PATIENCE_MS.table, how);
  } catch (error) {
    return { ok: false, message: whyNot(error) };
  }
}

/** What is in a backup. @throws with a sentence when it is stopped */
export const readBackup = (file: Blob): Promise<Inspection> =>
  inWorker('Checking the backup', PATIENCE_MS.backup, (api) => api.backup(file));

/** The films of some takes out of a backup. @returns those that are damaged, and why  @throws with a sentence when it is stopped */
export const readFilms = (
  file: Blob,
  takeIds: ReadonlySet<string>,
  keep: (takeId: string, film: Blob) => Promise<void>,
): Promise<DamagedEntry[]> =>
  inWorker('Unpacking films', PATIENCE_MS.backup, (api) => api.films(file, takeIds, proxy(keep)));
