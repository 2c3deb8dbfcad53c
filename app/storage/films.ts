import type { StudioIndex, VisitSummary } from '../../core/visit/summaries.ts';
import { takesOfAllPasts } from './past';
import { saving } from './saveState';
import type { StudioNow } from './studioIndex';
import { clipKeys, dropClip, dropTracks, loadClip, trackKey, trackKeys } from './stores';

const TABS = 'deep-angle:tabs';

/** Stands as long as this tab does: films that an undo may still bring back are not swept away under it. */
let standing = false;

/**
 * Removes films and tracks that no visit has any more and no step back could bring back: those of a visit whose saving was cut off.
 * Only when no other tab is open, and never while some record can't be read: what it holds is not known.
 */
export async function sweepFilms(read: () => Promise<StudioNow>): Promise<void> {
  if (standing || !('locks' in navigator)) return;
  standing = true;
  await navigator.locks.request(TABS, { mode: 'exclusive', ifAvailable: true }, async (lock) => {
    if (!lock) return;
    // What is here first, what is in use after it: a film that comes meanwhile is not touched.
    const [clips, tracksHere] = await Promise.all([clipKeys(), trackKeys()]);
    const { index, unreadable } = await read();
    if (unreadable.length > 0) return;
    const takes = index.visits.flatMap((v) => [...v.takes, ...v.removed]);
    const past = await takesOfAllPasts();
    const known = new Set(takes.map((t) => t.id));
    const tracks = new Set(takes.flatMap((t) => [t.id, trackKey(t.id, t.revision)]));
    for (const key of clips) if (!known.has(key) && !past.has(key)) await dropClip(key);
    for (const key of tracksHere) if (!tracks.has(key) && !past.has(key.split('@')[0])) await dropTracks(key);
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
    for (const take of [...visit.takes, ...visit.removed])
      if (kept.has(take.id))
        held.push({ visit, take, bytes: (await loadClip(take.id))?.size ?? take.clipBytes });
  }
  return held.sort((a, b) => b.bytes - a.bytes);
}

export const dropFilm = (takeId: string): Promise<void> => saving(() => dropClip(takeId));

/** Asks the browser, once, not to clear what is stored here when the disk runs full. Browsers that ask the user do so now. */
let requested = false;
export function askToKeep(): void {
  if (requested) return;
  requested = true;
  void navigator.storage?.persist?.().catch(() => undefined);
}
