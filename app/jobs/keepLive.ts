import { bisector } from 'd3';
import dayjs from 'dayjs';
import { isSeen } from '../../core/math/vec.ts';
import type { FitSession, Take } from '../../core/records/types.ts';
import { emptyTracks, pointAt, type Tracks } from '../../core/tracking/tracks.ts';
import { mustEdit } from '../session/visits';
import { addFilm } from './films';
import { lastMinute } from './live';
import { keepFollowed, sideOf } from './survey';

/** Stamps in a film are rounded to the millisecond. */
const SAME_S = 0.002;

/** The tracks of those pictures that are in the film, on the film’s own stamps. @param fromS when it began, on the camera’s clock */
export function tracksOnFilm(tracks: Tracks, fromS: number, filmS: ArrayLike<number>): Tracks {
  const out = emptyTracks(filmS, Object.keys(tracks.landmarks));
  const place = bisector((t: number) => t);
  Array.from(filmS).forEach((t, i) => {
    const from = place.center(tracks.tS, fromS + t);
    if (!(Math.abs(tracks.tS[from] - fromS - t) < SAME_S)) return;
    for (const [key, track] of Object.entries(out.landmarks)) {
      const seen = tracks.landmarks[key];
      track.xPx[i] = seen.xPx[from];
      track.yPx[i] = seen.yPx[from];
      track.confidence[i] = seen.confidence[from];
    }
  });
  return out;
}

/** The first picture that shows most of the landmarks. */
function fullest(tracks: Tracks): number {
  const keys = Object.keys(tracks.landmarks);
  const seen = Array.from(tracks.tS, (_, i) => keys.filter((k) => isSeen(pointAt(tracks, k, i))).length);
  return seen.indexOf(Math.max(...seen));
}

/**
 * Makes the camera’s last minute a take of the visit, with its wheels, marks and tracks: it reads at once.
 * @returns the take, or why there is none
 */
export async function keepLastMinute(session: FitSession): Promise<{ take: Take } | { why: string }> {
  const kept = await lastMinute();
  if (!kept)
    return {
      why: 'There is nothing to keep yet: the rider has to be followed, and this browser has to write films.',
    };
  const { film, fromS, tracks: followed, facing, wheels } = kept;
  const name = `live ${dayjs().format('YYYY-MM-DD HH.mm.ss')}.${film.type === 'video/mp4' ? 'mp4' : 'webm'}`;
  const added = await addFilm(session, film, name, { isKnown: true });
  if (!added) return { why: 'The film could not be kept: see Film for the reason.' };
  const { take, tS } = added;
  const step = `keep ${take.id}`;
  await mustEdit(session.id, { kind: 'set', at: `takes.#${take.id}.view`, value: sideOf(facing) }, step);
  const tracks = tracksOnFilm(followed, fromS, tS);
  await keepFollowed(session, take, {
    tracks,
    frame: fullest(tracks),
    framesDone: tS.length,
    estimated: false,
    step,
    wheels,
  });
  return { take };
}
