/**
 * A plan from the command line: npm run --silent plan -- CASE.json
 * Prints one JSON object (docs/schema/plan.schema.json). Bad input: one line on stderr, exit 2.
 */
import { readFileSync } from 'node:fs';
import { dirname, resolve } from 'node:path';
import { fromToWords } from '../app/ui/words/moveText.ts';
import { parseTracksCsv } from '../core/formats/tracksCsv.ts';
import { readFrontal } from '../core/kinematics/readFrontal.ts';
import { parseCase, planReport, type CaseFilm, type CaseReadings } from '../core/formats/planCase.ts';
import { readTracks } from '../core/kinematics/read.ts';
import type { Tracks } from '../core/tracking/tracks.ts';

function stop(message: string): never {
  process.stderr.write(`${message.replace(/\s+/g, ' ')}\n`);
  process.exit(2);
}

const file = process.argv[2];
if (!file) stop('Which case? npm run --silent plan -- CASE.json');

function textOf(path: string, what: string): string {
  try {
    return readFileSync(path, 'utf8');
  } catch {
    return stop(`${what}: ${path} can’t be read.`);
  }
}

let raw: unknown;
try {
  raw = JSON.parse(textOf(file, 'Case'));
} catch (e) {
  stop(`${file}: not JSON (${e instanceof Error ? e.message : 'unreadable'}).`);
}
const parsed = parseCase(raw);
if (!parsed.ok) stop(parsed.message);
const { visit, films } = parsed.value;
const crankMm = visit.asFound.crank.lengthMm ?? undefined;

const tracksOf = (film: CaseFilm): Tracks => {
  const table = parseTracksCsv(textOf(resolve(dirname(file), film.tracks), 'Tracks'));
  return table.ok ? table.tracks : stop(`${film.tracks}: ${table.message}`);
};

/** The middle of everything seen stands for the middle of the picture, where nothing tells it. */
function middleOf(tracks: Tracks): { x: number; y: number } {
  const all = Object.values(tracks.landmarks);
  const mean = (list: number[]): number => {
    const seen = list.filter(Number.isFinite);
    return seen.reduce((s, v) => s + v, 0) / Math.max(1, seen.length);
  };
  return { x: mean(all.flatMap((t) => [...t.xPx])), y: mean(all.flatMap((t) => [...t.yPx])) };
}

const readings: CaseReadings = { right: [], left: [], frontal: null };
for (const film of films) {
  const tracks = tracksOf(film);
  if (film.view === 'front' || film.view === 'rear') {
    const r = readFrontal(tracks, {
      view: film.view,
      centrePx: middleOf(tracks),
      ...(crankMm ? { crankMm } : { width: { mmPerPx: film.mmPerPx, tiltDeg: 0, aheadMm: 0 } }),
    });
    if (!r.ok) stop(`${film.tracks}: ${r.detail}`);
    readings.frontal ??= r;
  } else {
    const r = readTracks(tracks, {
      mmPerPx: film.mmPerPx,
      ...(film.levelDeg !== undefined && { levelDeg: film.levelDeg }),
      ...(crankMm && { crankMm }),
    });
    if (!r.ok) stop(`${film.tracks}: ${r.detail}`);
    readings[film.view].push(r);
  }
}

process.stdout.write(`${JSON.stringify(planReport(parsed.value, readings, fromToWords), null, 2)}\n`);
