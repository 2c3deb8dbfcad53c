import { UNMEASURED_BIKE } from '../../core/bike/setup.ts';
import { UNTESTED_BODY } from '../../core/body/tests.ts';
import { BLANK_INTAKE } from '../../core/intake/intake.ts';
import { RECORD_VERSIONS } from '../../core/records/migrations.ts';
import { parseTracksCsv } from '../../core/formats/tracksCsv.ts';
import { applyEdit, inverseOf, type EditResult, type SessionEdit } from '../../core/records/edits.ts';
import { checkRecord, type Checked } from '../../core/records/schemas.ts';
import { NOTHING_DONE } from '../../core/records/visits.ts';
import { NO_STATICS } from '../../core/records/statics.ts';
import type { Bike, FitSession, Rider, Take } from '../../core/records/types.ts';
import type { Tracks } from '../../core/stroke/tracks.ts';
import { nextStep, note, stepped } from './history';
import { saving } from './saveState';
import { alone, tellWritten } from './tabs';
import {
  bikeStore,
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

/** A bike of which nothing is known yet. */
export const newBike = (riderId: string, id: string, nowIso: string, name = ''): Bike => ({
  version: RECORD_VERSIONS.bike,
  id,
  riderId,
  name,
  note: '',
  createdIso: nowIso,
});

/** A visit of which nothing is known yet. */
export function blankSession(riderId: string, bikeId: string, id: string, nowIso: string): FitSession {
  return {
    version: RECORD_VERSIONS.session,
    id,
    riderId,
    startedIso: nowIso,
    deletedIso: null,
    bikeId,
    followsId: null,
    protocolId: 'long-distance',
    protocol: null,
    statics: NO_STATICS,
    intake: BLANK_INTAKE,
    body: UNTESTED_BODY,
    asFound: UNMEASURED_BIKE,
    ...NOTHING_DONE,
  };
}

export const saveRider = (rider: Rider): Promise<unknown> => saving(() => putRider(rider));
export const saveSession = (session: FitSession): Promise<unknown> => saving(() => putSession(session));
export const saveBike = (bike: Bike): Promise<unknown> => saving(() => bikeStore.setItem(bike.id, bike));

/** What waits to be stored: an edit, or a step back or forward, which depends on what was noted before it. */
interface Waiting {
  asked: SessionEdit | 'undo' | 'redo';
  answer: (result: EditResult) => void;
  fail: (error: unknown) => void;
}

/** Edits of one session wait for each other: each starts from what the one before has stored. */
const queues = new Map<string, Waiting[]>();

/** Applies an edit to the stored session and stores the result; what does not fit is refused with a sentence. */
export const editSession = (id: string, edit: SessionEdit): Promise<EditResult> => enqueue(id, edit);

/** Takes the last edit of this session back, or does it again. */
export const stepSession = (id: string, which: 'undo' | 'redo'): Promise<EditResult> => enqueue(id, which);

function enqueue(id: string, asked: Waiting['asked']): Promise<EditResult> {
  // “Saving…” stands from the moment of the edit, not only while the database writes.
  return saving(
    () =>
      new Promise((answer, fail) => {
        const entry = { asked, answer, fail };
        const queue = queues.get(id);
        if (queue) return void queue.push(entry);
        queues.set(id, [entry]);
        void work(id);
      }),
  );
}

/** Stores what waits, all edits that came meanwhile in one write: however fast they come, the store is one write behind. */
async function work(id: string): Promise<void> {
  const queue = queues.get(id)!;
  while (queue.length > 0) {
    const steps = queue.findIndex(({ asked }) => typeof asked === 'string');
    const batch = queue.splice(0, steps < 0 ? queue.length : Math.max(1, steps));
    if (!(await storeBatch(id, batch))) for (const one of batch) await storeBatch(id, [one]);
  }
  queues.delete(id);
}

/** Answers every one of a batch; false where several could not be written at once, and none was answered. */
async function storeBatch(id: string, batch: readonly Waiting[]): Promise<boolean> {
  try {
    const results = await alone(id, () => changeStored(id, batch));
    if (results.some((r) => r.ok)) tellWritten(id);
    batch.forEach(({ answer }, k) => answer(results[k]!));
  } catch (error) {
    if (batch.length > 1) return false;
    batch[0]!.fail(error);
  }
  return true;
}

/**
 * One record, one write: a crash leaves the session as it was or as it is, never half of it. Films and tracks that the session lets
 * go stay for an undo until `sweepFilms`.
 */
async function changeStored(id: string, batch: readonly Waiting[]): Promise<EditResult[]> {
  const stored = await loadSession(id);
  const none = (message: string): EditResult[] => batch.map(() => ({ ok: false, message }));
  if (!stored) return none('This session is no longer on this device.');
  if (!stored.ok) return none(stored.message);
  let session = stored.value;
  const notes: (() => void)[] = [];
  const results = batch.map(({ asked }): EditResult => {
    const edit = typeof asked === 'string' ? nextStep(id, asked) : asked;
    if (!edit) return { ok: false, message: asked === 'undo' ? 'Nothing to undo.' : 'Nothing to redo.' };
    const result = applyEdit(session, edit);
    if (!result.ok) return result;
    const inverse = inverseOf(session, edit);
    if (inverse)
      notes.push(() => (typeof asked === 'string' ? stepped(id, asked, inverse) : note(id, inverse)));
    session = result.session;
    return result;
  });
  // The visit comes last: once it stands nothing more can fail, and no edit is tried a second time.
  if (session.asFound.name !== stored.value.asFound.name) await nameBike(session);
  if (session !== stored.value) await putSession(session);
  notes.forEach((go) => go());
  return results;
}

/** The bike's own record follows what it was last called at a visit. */
async function nameBike({ bikeId, riderId, startedIso, asFound }: FitSession): Promise<void> {
  const checked = checkRecord('bike', await bikeStore.getItem(bikeId));
  const bike = checked.ok ? checked.value : newBike(riderId, bikeId, startedIso);
  await bikeStore.setItem(bikeId, { ...bike, name: asFound.name });
}

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
  await saving(() => saveClip(take.id, blob));
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
  await saving(() => saveTracks(take.id, take.tracking.revision, parsed.tracks));
  return parsed.tracks;
}
