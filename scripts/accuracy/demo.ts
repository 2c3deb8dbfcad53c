import { readFileSync } from 'node:fs';
import { parseTracksCsv } from '../../core/formats/tracksCsv.ts';
import type { Tracks } from '../../core/tracking/tracks.ts';
import { CAST, type CastMember } from '../../sim/cast.ts';

/** A rider's shipped tracks, followed on the demo film as it was decoded, with the rider who pedalled it. */
export function demoTracks(id: string): { member: CastMember; tracks: Tracks } {
  const member = CAST.find((m) => m.id === id);
  if (!member) throw new Error(`no rider called ${id}`);
  const file = `public/demo/${id}.tracks.csv`;
  const parsed = parseTracksCsv(readFileSync(new URL(`../../${file}`, import.meta.url), 'utf8'));
  if (!parsed.ok) throw new Error(`${file}: ${parsed.message}`);
  return { member, tracks: parsed.tracks };
}
