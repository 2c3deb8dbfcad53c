import { wrap360, DEG_PER_RAD } from '../../math/angles.ts';
import type { ImagePoint } from '../../math/vec.ts';
import type { Tracks } from '../../tracking/tracks.ts';
import type { Reading, ReadOptions, ReadResult } from '../read.ts';
import { turnsOf, type Turn } from './turns.ts';

/** A mean is taken over so many turns. */
const MEAN_TURNS = 10;

/** What a closed turn leaves: the turns that are new since the last one, and the reading of the last ten. */
export interface LiveUpdate {
  turns: Turn[];
  reading: Reading;
}

/** Where the landmarks stand on a frame, image px; NaN where one is not seen. */
export type LivePoints = Readonly<Record<string, ImagePoint & { confidence?: number }>>;

export interface LiveReader {
  /**
   * Takes the next frame.
   * @returns the last ten turns where one was closed, to be read (`readTracks`, with these options) and given back by `take`, here or by
   * somebody else meanwhile; null while none is closed, or one is being read
   */
  see: (tS: number, points: LivePoints) => Tracks | null;
  /** What came of reading the turns. @returns what is new; null where nothing could be read */
  take: (result: ReadResult) => LiveUpdate | null;
  /** Frames as they were seen, the last so many seconds of them. */
  lately: (seconds: number) => Tracks;
}

/** Before anything is known of the crank a reading is tried every so often, from so much of film on. */
const FIRST_TRY_S = 1.6;
const TRY_EVERY_S = 0.5;
/** How far past the top the crank has to be: the filters want some frames on either side of a turn. */
const PAST_TOP_DEG = 75;
/** Frames are kept for so long. */
const KEPT_S = 75;
const LONGEST_TURN_S = 2;

/** A row that grows at its end and is cut at its front. */
export interface Frames {
  tS: number[];
  points: LivePoints[];
}

/** Frames from a time on as tracks. */
export function asTracks({ tS, points }: Frames, fromS: number): Tracks {
  let first = tS.length;
  while (first > 0 && tS[first - 1] >= fromS) first -= 1;
  const times = tS.slice(first);
  const keys = [...new Set(points.slice(first).flatMap((p) => Object.keys(p)))];
  const landmarks: Tracks['landmarks'] = {};
  for (const key of keys) {
    const at = points.slice(first).map((p) => p[key] ?? { x: NaN, y: NaN, confidence: 0 });
    landmarks[key] = {
      xPx: Float64Array.from(at, (p) => p.x),
      yPx: Float64Array.from(at, (p) => p.y),
      confidence: Float32Array.from(at, (p) => (Number.isFinite(p.x) ? (p.confidence ?? 1) : 0)),
    };
  }
  return { tS: Float64Array.from(times), landmarks };
}

/**
 * Reads a rider while the camera runs: each turn of the crank is closed as it ends, and the last ten are read as a film of them would be
 * (`readTracks`: the same figures, the same ±). A turn on which a landmark was lost or the crank stood counts for nothing.
 * @param options as for a film
 */
export function liveReader(options: ReadOptions): LiveReader {
  const frames: Frames = { tS: [], points: [] };
  let centre: ImagePoint | null = null;
  /** Crank angle of the frame before, degrees past the top; NaN where it was not seen. */
  let before = NaN;
  /** The top was passed and the turn that ended there is not read yet. */
  let closing = false;
  let triedS = -Infinity;
  let lastEndS = -Infinity;
  let turnS = 0.7;
  let isDue = false;
  /** The last turns are with whoever reads them. */
  let reading = false;
  const clockwise = (options.facing ?? 'right') === 'right' ? 1 : -1;

  const read = (tS: number): Tracks => {
    triedS = tS;
    [reading, isDue] = [true, false];
    const spanS = Math.min(MEAN_TURNS * LONGEST_TURN_S, (MEAN_TURNS + 1.4) * turnS);
    return asTracks(frames, tS - spanS);
  };

  return {
    see(tS, points) {
      frames.tS.push(tS);
      frames.points.push(points);
      if (frames.tS.length > 2 && tS - frames.tS[0] > KEPT_S + 10) {
        const first = frames.tS.findIndex((t) => tS - t <= KEPT_S);
        frames.tS.splice(0, first);
        frames.points.splice(0, first);
      }
      if (!centre)
        return !reading && tS - frames.tS[0] >= FIRST_TRY_S && tS - triedS >= TRY_EVERY_S ? read(tS) : null;
      const toe = points.spindle ?? points.toe;
      const angle = toe
        ? wrap360(Math.atan2(clockwise * (toe.x - centre.x), centre.y - toe.y) * DEG_PER_RAD)
        : NaN;
      if (before > 270 && angle < 90) closing = true;
      if (Number.isFinite(angle)) before = angle;
      if (closing && angle >= PAST_TOP_DEG && angle < 270) {
        closing = false;
        isDue = true;
      }
      // The crank may have been fitted to a poor beginning, or the camera has been moved.
      if (tS - Math.max(triedS, lastEndS) > 3 * turnS + 1) isDue = true;
      return isDue && !reading ? read(tS) : null;
    },
    take(result) {
      reading = false;
      if (!result.ok) return null;
      centre = result.crank.centrePx;
      turnS = 60 / result.cadenceRpm;
      const turns = turnsOf(result).filter((t) => t.startS > lastEndS - 0.3 * turnS);
      if (turns.length === 0) return null;
      lastEndS = turns[turns.length - 1].endS;
      return { turns, reading: result };
    },
    lately: (seconds) => asTracks(frames, (frames.tS[frames.tS.length - 1] ?? 0) - seconds),
  };
}
