import { readFileSync } from 'node:fs';
import { dirname, resolve } from 'node:path';
import { fromToWords } from '../app/ui/words/moveText.ts';
import { parseTracksCsv } from '../core/formats/tracksCsv.ts';
import { readFrontal } from '../core/kinematics/readFrontal.ts';
import { parseCase, planReport, type CaseFilm, type CaseReadings } from '../core/formats/planCase.ts';
import { readTracks } from '../core/kinematics/read.ts';
import type { Tracks } from '../core/tracking/tracks.ts';
import { refuse } from './refusal.ts';

function textOf(path: string, what: string): string {
  try {
    return readFileSync(path, 'utf8');
  } catch {
    return refuse(`${what}: ${path} can’t be read.`);
  }
}

function jsonOf(file: string): unknown {
  const text = textOf(file, 'Case');
  try {
    return JSON.parse(text);
  } catch (e) {
    return refuse(`${file}: not JSON (${e instanceof Error ? e.message : 'unreadable'}).`);
  }
}

function tracksOf(film: CaseFilm, file: string): Tracks {
  const table = parseTracksCsv(textOf(resolve(dirname(file), film.tracks), 'Tracks'));
  return table.ok ? table.tracks : refuse(`${film.tracks}: ${table.message}`);
}

/** The middle of everything seen stands for the middle of the picture, where nothing tells it. */
function middleOf(tracks: Tracks): { x: number; y: number } {
  const all = Object.values(tracks.landmarks);
  const mean = (list: number[]): number => {
    const seen = list.filter(Number.isFinite);
    return seen.reduce((s, v) => s + v, 0) / Math.max(1, seen.length);
  };
  return { x: mean(all.flatMap((t) => [...t.xPx])), y: mean(all.flatMap((t) => [...t.yPx])) };
}

/**
 * The plan of a case in a file, as JSON (docs/schema/plan.schema.json).
 * @throws Refusal where the file, or tracks that it names, can’t be read as what they are
 */
export function planOfCase(file: string | undefined): string {
  if (!file) refuse('Which case? npm run --silent plan -- CASE.json');
  const parsed = parseCase(jsonOf(file));
  if (!parsed.ok) refuse(parsed.message);
  const { visit, films } = parsed.value;
  const crankMm = visit.asFound.crank.lengthMm ?? undefined;
  const readings: CaseReadings = { right: [], left: [], frontal: null };
  for (const film of films) {
    const tracks = tracksOf(film, file);
    if (film.view === 'front' || film.view === 'rear') {
      const r = readFrontal(tracks, {
        view: film.view,
        centrePx: middleOf(tracks),
        ...(crankMm ? { crankMm } : { width: { mmPerPx: film.mmPerPx, tiltDeg: 0, aheadMm: 0 } }),
      });
      if (!r.ok) refuse(`${film.tracks}: ${r.detail}`);
      readings.frontal ??= r;
    } else {
      const r = readTracks(tracks, {
        mmPerPx: film.mmPerPx,
        ...(film.levelDeg !== undefined && { levelDeg: film.levelDeg }),
        ...(crankMm && { crankMm }),
      });
      if (!r.ok) refuse(`${film.tracks}: ${r.detail}`);
      readings[film.view].push(r);
    }
  }
  return JSON.stringify(planReport(parsed.value, readings, fromToWords), null, 2);
}
