import { tracksOfMarkers } from '../../core/formats/trackMarkers.ts';
import type { ParsedTracks } from '../../core/formats/tracksCsv.ts';
import type { FitSession, Take } from '../../core/records/types.ts';
import { isFrontal, needed } from '../../core/landmarks/landmarks.ts';
import { enoughFor, MAY_BE_MISSING } from '../../core/kinematics/standIns.ts';
import type { Reading } from '../../core/kinematics/read.ts';
import type { Tracks } from '../../core/tracking/tracks.ts';
import { readFile } from './files';
import { readGiven } from './readings';
import { saving } from '../storage/saveState';
import { saveTracks } from '../storage/stores';
import { useEdit } from '../session/useEdit';

/** What a film from the side was read as: millimetres become its pixels by that. */
interface FromSide {
  reading: Reading;
  tracks: Tracks;
}

/** A film's tracks as a file has them: our own table, or markers in millimetres by the film's reading. */
async function tracksIn(file: File, take: Take, read: FromSide | null): Promise<ParsedTracks> {
  if (/\.c3d$/i.test(file.name)) {
    if (!read) return { ok: false, message: 'markers in millimetres are of films from the side.' };
    const { reading, tracks } = read;
    const got = await readFile('markers', file);
    return got.ok ? tracksOfMarkers(got.markers, reading, tracks.tS) : got;
  }
  const parsed = await readFile('tracks', file);
  const rows = parsed.ok ? parsed.tracks.tS.length : 0;
  return parsed.ok && rows !== take.video.frames
    ? {
        ok: false,
        message: `The table has ${rows} rows, but the film has ${take.video.frames} frames: they don’t belong together.`,
      }
    : parsed;
}

/** Reads a take's tracks from a CSV table or C3D file, in place of those there are; answers with what came of it. */
export function useTracksIn(
  session: FitSession,
): (file: File, take: Take, read: FromSide | null) => Promise<{ ok: boolean; text: string }> {
  const { edit } = useEdit();
  return async (file, take, read) => {
    const got = await tracksIn(file, take, read);
    if (!got.ok) return { ok: false, text: `${file.name}: ${got.message}` };
    const missing = needed(take.view).filter((key) => !got.tracks.landmarks[key]);
    if (!enoughFor(take.view, (key) => Boolean(got.tracks.landmarks[key])))
      return {
        ok: false,
        text: `${file.name}: “${missing.join('”, “')}” ${missing.length > 1 ? 'are' : 'is'} not in it: a column pair of the table, or a marker, each.${isFrontal(take.view) ? '' : ` ${MAY_BE_MISSING}`}`,
      };
    // Read before they take the place of those there are: what gives no stroke replaces nothing.
    const tried = await readGiven(session, take, got.tracks);
    if (tried.kind !== 'missing' && !tried.result.ok)
      return { ok: false, text: `${file.name}: ${tried.result.detail} The tracks that were here stay.` };
    const revision = Date.now();
    await saving(() => saveTracks(take.id, revision, got.tracks));
    const kept = await edit({
      kind: 'tracking',
      takeId: take.id,
      tracking: { state: 'done', framesDone: got.tracks.tS.length, estimated: false, revision },
    });
    if (!kept.ok) return { ok: false, text: `${file.name}: ${kept.message}` };
    return { ok: true, text: `Tracks imported from ${file.name}.` };
  };
}
