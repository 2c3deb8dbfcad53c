import { bisector } from 'd3';
import type { Reading } from './read.ts';

/** What ties a film's frames to the crank's turn. */
export type Turning = Pick<Reading, 'frames' | 'thetaDeg' | 'tS' | 'strokes'>;

/** Two films side by side by the crank: what is played, turn by turn. */
export interface PhasePair {
  /** Crank degrees that both films have, counted from the first top of each; starts at 0. */
  lengthDeg: number;
  /** Frame of each film at such an angle. */
  frameAt: (deg: number) => readonly [first: number, second: number];
  /** Degrees a second at which the first film is played at its own pace. */
  degPerS: number;
}

/** The film's longest run of good strokes that follow each other: from its first top to its last. */
function steadyRun({ strokes }: Turning): { fromDeg: number; toDeg: number; degPerS: number } | null {
  let best: { from: number; to: number } | null = null;
  let from = 0;
  strokes.forEach((s, i) => {
    const goesOn = i > 0 && !strokes[i - 1].fault && strokes[i - 1].startDeg + 360 === s.startDeg;
    if (!goesOn) from = i;
    if (!s.fault && (!best || i - from > best.to - best.from)) best = { from, to: i };
  });
  if (!best) return null;
  const { from: a, to: b } = best as { from: number; to: number };
  const turns = b - a + 1;
  return {
    fromDeg: strokes[a].startDeg,
    toDeg: strokes[a].startDeg + 360 * turns,
    degPerS: (360 * turns) / (strokes[b].endS - strokes[a].startS),
  };
}

const atOrAfter = bisector((k: { deg: number }) => k.deg).left;

/** Index of the film's frame nearest to an unwrapped crank angle. Angles grow with time within a steady run. */
function frameNear(t: Turning, run: { fromDeg: number; toDeg: number }): (deg: number) => number {
  const known: { deg: number; frame: number }[] = [];
  t.thetaDeg.forEach((deg, i) => {
    // Half a turn of margin, so that both ends have their neighbours.
    if (!Number.isFinite(deg) || deg < run.fromDeg - 30 || deg > run.toDeg + 30) return;
    if (known.length === 0 || deg > known[known.length - 1].deg) known.push({ deg, frame: t.frames[i] });
  });
  return (deg) => {
    const wanted = run.fromDeg + deg;
    const low = Math.min(atOrAfter(known, wanted), known.length - 1);
    const after = known[low];
    const before = known[Math.max(0, low - 1)];
    return Math.abs(after.deg - wanted) < Math.abs(before.deg - wanted) ? after.frame : before.frame;
  };
}

/**
 * Lays two films side by side in crank phase: at every angle the frames at which both cranks stand alike, whatever their cadences.
 * @returns null where one of them has no good stroke
 */
export function pairByPhase(first: Turning, second: Turning): PhasePair | null {
  const [a, b] = [steadyRun(first), steadyRun(second)];
  if (!a || !b) return null;
  const [frameA, frameB] = [frameNear(first, a), frameNear(second, b)];
  return {
    lengthDeg: Math.min(a.toDeg - a.fromDeg, b.toDeg - b.fromDeg),
    frameAt: (deg) => [frameA(deg), frameB(deg)],
    degPerS: a.degPerS,
  };
}
