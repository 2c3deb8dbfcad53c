import type { Bike, FitSession, Rider, Take } from '../records/types.ts';
import { everyTake } from '../visit/visits.ts';

import type { Inspection } from './inspectBundle.ts';
/**
 * What happens with riders that are already there: what is missing of theirs is added; or what is in the backup is put over what is
 * there (visits that it does not have stay); or it is taken in beside them.
 */
export type Duplicates = 'add' | 'over' | 'both';

/**
 * What of a backup is to be stored. What is taken in beside comes under new ids.
 * @param newId makes ids that are nowhere yet
 * @param owners of every visit, bike and take already here, the rider it belongs to: nothing of another rider is ever written over
 * @returns records to store, and for each of their takes the id its film and tracks have in the backup
 */
export function planImport(
  inspection: Inspection,
  {
    here,
    duplicates,
    newId,
    owners = new Map(),
  }: {
    here: ReadonlySet<string>;
    duplicates: Duplicates;
    newId: () => string;
    owners?: ReadonlyMap<string, string>;
  },
): { riders: Rider[]; bikes: Bike[]; sessions: FitSession[]; takes: Map<string, string> } {
  const riders: Rider[] = [];
  const bikes: Bike[] = [];
  const sessions: FitSession[] = [];
  const takes = new Map<string, string>();
  for (const rider of inspection.riders) {
    const there = here.has(rider.id);
    const anew = there && duplicates === 'both';
    const adding = there && duplicates === 'add';
    const riderId = anew ? newId() : rider.id;
    const idFor = (id: string): string => (anew || (owners.get(id) ?? rider.id) !== rider.id ? newId() : id);
    const stays = (id: string): boolean => adding && owners.get(id) === rider.id;
    if (!adding) riders.push({ ...rider, id: riderId });
    const bikeIds = new Map<string, string>();
    for (const b of inspection.bikes) {
      if (b.riderId !== rider.id || stays(b.id)) continue;
      const id = idFor(b.id);
      bikeIds.set(b.id, id);
      bikes.push({ ...b, id, riderId });
    }
    const theirs = inspection.sessions.filter((s) => s.riderId === rider.id && !stays(s.id));
    const visitIds = new Map(theirs.map((s) => [s.id, idFor(s.id)]));
    for (const s of theirs) {
      const takeIds = new Map(everyTake(s).map((t) => [t.id, idFor(t.id)]));
      for (const [was, id] of takeIds) takes.set(id, was);
      const named = (id: string | null): string | null => (id === null ? null : (takeIds.get(id) ?? id));
      const take = (t: Take): Take => ({
        ...t,
        id: named(t.id)!,
        baselineOf: named(t.baselineOf),
        pairWith: named(t.pairWith),
      });
      sessions.push({
        ...s,
        id: visitIds.get(s.id)!,
        riderId,
        bikeId: bikeIds.get(s.bikeId) ?? s.bikeId,
        followsId: s.followsId && (visitIds.get(s.followsId) ?? s.followsId),
        takes: s.takes.map(take),
        removedTakes: s.removedTakes.map((r) => ({ ...r, take: take(r.take) })),
        takeId: named(s.takeId),
      });
    }
  }
  return { riders, bikes, sessions, takes };
}
