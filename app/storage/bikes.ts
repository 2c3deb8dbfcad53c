import { RECORD_VERSIONS } from '../../core/records/migrations.ts';
import { checkRecord } from '../../core/records/schemas.ts';
import type { Bike, FitSession } from '../../core/records/types.ts';
import { bikeStore } from './stores';

/** A bike of which nothing is known yet. */
export const newBike = (riderId: string, id: string, nowIso: string, name = ''): Bike => ({
  version: RECORD_VERSIONS.bike,
  id,
  riderId,
  name,
  note: '',
  createdIso: nowIso,
});

/** The bikes on record of a rider, or of everybody. */
export async function storedBikes(riderId: string | null): Promise<Bike[]> {
  const out: Bike[] = [];
  await bikeStore.iterate<unknown, void>((stored) => {
    const checked = checkRecord('bike', stored);
    if (checked.ok && (riderId === null || checked.value.riderId === riderId)) out.push(checked.value);
  });
  return out;
}

/** The bike's own record follows what it was last called at a visit. */
export async function nameBike({ bikeId, riderId, startedIso, asFound }: FitSession): Promise<void> {
  const checked = checkRecord('bike', await bikeStore.getItem(bikeId));
  const bike = checked.ok ? checked.value : newBike(riderId, bikeId, startedIso);
  await bikeStore.setItem(bikeId, { ...bike, name: asFound.name });
}
