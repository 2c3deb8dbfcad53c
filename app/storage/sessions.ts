import { UNMEASURED_BIKE } from '../../core/bike/setup.ts';
import { UNTESTED_BODY } from '../../core/body/bodyTests.ts';
import { BLANK_INTAKE } from '../../core/intake/intake.ts';
import { RECORD_VERSIONS } from '../../core/records/migrations.ts';
import { parseTracksCsv } from '../../core/formats/tracksCsv.ts';
import { checkRecord, type Checked } from '../../core/records/schemas.ts';
import { NOTHING_DONE } from '../../core/visit/visits.ts';
import { NO_STATICS } from '../../core/body/statics.ts';
import type { Bike, FitSession, Rider, Studio, Take } from '../../core/records/types.ts';
import type { Tracks } from '../../core/tracking/tracks.ts';
import { saving } from './saveState';
import { alone } from './tabs';
import {
  bikeStore,
  keepWhole,
  loadClip,
  loadTracks,
  putRider,
  putSession,
  riderStore,
  saveClip,
  saveTracks,
  sessionStore,
} from './stores';

export const loadSession = async (id: string): Promise<Checked<FitSession> | null> => {
  const stored = await sessionStore.getItem(id);
  return stored === null ? null : checkRecord('session', stored);
};

export const loadRider = async (id: string): Promise<Rider | null> => {
  const checked = checkRecord('rider', await riderStore.getItem(id));
  return checked.ok ? checked.value : null;
};

/** A visit of which nothing is known yet. */
export function blankSession(
  { riderId, bikeId, id }: Pick<FitSession, 'riderId' | 'bikeId' | 'id'>,
  studio: Pick<Studio, 'paper' | 'protocolId'>,
  nowIso: string,
): FitSession {
  return {
    version: RECORD_VERSIONS.session,
    id,
    riderId,
    startedIso: nowIso,
    deletedIso: null,
    bikeId,
    followsId: null,
    protocolId: studio.protocolId,
    protocol: null,
    statics: NO_STATICS,
    intake: BLANK_INTAKE,
    body: UNTESTED_BODY,
    asFound: UNMEASURED_BIKE,
    ...NOTHING_DONE,
    handOver: { ...NOTHING_DONE.handOver, paper: studio.paper },
  };
}

export const saveRider = (rider: Rider): Promise<unknown> => saving(() => putRider(rider));

/** Changes a rider as stored now; no other tab's change comes between. @returns whether the rider is there to be changed */
export const changeRider = (id: string, change: (rider: Rider) => Rider): Promise<boolean> =>
  saving(() =>
    alone(id, async () => {
      const rider = await loadRider(id);
      if (rider) await putRider(change(rider));
      return rider !== null;
    }),
  );

/** Puts a visit into the trash, or takes it out (null), as it is stored now: what another tab has just edited goes along. */
export const binVisit = (id: string, deletedIso: string | null): Promise<Checked<FitSession> | null> =>
  saving(() =>
    alone(id, async () => {
      const stored = await loadSession(id);
      if (stored?.ok) await putSession({ ...stored.value, deletedIso });
      return stored;
    }),
  );
/** Stores a visit whole: a new one, or one that goes into the trash or out of it. */
export const saveSession = (session: FitSession): Promise<unknown> => saving(() => putSession(session));
export const saveBike = (bike: Bike): Promise<unknown> => saving(() => bikeStore.setItem(bike.id, bike));

/** A file of the demo studio; null where it is not to be had, without a network for one. */
async function demoFile(url: string): Promise<Response | null> {
  const answer = await fetch(url).catch(() => null);
  return answer?.ok ? answer : null;
}

/** Film of a take: from this device, or fetched once from the demo studio and then kept. */
export async function clipOf(take: Take): Promise<Blob | null> {
  const kept = await loadClip(take.id);
  if (kept || !take.demo) return kept;
  const answer = await demoFile(take.demo.clipUrl);
  if (!answer) return null;
  const blob = await answer.blob();
  // A demo film that finds no room is fetched again the next time. It came whole: nobody has to look through it.
  await saveClip(take.id, blob).catch(() => undefined);
  if (blob.size === take.clipBytes)
    await keepWhole(take.id, { bytes: blob.size, frames: take.video.frames, broken: [] }).catch(
      () => undefined,
    );
  return blob;
}

/** Tracks of a take: from this device, or a demo take's ready-made ones. */
export async function tracksOf(take: Take): Promise<Tracks | null> {
  if (take.tracking.state === 'none') return null;
  const kept = await loadTracks(take);
  if (kept || !take.demo?.tracksUrl) return kept;
  const answer = await demoFile(take.demo.tracksUrl);
  if (!answer) return null;
  const parsed = parseTracksCsv(await answer.text());
  if (!parsed.ok) return null;
  await saveTracks(take.id, take.tracking.revision, parsed.tracks).catch(() => undefined);
  return parsed.tracks;
}
