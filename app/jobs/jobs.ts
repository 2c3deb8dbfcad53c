import { createStore } from 'zustand/vanilla';
import { whyNot } from '../storage/saveState';
import { notify } from '../session/notices';

/** Work that goes on whatever page is drawn: what it is, how far it has come, and how it is ended. */
export interface Job {
  id: string;
  /** What is being done, as a sentence without its end: “Tracking ride.mp4”. */
  label: string;
  /** Where it belongs, to be gone back to; null for what belongs to no visit. */
  to: string | null;
  /** It belongs to whatever page is drawn. */
  everywhere: boolean;
  done: number;
  /** Of how many; null while nobody knows. */
  of: number | null;
  beganMs: number;
  /** When it last told how far it is; together with `beganMs`, how fast it goes. */
  reportedMs: number;
}

/** What came of a job: its value, or why there is none. */
export type JobEnd<T> = { ok: true; value: T } | { ok: false; stopped: boolean; why: string; error: unknown };

export interface Handle {
  /** Ends the work where it stands; whoever works on it looks here, or ends their worker by it. */
  signal: AbortSignal;
  tell: (done: number, of: number | null) => void;
}

export interface JobOf<T> {
  label: string;
  to?: string | null;
  everywhere?: boolean;
  /** Only one tab of this browser may be at it. */
  oneTab?: boolean;
  /** How long the work has to end by itself once it is stopped, ms; then it is ended without it. */
  graceMs?: number;
  work: (handle: Handle) => Promise<T>;
  /** What is reported of it where it was asked for, once it has ended well; left out, a value that is a sentence is reported itself. */
  words?: (value: T) => string | null;
}

/** What is under way in this page, by id, and what the last job of an id has to tell. */
export const jobStore = createStore<{
  jobs: Readonly<Record<string, Job>>;
  outcomes: Readonly<Record<string, string | null>>;
}>()(() => ({ jobs: {}, outcomes: {} }));

const running = new Map<string, { end: Promise<JobEnd<unknown>>; stop: AbortController }>();

const now = (): number => performance.now();

const STOPPED = 'Stopped.';
const ELSEWHERE = 'This is being done in another tab already: look there, or stop it there.';

const put = (id: string, job: Job | null): void =>
  jobStore.setState(({ jobs }) => {
    const next = { ...jobs };
    if (job) next[id] = job;
    else delete next[id];
    return { jobs: next };
  });
const tellOf = (id: string, words: string | null): void =>
  jobStore.setState(({ outcomes }) => ({ outcomes: { ...outcomes, [id]: words } }));

const sentence = (value: unknown): string | null => (typeof value === 'string' ? value : null);

/**
 * Runs a job, or joins the one of this id that is running: it has one owner, and ends in every case. Nothing is thrown.
 * @param id what is worked on and how, such as `track:` and a take
 */
export function runJob<T>(
  id: string,
  { label, to = null, everywhere = false, oneTab = false, graceMs = 0, work, words = sentence }: JobOf<T>,
): Promise<JobEnd<T>> {
  const known = running.get(id);
  if (known) return known.end as Promise<JobEnd<T>>;
  const stop = new AbortController();
  const job: Job = { id, label, to, everywhere, done: 0, of: null, beganMs: now(), reportedMs: now() };
  const tell: Handle['tell'] = (done, of) => {
    const known = jobStore.getState().jobs[id];
    if (known) put(id, { ...known, done, of, reportedMs: now() });
  };
  put(id, job);
  tellOf(id, null);
  const stopped = new Promise<never>((_, fail) =>
    stop.signal.addEventListener('abort', () => setTimeout(() => fail(new Error(STOPPED)), graceMs), {
      once: true,
    }),
  );
  // Whoever doesn't hear of the stop must not hold the job open.
  stopped.catch(() => undefined);
  const whole = async (): Promise<JobEnd<T>> => {
    try {
      const made = (): Promise<T> => Promise.race([work({ signal: stop.signal, tell }), stopped]);
      const value = await (oneTab ? inOneTab(id, made) : made());
      const outcome = words(value);
      tellOf(id, outcome);
      tellElsewhere(job, outcome ?? `${label}: done.`);
      return { ok: true, value };
    } catch (error) {
      const why = whyNot(error);
      if (!stop.signal.aborted) {
        tellOf(id, why);
        tellElsewhere(job, `${label}: ${why}`);
      }
      return { ok: false, stopped: stop.signal.aborted, why, error };
    } finally {
      running.delete(id);
      put(id, null);
    }
  };
  const end = whole();
  running.set(id, { end, stop });
  return end;
}

/** Where the fitter has gone on to another page, the end is reported there. */
function tellElsewhere({ to }: Job, words: string): void {
  if (to && typeof location !== 'undefined' && location.pathname !== to) notify(words);
}

async function inOneTab<T>(id: string, work: () => Promise<T>): Promise<T> {
  if (typeof navigator === 'undefined' || !('locks' in navigator)) return work();
  let value!: T;
  await navigator.locks.request(`deep-angle:job:${id}`, { ifAvailable: true }, async (lock) => {
    if (!lock) throw new Error(ELSEWHERE);
    value = await work();
  });
  return value;
}

/** Ends a job; one that isn't running is left alone. */
export const stopJob = (id: string): void => running.get(id)?.stop.abort();

/** Waits for a job that is under way; at once where none is. */
export const jobEnded = async (id: string): Promise<void> => void (await running.get(id)?.end);

/** Whether a job of this id is under way. */
export const isRunning = (id: string): boolean => running.has(id);
