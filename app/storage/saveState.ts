import { createStore } from 'zustand/vanilla';

/** What the corner of the page says about saving. */
export type SaveState =
  { state: 'saved' } | { state: 'saving' } | { state: 'failed'; why: string; full: boolean; again: boolean };

const SAVED: SaveState = { state: 'saved' };
const SAVING: SaveState = { state: 'saving' };

/** What could not be stored and waits for room, by what it is of. */
const failed = new Map<string, { why: string; full: boolean; retry: () => void }>();
/** The last write that failed and does not wait: whoever asked for it was informed. */
let refused: SaveState | null = null;
let pending = 0;
/** Fields in which something was typed that is not handed over yet. */
const typedIn = new Set<string>();
export const saveStore = createStore<SaveState>()(() => SAVED);

function settle(): void {
  const [first] = failed.values();
  const now: SaveState = first
    ? { state: 'failed', why: first.why, full: first.full, again: true }
    : pending > 0 || typedIn.size > 0
      ? SAVING
      : (refused ?? SAVED);
  saveStore.setState(now, true);
}

/** Something was typed in a field, and rests there for a moment before it is handed over: that is not saved yet. */
export function holdTyped(place: string): void {
  if (typedIn.has(place)) return;
  typedIn.add(place);
  settle();
}

/** What was typed is handed over, or kept as a draft. */
export function typedHandedOver(place: string): void {
  if (typedIn.delete(place)) settle();
}

/** Whether a write failed for want of room. */
export const isFull = (error: unknown): boolean =>
  /quota/i.test(`${(error as { name?: string } | null)?.name ?? ''} ${String(error)}`);

const FULL = 'this device has no room left for it. Move films out, then try again.';

/** A sentence for any error of the browser's storage; some of them come without a word. */
export function whyNot(error: unknown): string {
  if (isFull(error)) return FULL;
  const words = error instanceof Error ? error.message : typeof error === 'string' ? error : '';
  return words || 'this browser’s storage refused it without a reason. Try again, or reload the page.';
}

/** How long until what could not be stored is tried again by itself, ms. */
const AGAIN_MS = 5000;

/** Something could not be stored and stays where it is: it is tried again after a while, and whenever the fitter says so. */
export function failedToSave(what: string, error: unknown, retry: () => void): void {
  failed.set(what, { why: whyNot(error), full: isFull(error), retry });
  settle();
  setTimeout(() => failed.get(what)?.retry === retry && retry(), AGAIN_MS);
}

export function savedAfterAll(what: string): void {
  if (failed.delete(what)) settle();
}

/** Tries everything again that could not be stored. */
export const saveAgain = (): void => [...failed.values()].forEach(({ retry }) => retry());

/** Does something once everything under way is stored. */
export function onceSaved(go: () => void): void {
  // A write that an action is about to begin counts too.
  const BEGUN_BY_MS = 1500;
  const look = (): void => {
    if (saveStore.getState().state === 'saved') go();
    else setTimeout(look, BEGUN_BY_MS);
  };
  setTimeout(look, BEGUN_BY_MS);
}

/** Runs what will write, or may: nothing is told as saved meanwhile. How it went, the writes themselves tell. */
export async function underWay<T>(work: () => Promise<T>): Promise<T> {
  pending += 1;
  settle();
  try {
    return await work();
  } finally {
    pending -= 1;
    settle();
  }
}

/**
 * Runs a write and tells the page how it went; the error goes on to the caller.
 * @param unsaved why a result that came without an error is not saved all the same; null where it is
 */
export const saving = <T>(
  write: () => Promise<T>,
  unsaved: (result: T) => string | null = () => null,
): Promise<T> =>
  underWay(async () => {
    try {
      const result = await write();
      const why = unsaved(result);
      refused = why === null ? null : { state: 'failed', why, full: false, again: false };
      return result;
    } catch (error) {
      refused = { state: 'failed', why: whyNot(error), full: isFull(error), again: false };
      throw error;
    }
  });

/** Whether a write is under way: what it writes would be lost with the page. */
export const isWriting = (): boolean => pending > 0;
