import { isDue } from '../../core/visit/visits.ts';
import { studioNow } from '../storage/trash';
import { dropTake } from '../storage/stores';
import type { StudioNow } from '../storage/studioIndex';
import { dropPast } from '../storage/past';
import { editVisit, refreshVisit } from './visits';

/** A removed film gone whole: its place in the trash first, then film and tracks; what a crash leaves, the next start sweeps. */
export async function eraseTake(sessionId: string, takeId: string): Promise<void> {
  const erased = await editVisit(sessionId, { kind: 'take-erased', takeId });
  if (!erased.ok) return;
  // No step back leads past it: its film would be missing.
  await dropPast(sessionId);
  await refreshVisit(sessionId);
  await dropTake(takeId);
}

/** The studio's index after the trash has been emptied of what has lain there for its time, removed films among it. */
export async function studioWithoutOld(nowIso: string): Promise<StudioNow> {
  const now = await studioNow(nowIso);
  for (const v of now.index.visits)
    for (const t of v.removed)
      if (v.deletedIso === null && isDue(t.removedIso, nowIso)) await eraseTake(v.id, t.id);
  return now;
}
