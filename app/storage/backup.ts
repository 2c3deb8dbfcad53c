import { nanoid } from 'nanoid';
import {
  clipsOfBundle,
  inspectBundle,
  planImport,
  writeBundle,
  type Bundle,
  type Duplicates,
  type Inspection,
} from '../../core/formats/bundle.ts';
import { allRiders, allSessions, eraseRider } from './bin';
import { loadParts } from './parts';
import { saving } from './saveState';
import { clipOf, tracksOf } from './sessions';
import { riderStore, saveClip, saveTracks, sessionStore, settingsStore } from './stores';

const LAST = 'last-backup';

/** When the whole studio was last saved as a file; null if never. */
export const lastBackupIso = (): Promise<string | null> => settingsStore.getItem<string>(LAST);

/**
 * Everything held of one rider, or of the whole studio, as one file. What lies in the bin goes along with its rider.
 * @param onProgress how many films are packed, of how many
 */
export async function saveBundle(
  riderId: string | null,
  onProgress: (films: number, of: number) => void,
): Promise<Blob> {
  const riders = (await allRiders()).good.filter((r) => riderId === null || r.id === riderId);
  const ids = new Set(riders.map((r) => r.id));
  const sessions = (await allSessions()).good.filter((s) => ids.has(s.riderId));
  const bundle: Bundle = { riders, sessions, tracks: new Map(), clips: new Map() };
  const bin = riderId === null ? await loadParts() : null;
  if (bin?.ok) bundle.parts = bin.value.parts;
  const takes = sessions.flatMap((s) => (s.take ? [s.take] : []));
  for (const [k, take] of takes.entries()) {
    onProgress(k, takes.length);
    const tracks = await tracksOf(take);
    if (tracks) bundle.tracks.set(take.id, tracks);
    const clip = await clipOf(take);
    if (clip) bundle.clips.set(take.id, new Uint8Array(await clip.arrayBuffer()));
  }
  onProgress(takes.length, takes.length);
  const bytes = await writeBundle(bundle);
  if (riderId === null) await settingsStore.setItem(LAST, new Date().toISOString());
  return new Blob([bytes as Uint8Array<ArrayBuffer>], { type: 'application/zip' });
}

async function* piecesOf(file: Blob): AsyncGenerator<Uint8Array> {
  const STEP = 4_000_000;
  for (let at = 0; at < file.size; at += STEP)
    yield new Uint8Array(await file.slice(at, at + STEP).arrayBuffer());
}

/** What is in a backup, and which of its riders are already here. Nothing is stored. */
export async function lookInto(file: Blob): Promise<{ inspection: Inspection; here: string[] }> {
  const inspection = await inspectBundle(piecesOf(file));
  const known = new Set((await allRiders()).good.map((r) => r.id));
  return { inspection, here: inspection.riders.filter((r) => known.has(r.id)).map((r) => r.id) };
}

/** Stores a backup that was looked into: film and tracks first, then the visit that needs them, then the rider. */
export function bringBack(
  file: Blob,
  inspection: Inspection,
  here: readonly string[],
  duplicates: Duplicates,
): Promise<{ riders: number; sessions: number; films: number }> {
  return saving(async () => {
    const owners = new Map<string, string>();
    for (const s of (await allSessions()).good) {
      owners.set(s.id, s.riderId);
      if (s.take) owners.set(s.take.id, s.riderId);
    }
    const plan = planImport(inspection, new Set(here), duplicates, () => nanoid(), owners);
    const from = new Map<string, string[]>();
    for (const [to, was] of plan.takes) from.set(was, [...(from.get(was) ?? []), to]);
    const films = new Map<string, Blob>();
    await clipsOfBundle(piecesOf(file), new Set(from.keys()), (was, bytes) =>
      films.set(was, new Blob([bytes as Uint8Array<ArrayBuffer>])),
    );
    // What is replaced goes only when all that comes in its place has been read.
    for (const id of plan.replaced) await eraseRider(id);
    for (const [was, film] of films) for (const to of from.get(was)!) await saveClip(to, film);
    for (const [to, was] of plan.takes) {
      const tracks = inspection.tracks.get(was);
      if (tracks) await saveTracks(to, tracks);
    }
    for (const s of plan.sessions) await sessionStore.setItem(s.id, s);
    for (const r of plan.riders) await riderStore.setItem(r.id, r);
    return { riders: plan.riders.length, sessions: plan.sessions.length, films: films.size };
  });
}
