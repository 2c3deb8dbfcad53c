import { nanoid } from 'nanoid';
import { planImport, type Duplicates } from '../../core/formats/planImport.ts';
import { writeBundle, type Bundle } from '../../core/formats/bundle.ts';
import type { DamagedEntry } from '../../core/formats/unpackBundle.ts';
import type { Inspection } from '../../core/formats/inspectBundle.ts';
import { everyTake } from '../../core/visit/visits.ts';
import { checkRecord } from '../../core/records/schemas.ts';
import { readBackup, readFile, readFilms } from './files';
import { storedBikes } from '../storage/bikes';
import { noteBackup } from '../storage/lastBackup';
import { loadParts, saveParts } from '../storage/parts';
import { loadShelf, saveShelf } from '../storage/protocols';
import { saving } from '../storage/saveState';
import { clipOf, tracksOf } from '../storage/sessions';
import {
  bikeStore,
  loadClip,
  newestTracks,
  putRider,
  putSession,
  riderStore,
  saveClip,
  saveTracks,
  sessionStore,
} from '../storage/stores';
import { loadStudio, saveStudio } from '../storage/studio';
import { studioIndex, wholeIndex } from '../storage/studioIndex';

/** Beyond this a browser can't hold a zip in one piece, bytes. */
const MOST_BYTES = 1_800_000_000;

/**
 * Everything held of one rider or one of its visits, or of the whole studio, as one file. What lies in the trash goes along with its rider.
 * @param onProgress how many films are packed, of how many
 * @throws with a sentence where the films are too large for one file
 */
// eslint-disable-next-line max-lines-per-function -- one step after the other, each needing what the one before gave
export async function saveBundle(
  riderId: string | null,
  onProgress: (films: number, of: number) => void,
  visitId: string | null = null,
): Promise<Blob> {
  const { index, unreadable } = await wholeIndex();
  const bundle: Bundle = { riders: [], bikes: [], sessions: [], tracks: new Map(), clips: new Map() };
  for (const { id } of index.riders) {
    if (riderId !== null && id !== riderId) continue;
    const rider = checkRecord('rider', await riderStore.getItem(id));
    if (rider.ok) bundle.riders.push(rider.value);
  }
  const ids = new Set(bundle.riders.map((r) => r.id));
  bundle.bikes = (await storedBikes(riderId)).filter((b) => ids.has(b.riderId));
  for (const visit of index.visits) {
    if (!ids.has(visit.riderId) || (visitId !== null && visit.id !== visitId)) continue;
    const session = checkRecord('session', await sessionStore.getItem(visit.id));
    if (session.ok) bundle.sessions.push(session.value);
  }
  if (riderId === null) {
    bundle.studio = await loadStudio();
    const stored = await loadParts();
    if (stored.ok) bundle.parts = stored.value;
    const shelf = await loadShelf();
    if (shelf.ok) bundle.protocols = shelf.value;
  }
  // What can't be read goes along as it is, its films and tracks with it.
  const raw = visitId === null ? unreadable.filter((u) => riderId === null || u.riderId === riderId) : [];
  bundle.unreadable = new Map();
  for (const u of raw)
    bundle.unreadable.set(
      `${u.kind}s/${u.id}.json`,
      await (u.kind === 'rider' ? riderStore : sessionStore).getItem(u.id),
    );
  const films = [
    ...bundle.sessions
      .flatMap(everyTake)
      .map((take) => ({ id: take.id, tracks: () => tracksOf(take), clip: () => clipOf(take) })),
    ...raw
      .flatMap((u) => u.takeIds)
      .map((id) => ({ id, tracks: () => newestTracks(id), clip: () => loadClip(id) })),
  ];
  let bytes = 0;
  for (const [k, film] of films.entries()) {
    onProgress(k, films.length);
    const tracks = await film.tracks();
    if (tracks) bundle.tracks.set(film.id, tracks);
    const clip = await film.clip();
    bytes += clip?.size ?? 0;
    if (bytes > MOST_BYTES)
      throw new Error(
        riderId === null
          ? 'The films are too large for one file. Save the riders one by one, each from its own page.'
          : 'This rider’s films are too large for one file. Move some of them out first (Room on this device).',
      );
    if (clip) bundle.clips.set(film.id, new Uint8Array(await clip.arrayBuffer()));
  }
  onProgress(films.length, films.length);
  const zipped = await writeBundle(bundle);
  if (riderId === null) await noteBackup(new Date().toISOString());
  return new Blob([zipped as Uint8Array<ArrayBuffer>], { type: 'application/zip' });
}

/** A visit saved alone as JSON, as a backup with its rider, who must be here: the file has only the visit. */
async function asBackup(file: Blob): Promise<Blob> {
  if ((await file.slice(0, 1).text()) !== '{') return file;
  const session = await readFile('visit', file);
  if (!session.ok) throw new Error(session.message);
  const rider = checkRecord('rider', await riderStore.getItem(session.value.riderId));
  if (!rider.ok)
    throw new Error('The rider of this visit is not on this device: restore the rider first, from a backup.');
  const bikes = (await storedBikes(rider.value.id)).filter((b) => b.id === session.value.bikeId);
  const bundle = {
    riders: [rider.value],
    bikes,
    sessions: [session.value],
    tracks: new Map(),
    clips: new Map(),
  };
  return new Blob([(await writeBundle(bundle)) as Uint8Array<ArrayBuffer>]);
}

/**
 * What is in a backup or a visit's file, and which of its riders are already here. Nothing is stored.
 * @returns `backup`: what to hand to `bringBack`
 * @throws with a sentence where it is neither
 */
export async function lookInto(
  file: Blob,
): Promise<{ backup: Blob; inspection: Inspection; here: string[] }> {
  const backup = await asBackup(file);
  const inspection = await readBackup(backup);
  const known = new Set((await studioIndex()).index.riders.map((r) => r.id));
  return { backup, inspection, here: inspection.riders.filter((r) => known.has(r.id)).map((r) => r.id) };
}

/** Of every visit, bike and film here, the rider it belongs to. */
async function ownersHere(): Promise<Map<string, string>> {
  const owners = new Map((await storedBikes(null)).map((b) => [b.id, b.riderId]));
  for (const v of (await studioIndex()).index.visits) {
    owners.set(v.id, v.riderId);
    for (const take of [...v.takes, ...v.removed]) owners.set(take.id, v.riderId);
  }
  return owners;
}

export interface BroughtBack {
  riders: number;
  sessions: number;
  films: number;
  /** Films of it that were not taken in, and why. */
  faults: DamagedEntry[];
}

/**
 * Stores a backup that was looked into: film and tracks first, then the visit that needs them, then the rider. Nothing is erased.
 * @param studioToo the studio's own record and its parts bin and protocols as well
 */
export function bringBack(
  file: Blob,
  inspection: Inspection,
  { here, duplicates, studioToo }: { here: readonly string[]; duplicates: Duplicates; studioToo: boolean },
): Promise<BroughtBack> {
  return saving(async () => {
    const plan = planImport(inspection, {
      here: new Set(here),
      duplicates,
      newId: () => nanoid(),
      owners: await ownersHere(),
    });
    const from = new Map<string, string[]>();
    for (const [to, was] of plan.takes) from.set(was, [...(from.get(was) ?? []), to]);
    let films = 0;
    const damaged = await readFilms(file, new Set(from.keys()), async (was, film) => {
      for (const to of from.get(was)!) {
        await saveClip(to, film);
        films += 1;
      }
    });
    for (const s of plan.sessions) {
      for (const take of everyTake(s)) {
        const tracks = inspection.tracks.get(plan.takes.get(take.id)!);
        if (tracks) await saveTracks(take.id, take.tracking.revision, tracks);
      }
      await putSession(s);
    }
    for (const b of plan.bikes) await bikeStore.setItem(b.id, b);
    for (const r of plan.riders) await putRider(r);
    if (studioToo && inspection.studio) await saveStudio(inspection.studio);
    if (studioToo && inspection.parts) await saveParts(inspection.parts.parts, []);
    if (studioToo && inspection.protocols) await saveShelf(inspection.protocols.protocols, []);
    return {
      riders: plan.riders.length,
      sessions: plan.sessions.length,
      films,
      faults: damaged.filter((f) => f.name.endsWith('/film')),
    };
  });
}
