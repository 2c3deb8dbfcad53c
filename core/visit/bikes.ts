import { RECORD_VERSIONS } from '../records/migrations.ts';
import { lastSetup } from './setups.ts';
import type { Bike, FitSession } from '../records/types.ts';

/** A rider's bike with its visits. */
export interface BikeOfRider {
  bike: Bike;
  visits: FitSession[];
}

/**
 * A rider's bikes with their visits, the one seen last first. A bike that only visits know of (they may be older than bikes are on
 * record) gets a record made from its newest visit.
 * @param sessions the rider's, the newest first
 */
export function bikesOf(
  riderId: string,
  stored: readonly Bike[],
  sessions: readonly FitSession[],
): BikeOfRider[] {
  const known = new Map(stored.filter((b) => b.riderId === riderId).map((b) => [b.id, b]));
  for (const s of sessions) {
    if (known.has(s.bikeId)) continue;
    known.set(s.bikeId, {
      version: RECORD_VERSIONS.bike,
      id: s.bikeId,
      riderId,
      name: lastSetup(s).name,
      note: '',
      createdIso: s.startedIso,
    });
  }
  const seen = (b: BikeOfRider): string => b.visits[0]?.startedIso ?? b.bike.createdIso;
  return [...known.values()]
    .map((bike) => ({ bike, visits: sessions.filter((s) => s.bikeId === bike.id) }))
    .sort((a, b) => (seen(a) < seen(b) ? 1 : -1));
}
