import { Unzip, UnzipInflate, type UnzipFile } from 'fflate';
import { joined } from './bytes.ts';
import { INTEGRITY_NAME, isWhole, parseIntegrity } from './integrity.ts';
import { crcsOf, type FileBytes } from './zipDirectory.ts';

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

/** What stands of a backup that is being unpacked. */
interface Unpacking {
  wanted: (e: EntryName) => boolean;
  faults: DamagedEntry[];
  /** Unpacked, and not handed over yet. */
  whole: { entry: EntryName; bytes: Uint8Array; name: string }[];
  /** Entries that were seen, and those of them that have not come to their end. */
  names: Set<string>;
  open: Set<string>;
  entries: number;
  /** Bytes unpacked so far, and how many an honest backup of this size can have. */
  unpacked: number;
  most: number;
  /** The file was given up. */
  stop: boolean;
}

function fault({ faults }: Unpacking, name: string, why: string): void {
  // What is stated about the file as a whole is never left out.
  if (faults.length < MOST_FAULTS || name === 'the file') faults.push({ name: name.slice(0, 200), why });
}

/** What an entry is, where it is to be unpacked; null for one that is passed over. */
function entryToUnpack(u: Unpacking, name: string): EntryName | null {
  if (u.stop) return null;
  u.entries += 1;
  if (u.entries > MOST_ENTRIES) {
    fault(u, 'the file', `It holds more than ${MOST_ENTRIES} files: the rest is left out.`);
    u.stop = true;
    return null;
  }
  if (name.endsWith('/')) return null;
  const entry = entryOf(name);
  if (!entry) {
    fault(u, name, 'This is no part of a backup.');
    return null;
  }
  if (u.names.has(name)) {
    fault(u, name, 'It is in the backup twice; the first is taken.');
    return null;
  }
  u.names.add(name);
  return u.wanted(entry) || entry.kind === 'integrity' ? entry : null;
}

/** Collects an entry's bytes, and gives it up where it can't be unpacked or grows beyond all measure. */
function collect(u: Unpacking, file: UnzipFile, entry: EntryName): void {
  const parts: Uint8Array[] = [];
  let size = 0;
  u.open.add(file.name);
  file.ondata = (error, part, final) => {
    if (!u.open.has(file.name)) return;
    size += part?.length ?? 0;
    u.unpacked += part?.length ?? 0;
    if (u.unpacked > u.most && !u.stop) {
      fault(u, 'the file', 'It unpacks to far more than any backup does: the rest is left out.');
      u.stop = true;
    }
    if (error || u.stop || size > MOST[entry.kind]) {
      u.open.delete(file.name);
      parts.length = 0;
      fault(
        u,
        file.name,
        u.stop
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
    u.open.delete(file.name);
    u.whole.push({ entry, bytes: joined(parts), name: file.name });
  };
  try {
    file.start();
  } catch {
    u.open.delete(file.name);
    fault(u, file.name, 'It is packed in a way that is not known here.');
  }
}

/**
 * Reads a backup piece by piece, entry by entry. Nothing is trusted: names, sizes and contents are checked, and what does not fit
 * is listed and left out, never the rest with it.
 * @param wanted kinds to unpack; the others are only listed
 * @param take gets every good entry, whole: as it was when it was packed
 */
export async function unpackBundle(
  file: FileBytes,
  wanted: (e: EntryName) => boolean,
  take: (e: EntryName, bytes: Uint8Array, name: string) => void,
): Promise<DamagedEntry[]> {
  const crcs = await crcsOf(file);
  let hashes: ReadonlyMap<string, string> | null = null;
  const u: Unpacking = {
    wanted,
    faults: [],
    whole: [],
    names: new Set(),
    open: new Set(),
    entries: 0,
    unpacked: 0,
    most: MOST_UNPACKED.bytes + MOST_UNPACKED.times * file.size,
    stop: false,
  };
  const unzip = new Unzip((inside) => {
    const entry = entryToUnpack(u, inside.name);
    if (entry) collect(u, inside, entry);
  });
  unzip.register(UnzipInflate);
  /** Hands over what has been unpacked since, but for what is not as it was packed. */
  const handOver = async (): Promise<void> => {
    for (const { entry, bytes, name } of u.whole.splice(0)) {
      if (!(await isWhole(bytes, crcs?.get(name), hashes?.get(name))))
        fault(u, name, 'It is damaged: it is not as it was when it was packed. It is left out.');
      else if (hashes && !hashes.has(name))
        fault(u, name, 'It is none of the files that this backup lists as its own.');
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
      for (let at = 0; at < piece.length && !u.stop; at += 16_384)
        unzip.push(piece.subarray(at, at + 16_384), false);
      await handOver();
      if (u.stop) break;
    }
    if (!u.stop) unzip.push(new Uint8Array(0), true);
  } catch {
    fault(u, 'the file', 'It is damaged: what comes after the damage can’t be read.');
  }
  await handOver();
  for (const name of u.open) if (!u.stop) fault(u, name, 'The backup is cut short here.');
  if (first) fault(u, 'the file', 'It is empty.');
  else if (u.names.size === 0 && u.faults.length === 0)
    fault(u, 'the file', 'It holds no riders and no visits.');
  return u.faults;
}

async function* piecesOf(file: FileBytes): AsyncGenerator<Uint8Array> {
  const STEP = 4_000_000;
  for (let at = 0; at < file.size; at += STEP)
    yield new Uint8Array(await file.slice(at, Math.min(at + STEP, file.size)).arrayBuffer());
}
