import { median } from '../signal/statistics.ts';

/** Why a turn is not counted. */
export type StrokeFault = 'gap' | 'backward' | 'cadence';

/** One full turn, top dead centre to top dead centre. */
export interface Stroke {
  startS: number;
  endS: number;
  /** Unwrapped crank angle at its start, a multiple of 360. */
  startDeg: number;
  cadenceRpm: number;
  fault: StrokeFault | null;
}

/**
 * Cuts the film into strokes. Part turns at the ends are dropped; a turn with a gap in the crank angle, backward motion or a
 * cadence off the middle one by more than 15 % is kept with its fault and left out of every figure.
 * @param thetaDeg unwrapped crank angle, NaN where unknown (short gaps bridged beforehand)  @param tS times, s
 */
export function cutStrokes(thetaDeg: ArrayLike<number>, tS: ArrayLike<number>): Stroke[] {
  const strokes: Stroke[] = [];
  const crossings: { tS: number; turn: number; index: number }[] = [];
  let reached = -Infinity;
  for (let i = 1; i < thetaDeg.length; i += 1) {
    const a = thetaDeg[i - 1];
    const b = thetaDeg[i];
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
      startDeg: from.turn * 360,
      cadenceRpm: (60 * (to.turn - from.turn)) / (to.tS - from.tS),
      fault,
    });
  }
  const middle = median(strokes.filter((s) => !s.fault).map((s) => s.cadenceRpm));
  for (const s of strokes)
    if (!s.fault && Math.abs(s.cadenceRpm - middle) > 0.15 * middle) s.fault = 'cadence';
  return strokes;
}
