import type { StudioIndex, VisitSummary } from '../../core/records/summaries.ts';
import { saving } from './saveState';
import { clipKeys, dropClip, dropTracks, loadClip, trackKey, trackKeys } from './stores';

const TABS = 'deep-angle:tabs';

/** Stands as long as this tab does: films that an undo may still bring back are not swept away under it. */
let standing = false;

/**
 * Removes films and tracks that no visit has any more: those that were replaced, and those of a visit whose saving was cut off.
 * Only when no other tab is open, and before this one can undo anything.
 */
export async function sweepFilms(read: () => Promise<StudioIndex>): Promise<void> {
  if (standing || !('locks' in navigator)) return;
  standing = true;
  await navigator.locks.request(TABS, { mode: 'exclusive', ifAvailable: true }, async (lock) => {
    if (!lock) return;
    // What is here first, what is in use after it: a film that comes meanwhile is not touched.
    const [clips, tracksHere] = await Promise.all([clipKeys(), trackKeys()]);
    const { visits } = await read();
    const takes = visits.flatMap((v) => v.takes);
    const known = new Set(takes.map((t) => t.id));
    const tracks = new Set(takes.flatMap((t) => [t.id, trackKey(t.id, t.revision)]));
    for (const key of clips) if (!known.has(key)) await dropClip(key);
    for (const key of tracksHere) if (!tracks.has(key)) await dropTracks(key);
  });
  void navigator.locks.request(TABS, { mode: 'shared' }, () => new Promise<never>(() => undefined));
}

export interface FilmHeld {
  visit: VisitSummary;
  take: VisitSummary['takes'][number];
  bytes: number;
}

/** The films on this device, the largest first. */
export async function filmsHeld(index: StudioIndex): Promise<FilmHeld[]> {
  const kept = new Set(await clipKeys());
  const held: FilmHeld[] = [];
  for (const visit of index.visits) {
    for (const take of visit.takes)
      if (kept.has(take.id))
        held.push({ visit, take, bytes: (await loadClip(take.id))?.size ?? take.clipBytes });
  }
  return held.sort((a, b) => b.bytes - a.bytes);
}

export const dropFilm = (takeId: string): Promise<void> => saving(() => dropClip(takeId));

/** Asks the browser, once, not to clear what is stored here when the disk runs full. Browsers that ask the user do so now. */
let asked = false;
export function askToKeep(): void {
  if (asked) return;
  asked = true;
  void navigator.storage?.persist?.().catch(() => undefined);
}
