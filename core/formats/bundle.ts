import { Unzip, UnzipInflate, zip, type AsyncZippable } from 'fflate';
import { checkRecord, jsonSchemaOf } from '../records/schemas.ts';
import type { Bike, FitSession, PartsBin, ProtocolShelf, Rider, Studio, Take } from '../records/types.ts';
import { everyTake } from '../visit/visits.ts';
import type { Tracks } from '../tracking/tracks.ts';
import { integrityOf, INTEGRITY_NAME, isWhole, parseIntegrity } from './integrity.ts';
import { writePartsCsv } from './partsCsv.ts';
import { crcsOf, type FileBytes } from './zipDirectory.ts';
import { parseTracksCsv, writeTracksCsv } from './tracksCsv.ts';

/** What a backup holds of riders: records, and of each take its film and tracks where there are any. */
export interface Bundle {
  riders: Rider[];
  bikes: Bike[];
  sessions: FitSession[];
  tracks: Map<string, Tracks>;
  clips: Map<string, Uint8Array>;
  /** With the whole studio: its own record, and the parts bin. */
  studio?: Studio;
  parts?: PartsBin;
  protocols?: ProtocolShelf;
  /** Records that this version can't read, as they are stored, by the name that they have in the backup. */
  unreadable?: Map<string, unknown>;
}

/** One file inside a backup, by its name. */
export type EntryName =
  | { kind: 'rider' | 'bike' | 'session' | 'tracks' | 'clip'; id: string }
  | { kind: 'studio' | 'parts' | 'protocols' | 'about' | 'integrity' };

/** Something in a backup that is not taken in, and why. */
export interface DamagedEntry {
  name: string;
  why: string;
}

const ID = '[A-Za-z0-9_-]{1,40}';
const NAMES: readonly [RegExp, 'rider' | 'bike' | 'session' | 'tracks' | 'clip'][] = [
  [new RegExp(`^riders/(${ID})\\.json$`), 'rider'],
  [new RegExp(`^bikes/(${ID})\\.json$`), 'bike'],
  [new RegExp(`^sessions/(${ID})\\.json$`), 'session'],
  [new RegExp(`^takes/(${ID})/tracks\\.csv$`), 'tracks'],
  [new RegExp(`^takes/(${ID})/film$`), 'clip'],
];

/** What an entry's name says it is; null for anything that no backup of ours has, paths that lead elsewhere among them. */
export function entryOf(name: string): EntryName | null {
  if (name === 'README.txt' || name === 'parts.csv' || /^schema\/[a-z]+\.schema\.json$/.test(name))
    return { kind: 'about' };
  if (name === INTEGRITY_NAME) return { kind: 'integrity' };
  if (name === 'studio.json') return { kind: 'studio' };
  if (name === 'parts.json') return { kind: 'parts' };
  if (name === 'protocols.json') return { kind: 'protocols' };
  for (const [pattern, kind] of NAMES) {
    const found = pattern.exec(name);
    if (found) return { kind, id: found[1] };
  }
  return null;
}

const README = `A backup of Deep Angle: open files, readable without it.

riders/<id>.json      a rider
bikes/<id>.json       a bike that a rider comes with
sessions/<id>.json    a visit: intake, body, the bike as found, as it stands and as handed over, what was moved, the plan,
                      follow-ups, marks, figures tried
takes/<id>/film       the film, exactly as it was brought in
takes/<id>/tracks.csv where each landmark is on each frame, pixels
studio.json           the studio's name and how it shows figures
parts.json            the studio's parts bin; parts.csv has the same as a table
protocols.json        the studio's own protocols, every version of each
schema/               the JSON Schemas of the records
integrity.json        the SHA-256 of every file here: what is damaged is noticed, and the rest still comes back

A record that the version that made this backup could not read (written by a newer one, or damaged) is here as it was stored.

Lengths are millimetres, masses kilograms, angles degrees, times ISO 8601 or seconds.
`;

/** Writes a backup: one zip of open files. Film is stored as it is, the rest is packed. */
export async function writeBundle(b: Bundle): Promise<Uint8Array> {
  const text = (s: string): Uint8Array => new TextEncoder().encode(s);
  const json = (record: unknown): Uint8Array => text(`${JSON.stringify(record, null, 1)}\n`);
  const files: AsyncZippable = { 'README.txt': text(README) };
  for (const kind of ['rider', 'bike', 'session', 'studio', 'parts', 'protocols'] as const)
    files[`schema/${kind}.schema.json`] = json(jsonSchemaOf(kind));
  if (b.studio) files['studio.json'] = json(b.studio);
  if (b.protocols) files['protocols.json'] = json(b.protocols);
  if (b.parts) {
    files['parts.json'] = json(b.parts);
    files['parts.csv'] = text(writePartsCsv(b.parts.parts));
  }
  for (const bike of b.bikes) files[`bikes/${bike.id}.json`] = json(bike);
  for (const r of b.riders) files[`riders/${r.id}.json`] = json(r);
  for (const s of b.sessions) files[`sessions/${s.id}.json`] = json(s);
  for (const [id, tracks] of b.tracks) files[`takes/${id}/tracks.csv`] = text(writeTracksCsv(tracks));
  for (const [name, record] of b.unreadable ?? []) files[name] = json(record);
  for (const [id, clip] of b.clips) files[`takes/${id}/film`] = [clip, { level: 0 }];
  const bytesOf = new Map(
    Object.entries(files).map(([name, f]) => [name, Array.isArray(f) ? f[0] : f] as const),
  );
  const integrity = await integrityOf(bytesOf as Map<string, Uint8Array>);
  const first: AsyncZippable = integrity === null ? {} : { [INTEGRITY_NAME]: text(integrity) };
  return new Promise((resolve, reject) =>
    zip({ ...first, ...files }, { level: 6 }, (error, bytes) => (error ? reject(error) : resolve(bytes))),
  );
}

/** No honest entry is larger, unpacked, bytes. */
const MOST: Record<EntryName['kind'], number> = {
  rider: 1_000_000,
  bike: 1_000_000,
  studio: 1_000_000,
  parts: 5_000_000,
  protocols: 5_000_000,
  session: 5_000_000,
  tracks: 100_000_000,
  clip: 4_000_000_000,
  about: 1_000_000,
  integrity: 20_000_000,
};
const MOST_ENTRIES = 100_000;
/** Nor does a backup unpack to more than this and so many times its own size: text packs some ten to one, film not at all. */
const MOST_UNPACKED = { bytes: 200_000_000, times: 40 };
/** What is left out is listed up to here; after it a broken file has only more of the same. */
const MOST_FAULTS = 2000;

/**
 * Reads a backup piece by piece, entry by entry. Nothing is trusted: names, sizes and contents are checked, and what does not fit
 * is listed and left out, never the rest with it.
 * @param wanted kinds to unpack; the others are only listed
 * @param take gets every good entry, whole: as it was when it was packed
 */
async function unpack(
  file: FileBytes,
  wanted: (e: EntryName) => boolean,
  take: (e: EntryName, bytes: Uint8Array, name: string) => void,
): Promise<DamagedEntry[]> {
  const faults: DamagedEntry[] = [];
  const crcs = await crcsOf(file);
  let hashes: ReadonlyMap<string, string> | null = null;
  const whole: { entry: EntryName; bytes: Uint8Array; name: string }[] = [];
  const open = new Set<string>();
  const names = new Set<string>();
  let stop = false;
  let entries = 0;
  let unpacked = 0;
  const most = MOST_UNPACKED.bytes + MOST_UNPACKED.times * file.size;
  const fault = (name: string, why: string): void => {
    // What is said of the file as a whole is never left out.
    if (faults.length < MOST_FAULTS || name === 'the file') faults.push({ name: name.slice(0, 200), why });
  };
  const unzip = new Unzip((file) => {
    const entry = entryOf(file.name);
    if (stop) return;
    entries += 1;
    if (entries > MOST_ENTRIES) {
      fault('the file', `It holds more than ${MOST_ENTRIES} files: the rest is left out.`);
      stop = true;
      return;
    }
    if (file.name.endsWith('/')) return;
    if (!entry) {
      fault(file.name, 'This is no part of a backup.');
      return;
    }
    if (names.has(file.name)) {
      fault(file.name, 'It is in the backup twice; the first is taken.');
      return;
    }
    names.add(file.name);
    if (!wanted(entry) && entry.kind !== 'integrity') return;
    const mostOfIt = MOST[entry.kind];
    const parts: Uint8Array[] = [];
    let size = 0;
    open.add(file.name);
    file.ondata = (error, part, final) => {
      if (!open.has(file.name)) return;
      size += part?.length ?? 0;
      unpacked += part?.length ?? 0;
      if (unpacked > most && !stop) {
        fault('the file', 'It unpacks to far more than any backup does: the rest is left out.');
        stop = true;
      }
      if (error || stop || size > mostOfIt) {
        open.delete(file.name);
        parts.length = 0;
        fault(
          file.name,
          stop
            ? 'It comes after the file was given up.'
            : error
              ? 'It can’t be unpacked: the backup is damaged here.'
              : 'It is far larger than any such file is.',
        );
        file.terminate();
        return;
      }
      parts.push(part);
      if (!final) return;
      open.delete(file.name);
      const bytes = new Uint8Array(size);
      let at = 0;
      for (const p of parts) {
        bytes.set(p, at);
        at += p.length;
      }
      whole.push({ entry, bytes, name: file.name });
    };
    try {
      file.start();
    } catch {
      open.delete(file.name);
      fault(file.name, 'It is packed in a way that is not known here.');
    }
  });
  unzip.register(UnzipInflate);
  /** Hands over what has been unpacked since, but for what is not as it was packed. */
  const handOver = async (): Promise<void> => {
    for (const { entry, bytes, name } of whole.splice(0)) {
      if (!(await isWhole(bytes, crcs?.get(name), hashes?.get(name))))
        fault(name, 'It is damaged: it is not as it was when it was packed. It is left out.');
      else if (hashes && !hashes.has(name))
        fault(name, 'It is none of the files that this backup lists as its own.');
      else if (entry.kind === 'integrity') hashes = parseIntegrity(new TextDecoder().decode(bytes));
      else take(entry, bytes, name);
    }
  };
  let first = true;
  try {
    for await (const piece of piecesOf(file)) {
      if (first && !(piece[0] === 0x50 && piece[1] === 0x4b)) {
        return [{ name: 'the file', why: 'This is no backup: it is not a zip file.' }];
      }
      first = false;
      // Small pieces, so that what unpacks enormously is noticed before it has.
      for (let at = 0; at < piece.length && !stop; at += 16_384)
        unzip.push(piece.subarray(at, at + 16_384), false);
      await handOver();
      if (stop) break;
    }
    if (!stop) unzip.push(new Uint8Array(0), true);
  } catch {
    fault('the file', 'It is damaged: what comes after the damage can’t be read.');
  }
  await handOver();
  for (const name of open) if (!stop) fault(name, 'The backup is cut short here.');
  if (first) fault('the file', 'It is empty.');
  else if (names.size === 0 && faults.length === 0) fault('the file', 'It holds no riders and no visits.');
  return faults;
}

async function* piecesOf(file: FileBytes): AsyncGenerator<Uint8Array> {
  const STEP = 4_000_000;
  for (let at = 0; at < file.size; at += STEP)
    yield new Uint8Array(await file.slice(at, Math.min(at + STEP, file.size)).arrayBuffer());
}

export interface Inspection {
  riders: Rider[];
  bikes: Bike[];
  studio: Studio | null;
  parts: PartsBin | null;
  protocols: ProtocolShelf | null;
  sessions: FitSession[];
  tracks: Map<string, Tracks>;
  faults: DamagedEntry[];
}

/** The records and tracks of a backup, each checked; film is left packed. Visits without their rider are listed and left out. */
export async function inspectBundle(file: FileBytes): Promise<Inspection> {
  const riders: Rider[] = [];
  const bikes: { record: Bike; name: string }[] = [];
  const sessions: { record: FitSession; name: string }[] = [];
  let studio: Studio | null = null;
  let parts: PartsBin | null = null;
  let protocols: ProtocolShelf | null = null;
  const tracks = new Map<string, Tracks>();
  const found: DamagedEntry[] = [];
  let films = 0;
  const faults = await unpack(
    file,
    (e) => {
      if (e.kind === 'clip') films += 1;
      return e.kind !== 'clip' && e.kind !== 'about';
    },
    (e, bytes, name) => {
      if (e.kind === 'about' || e.kind === 'clip' || e.kind === 'integrity') return;
      let text: string;
      try {
        text = new TextDecoder('utf-8', { fatal: true }).decode(bytes);
      } catch {
        found.push({ name, why: 'It is not text in UTF-8.' });
        return;
      }
      if (e.kind === 'tracks') {
        const parsed = parseTracksCsv(text);
        if (parsed.ok) tracks.set(e.id, parsed.tracks);
        else found.push({ name, why: parsed.message });
        return;
      }
      let record: unknown;
      try {
        record = JSON.parse(text, (key, value: unknown) => {
          if (key === '__proto__') throw new SyntaxError('a prototype');
          return value;
        });
      } catch {
        found.push({ name, why: 'It is not JSON as records have it.' });
        return;
      }
      const checked = checkRecord(e.kind, record);
      if (!checked.ok) found.push({ name, why: checked.message });
      else if (e.kind === 'studio') studio = checked.value as Studio;
      else if (e.kind === 'parts') parts = checked.value as PartsBin;
      else if (e.kind === 'protocols') protocols = checked.value as ProtocolShelf;
      else if ('id' in e && (checked.value as Rider).id !== e.id)
        found.push({ name, why: 'Its name and the id inside differ.' });
      else if (e.kind === 'rider') riders.push(checked.value as Rider);
      else if (e.kind === 'bike') bikes.push({ record: checked.value as Bike, name });
      else sessions.push({ record: checked.value as FitSession, name });
    },
  );
  const known = new Set(riders.map((r) => r.id));
  const good = <T extends { riderId: string }>(list: { record: T; name: string }[]): T[] =>
    list.flatMap(({ record, name }) => {
      if (known.has(record.riderId)) return [record];
      found.push({ name, why: 'Its rider is not in the backup.' });
      return [];
    });
  const nothing = riders.length + sessions.length === 0 && !studio && !parts && !protocols;
  if (nothing && films > 0)
    found.push({
      name: 'the file',
      why: `It holds ${films} ${films === 1 ? 'film' : 'films'} and no rider or visit that ${films === 1 ? 'it belongs' : 'they belong'} to: nothing of it can be brought back.`,
    });
  const records = { riders, bikes: good(bikes), sessions: good(sessions), studio, parts, protocols, tracks };
  return { ...records, faults: [...faults, ...found] };
}

/** The films of some takes out of a backup, one after another. @returns those that are damaged, and why */
export async function clipsOfBundle(
  file: FileBytes,
  takeIds: ReadonlySet<string>,
  keep: (takeId: string, bytes: Uint8Array) => void,
): Promise<DamagedEntry[]> {
  return unpack(
    file,
    (e) => e.kind === 'clip' && takeIds.has(e.id),
    (e, bytes) => {
      if (e.kind === 'clip') keep(e.id, bytes);
    },
  );
}

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
