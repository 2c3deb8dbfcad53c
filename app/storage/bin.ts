import { isDue } from '../../core/records/visits.ts';
import { checkRecord } from '../../core/records/schemas.ts';
import type { FitSession, Rider } from '../../core/records/types.ts';
import { saving } from './saveState';
import { dropTake, riderStore, sessionStore } from './stores';

/** Everything in a store that can be read, and how much cannot (it is kept untouched). */
async function readAll<K extends 'rider' | 'session'>(
  kind: K,
  store: LocalForage,
): Promise<{ good: (K extends 'rider' ? Rider : FitSession)[]; unread: number }> {
  const good: (K extends 'rider' ? Rider : FitSession)[] = [];
  let unread = 0;
  await store.iterate<unknown, void>((stored) => {
    const checked = checkRecord(kind, stored);
    if (checked.ok) good.push(checked.value as K extends 'rider' ? Rider : FitSession);
    else unread += 1;
  });
  return { good, unread };
}

export const allRiders = () => readAll('rider', riderStore);
export const allSessions = () => readAll('session', sessionStore);

/** A session gone whole: film, tracks, then the record; a crash in between leaves a session without film, never film without one. */
async function eraseSession(session: FitSession): Promise<void> {
  if (session.take) await dropTake(session.take.id);
  await sessionStore.removeItem(session.id);
}

/** A rider gone whole, with every session and film. */
export const eraseRider = (riderId: string): Promise<void> =>
  saving(async () => {
    const { good } = await allSessions();
    for (const session of good) if (session.riderId === riderId) await eraseSession(session);
    await riderStore.removeItem(riderId);
  });

export const eraseSessionById = (id: string): Promise<void> =>
  saving(async () => {
    const checked = checkRecord('session', await sessionStore.getItem(id));
    if (checked.ok) await eraseSession(checked.value);
  });

/**
 * All riders and visits, after the bin has been emptied of what has lain there for its time.
 */
export async function studioNow(nowIso: string): Promise<{
  riders: Rider[];
  sessions: FitSession[];
  unread: number;
}> {
  const [riders, sessions] = await Promise.all([allRiders(), allSessions()]);
  const gone = new Set(riders.good.filter((r) => isDue(r.deletedIso, nowIso)).map((r) => r.id));
  const over = (s: FitSession): boolean => gone.has(s.riderId) || isDue(s.deletedIso, nowIso);
  for (const s of sessions.good) if (over(s)) await eraseSession(s);
  for (const id of gone) await riderStore.removeItem(id);
  return {
    riders: riders.good.filter((r) => !gone.has(r.id)),
    sessions: sessions.good.filter((s) => !over(s)),
    unread: riders.unread + sessions.unread,
  };
}
