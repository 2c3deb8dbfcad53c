/** What the corner of the page says about saving. */
export type SaveState =
  { state: 'saved' } | { state: 'saving' } | { state: 'failed'; why: string; full: boolean };

let current: SaveState = { state: 'saved' };
let pending = 0;
const listeners = new Set<() => void>();

function set(next: SaveState): void {
  current = next;
  listeners.forEach((tell) => tell());
}

export const readSaveState = (): SaveState => current;

export function watchSaveState(tell: () => void): () => void {
  listeners.add(tell);
  return () => listeners.delete(tell);
}

/** Whether a write failed for want of room. */
export const isFull = (error: unknown): boolean =>
  /quota/i.test(`${(error as { name?: string }).name ?? ''} ${String(error)}`);

export const FULL = 'this device has no room left for it. Move films out, then try again.';

function whyNot(error: unknown): string {
  if (isFull(error)) return FULL;
  return error instanceof Error ? error.message : String(error);
}

/** Runs a write and tells the page how it went; the error goes on to the caller. */
export async function saving<T>(write: () => Promise<T>): Promise<T> {
  pending += 1;
  set({ state: 'saving' });
  try {
    const result = await write();
    pending -= 1;
    if (pending === 0) set({ state: 'saved' });
    return result;
  } catch (error) {
    pending -= 1;
    set({ state: 'failed', why: whyNot(error), full: isFull(error) });
    throw error;
  }
}
