import { median } from '../math/statistics.ts';

/** Why a turn is not counted. */
export type StrokeFault = 'gap' | 'backward' | 'cadence';

/** One full turn, top dead centre to top dead centre where the film has such a one. */
export interface Stroke {
  startS: number;
  endS: number;
  /** Unwrapped crank angle at its start, a multiple of 360 unless the film is too short for a turn from the top. */
  startDeg: number;
  cadenceRpm: number;
  fault: StrokeFault | null;
}

/** Turns of the crank from one of its angles on to the same again. */
function turnsFrom(cutDeg: number, thetaDeg: ArrayLike<number>, tS: ArrayLike<number>): Stroke[] {
  const strokes: Stroke[] = [];
  const crossings: { tS: number; turn: number; index: number }[] = [];
  let reached = -Infinity;
  for (let i = 1; i < thetaDeg.length; i += 1) {
    const a = thetaDeg[i - 1] - cutDeg;
    const b = thetaDeg[i] - cutDeg;
    if (!Number.isFinite(a) || !Number.isFinite(b) || b <= a) continue;
    const turn = Math.floor(b / 360);
    // Backpedalling may cross the top again: a turn starts where the crank gets there for the last time before going on.
    if (Math.floor(a / 360) < turn && turn >= reached) {
      const tTop = tS[i - 1] + ((turn * 360 - a) / (b - a)) * (tS[i] - tS[i - 1]);
      if (turn === reached) crossings.pop();
      crossings.push({ tS: tTop, turn, index: i });
      reached = turn;
    }
  }
  for (let k = 1; k < crossings.length; k += 1) {
    const from = crossings[k - 1];
    const to = crossings[k];
    let fault: StrokeFault | null = to.turn === from.turn + 1 ? null : 'gap';
    let high = -Infinity;
    for (let i = from.index; i < to.index; i += 1) {
      if (!Number.isFinite(thetaDeg[i])) fault = 'gap';
      else {
        if (thetaDeg[i] < high - 4) fault = fault ?? 'backward';
        high = Math.max(high, thetaDeg[i]);
      }
    }
    strokes.push({
      startS: from.tS,
      endS: to.tS,
      startDeg: from.turn * 360 + cutDeg,
      cadenceRpm: (60 * (to.turn - from.turn)) / (to.tS - from.tS),
      fault,
    });
  }
  const middle = median(strokes.filter((s) => !s.fault).map((s) => s.cadenceRpm));
  for (const s of strokes)
    if (!s.fault && Math.abs(s.cadenceRpm - middle) > 0.15 * middle) s.fault = 'cadence';
  return strokes;
}

/** Where a turn may begin, degrees after the top, if the film has none from the top. */
const OTHER_CUTS_DEG = Array.from({ length: 23 }, (_, k) => 15 * (k + 1));

/**
 * Cuts the film into strokes, from the top dead centre; a film that is too short for one whole turn from there is cut where it has most
 * of them. A turn with a gap in the crank angle, backward motion or a cadence off the middle one by more than 15 % is kept with its fault
 * and left out of every figure.
 * @param thetaDeg unwrapped crank angle, NaN where unknown (short gaps bridged beforehand)  @param tS times, s
 */
export function cutStrokes(thetaDeg: ArrayLike<number>, tS: ArrayLike<number>): Stroke[] {
  const whole = (strokes: readonly Stroke[]): number => strokes.filter((s) => !s.fault).length;
  let best = turnsFrom(0, thetaDeg, tS);
  if (whole(best) > 0) return best;
  for (const cutDeg of OTHER_CUTS_DEG) {
    const strokes = turnsFrom(cutDeg, thetaDeg, tS);
    if (whole(strokes) > whole(best)) best = strokes;
  }
  return best;
}

/** With fewer whole strokes than this a reading is provisional, and pieces of strokes count for its curves too. */
export const ENOUGH_STROKES = 5;
/** A piece of a stroke: at least so much of a turn, at a pace off that of the whole strokes by no more than this share. */
const LEAST_PIECE_DEG = 45;
const PIECE_PACE = 0.3;

/**
 * Which stroke every frame belongs to: an index into the whole strokes; where there are few of those, pieces of others follow them, each
 * with a number of its own; −1 where a frame counts for nothing.
 */
export function framesByStroke(
  thetaDeg: ArrayLike<number>,
  tS: ArrayLike<number>,
  used: readonly Stroke[],
): Int32Array {
  const of = Int32Array.from(tS, (t) => used.findIndex((s) => t >= s.startS && t < s.endS));
  if (used.length === 0 || used.length >= ENOUGH_STROKES) return of;
  const degPerS = 6 * median(used.map((s) => s.cadenceRpm));
  const paced = (i: number): boolean =>
    Math.abs((thetaDeg[i] - thetaDeg[i - 1]) / (tS[i] - tS[i - 1]) / degPerS - 1) <= PIECE_PACE;
  let number = used.length;
  for (let from = 0; from < of.length; from += 1) {
    if (of[from] >= 0 || !Number.isFinite(thetaDeg[from])) continue;
    let to = from;
    while (to + 1 < of.length && of[to + 1] < 0 && paced(to + 1)) to += 1;
    if (thetaDeg[to] - thetaDeg[from] >= LEAST_PIECE_DEG) {
      of.fill(number, from, to + 1);
      number += 1;
    }
    from = to;
  }
  return of;
}
