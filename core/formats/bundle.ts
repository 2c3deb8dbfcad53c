import { zip, type AsyncZippable } from 'fflate';
import { jsonSchemaOf } from '../records/schemas.ts';
import type { Bike, FitSession, PartsBin, ProtocolShelf, Rider, Studio } from '../records/types.ts';
import type { Tracks } from '../tracking/tracks.ts';
import { integrityOf, INTEGRITY_NAME } from './integrity.ts';
import { writePartsCsv } from './partsCsv.ts';
import { writeTracksCsv } from './tracksCsv.ts';

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
