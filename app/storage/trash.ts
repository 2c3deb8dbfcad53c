import { descending } from 'd3';
import type { VisitSummary } from '../../core/visit/summaries.ts';
import { checkRecord } from '../../core/records/schemas.ts';
import type { FitSession } from '../../core/records/types.ts';
import { isDue } from '../../core/visit/visits.ts';
import { saving } from './saveState';
import { alone } from './tabs';
import { dropPast, takesOfPast } from './past';
import { storedBikes } from './bikes';
import { bikeStore, dropTake, removeRider, removeSession, sessionStore } from './stores';
import { studioIndex, type StudioNow } from './studioIndex';
import { distrust } from './touched';

/** What is stated about something that is asked for and was put away. @param what “This visit” */
export const liesInTrash = (what: string): string => `${what} is in the trash. Restore it there, then go on.`;

/** A rider's visits, whole, the newest first; those in the trash too. What can't be read is left out, and told by the index. */
export async function sessionsOf(riderId: string): Promise<FitSession[]> {
  const { index } = await studioIndex();
  const out: FitSession[] = [];
  for (const v of index.visits) {
    if (v.riderId !== riderId) continue;
    const checked = checkRecord('session', await sessionStore.getItem(v.id));
    if (checked.ok) out.push(checked.value);
    else await distrust('session', v.id);
  }
  return out.sort((a, b) => descending(a.startedIso, b.startedIso));
}

const filmsOf = (v: VisitSummary): string[] => [...v.takes, ...v.removed].map((t) => t.id);

/** A session gone whole: film, tracks, then the record; a crash in between leaves a session without film, never film without one. */
async function eraseSession(id: string, takeIds: readonly string[]): Promise<void> {
  for (const dropped of new Set([...takeIds, ...(await takesOfPast(id))])) await dropTake(dropped);
  // Between an edit's reading and its writing the visit would come back.
  await alone(id, async () => {
    await dropPast(id);
    await removeSession(id);
  });
}

/** A rider gone whole, with every bike, session and film, those that can't be read among them. */
export const eraseRider = (riderId: string): Promise<void> =>
  saving(async () => {
    const { index, unreadable } = await studioIndex();
    for (const v of index.visits) if (v.riderId === riderId) await eraseSession(v.id, filmsOf(v));
    for (const u of unreadable)
      if (u.kind === 'session' && u.riderId === riderId) await eraseSession(u.id, u.takeIds);
    for (const bike of await storedBikes(riderId)) await bikeStore.removeItem(bike.id);
    await removeRider(riderId);
  });

export const eraseSessionById = (id: string): Promise<void> =>
  saving(async () => {
    const visit = (await studioIndex()).index.visits.find((v) => v.id === id);
    if (visit) await eraseSession(id, filmsOf(visit));
  });

/** The studio's index after the trash has been emptied of what has lain there for its time. */
export async function studioNow(nowIso: string): Promise<StudioNow> {
  const now = await studioIndex();
  const riders = now.index.riders.filter((r) => isDue(r.deletedIso, nowIso));
  const visits = now.index.visits.filter((v) => isDue(v.deletedIso, nowIso));
  if (riders.length + visits.length === 0) return now;
  for (const r of riders) await eraseRider(r.id);
  for (const v of visits) await eraseSessionById(v.id);
  return studioIndex();
}
