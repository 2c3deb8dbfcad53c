import { checkRecord } from '../records/schemas.ts';
import type { Bike, FitSession, PartsBin, ProtocolShelf, Rider, Studio } from '../records/types.ts';
import type { Tracks } from '../tracking/tracks.ts';
import { type FileBytes } from './zipDirectory.ts';
import { parseTracksCsv } from './tracksCsv.ts';

import { unpackBundle, type DamagedEntry } from './unpackBundle.ts';
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

/** Null for what is not text in UTF-8. */
function textOf(bytes: Uint8Array): string | null {
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes);
  } catch {
    return null;
  }
}

/** Undefined for what is no JSON, or tries to be more than data. */
function recordOf(text: string): unknown {
  try {
    return JSON.parse(text, (key, value: unknown) => {
      if (key === '__proto__') throw new SyntaxError('a prototype');
      return value;
    });
  } catch {
    return undefined;
  }
}

/** The records and tracks of a backup, each checked; film is left packed. Visits without their rider are listed and left out. */
// eslint-disable-next-line max-lines-per-function -- what is found of each kind goes into its own list
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
  const faults = await unpackBundle(
    file,
    (e) => {
      if (e.kind === 'clip') films += 1;
      return e.kind !== 'clip' && e.kind !== 'about';
    },
    (e, bytes, name) => {
      if (e.kind === 'about' || e.kind === 'clip' || e.kind === 'integrity') return;
      const text = textOf(bytes);
      if (text === null) {
        found.push({ name, why: 'It is not text in UTF-8.' });
        return;
      }
      if (e.kind === 'tracks') {
        const parsed = parseTracksCsv(text);
        if (parsed.ok) tracks.set(e.id, parsed.tracks);
        else found.push({ name, why: parsed.message });
        return;
      }
      const record = recordOf(text);
      if (record === undefined) {
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
      why: `It holds ${films} ${films === 1 ? 'film' : 'films'} and no rider or visit that ${films === 1 ? 'it belongs' : 'they belong'} to: nothing of it can be restored.`,
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
  return unpackBundle(
    file,
    (e) => e.kind === 'clip' && takeIds.has(e.id),
    (e, bytes) => {
      if (e.kind === 'clip') keep(e.id, bytes);
    },
  );
}
