import { crankRangeMm } from '../body/estimates.ts';
import { both, cannot, effectsOf, pick, type ControlKey, type Effects, type Moves } from './controls.ts';
import { Best, CLOSE, judgedSides, misses, PER_TOUCH, PER_UNIT, priceOf } from './losses.ts';
import type { PredictedKey } from '../model/predict.ts';
import type { Settled, SolveCase } from './solveCase.ts';

const LEG_KEYS: readonly PredictedKey[] = [
  'kneeFlexionMinDeg',
  'kneeFlexionMaxDeg',
  'hipAngleMinDeg',
  'footPitch90Deg',
  'footPitch180Deg',
  'ankleRangeDeg',
  'kneeOverSpindleMm',
  'effectiveSeatAngleDeg',
];

const GRID_UP = [-36, -28, -21, -15, -10, -6, -3, 3, 6, 10, 15, 21, 28, 36] as const;
const GRID_BACK = [-24, -16, -10, -5, 5, 10, 16, 24] as const;

/** Trunk and arm left out: the hand goes with the saddle. */
const legsOnly = (fx: Effects): Effects => ({ ...fx, handMm: fx.sitMm });

/**
 * The saddle: height, setback and, where it is in doubt, the crank; after what the feet were given.
 * Each set of things that may be touched is searched on a grid and then by single millimetres (handbook: models, solver).
 */
export function settleSaddle(c: SolveCase, given: Moves): Settled {
  const sides = judgedSides(c, LEG_KEYS);
  const best = new Best();
  const locked = c.locked;
  const free = (key: ControlKey): boolean => locked[key] === undefined;
  const fixed = pick(locked, ['saddleUp', 'saddleBack', 'crank']);
  const lossOf = (moves: Moves): number => {
    const all = both(both(given, fixed), moves);
    const price = priceOf(moves);
    // What costs more than the best so far without mending anything need not be asked of the body.
    if (price > best.least + CLOSE || cannot(c.bike, all)) return Infinity;
    return misses(c, sides, legsOnly(effectsOf(c.bike, all))) + price;
  };
  const look = (moves: Moves): number => {
    const loss = lossOf(moves);
    if (loss < Infinity) best.offer(moves, loss);
    return loss;
  };
  const nothing = look({});
  // Nothing out and nothing pushed out: leave it alone.
  if (nothing < PER_TOUCH) return best.settled();
  const up = free('saddleUp') ? GRID_UP : [0];
  const back = free('saddleBack') ? GRID_BACK : [0];
  for (const crank of free('crank') ? crankOptions(c) : [0]) {
    for (const [heights, setbacks] of [
      [up, [0]],
      [[0], back],
      [up, back],
    ] as const) {
      let at: Moves = {};
      let least = Infinity;
      for (const saddleUp of heights)
        for (const saddleBack of setbacks) {
          if ((heights.length > 1 && saddleUp === 0) || (setbacks.length > 1 && saddleBack === 0)) continue;
          const loss = lossOf({ saddleUp, saddleBack, crank });
          if (loss < least) [least, at] = [loss, { saddleUp, saddleBack, crank }];
        }
      refine(at, [heights.length > 1 && 'saddleUp', setbacks.length > 1 && 'saddleBack'], look);
    }
    if (crank !== 0) look({ crank });
  }
  return best.settled();
}

/** Downhill by ever smaller steps to whole millimetres. */
function refine(from: Moves, keys: readonly (ControlKey | false)[], look: (m: Moves) => number): void {
  let at = from;
  let loss = look(at);
  if (loss === Infinity) return;
  for (const step of [4, 2, 1]) {
    for (let better = true; better;) {
      better = false;
      for (const key of keys) {
        if (!key) continue;
        for (const by of [step, -step]) {
          const next = { ...at, [key]: (at[key] ?? 0) + by };
          if (next[key] === 0) continue;
          const nextLoss = look(next);
          if (nextLoss < loss - 1e-9) [at, loss, better] = [next, nextLoss, true];
        }
      }
    }
  }
}

/** Lengths to think of: as it is, and shorter ones within the inseam's range (or a step under it where the hip closes). */
function crankOptions(c: SolveCase): number[] {
  const now = c.bike.crank.lengthMm;
  if (!c.crankInDoubt || now === null) return [0];
  const least = c.inseamMm === null ? now - 10 : Math.min(crankRangeMm(c.inseamMm)[0], now);
  const shorter = [2.5, 5, 7.5, 10, 12.5, 15].filter((q) => now - q >= least - 2.5);
  return [0, ...shorter.map((q) => -q)];
}

/** What each leg alone would want of the saddle's height, mm; for saying a conflict instead of averaging it. */
export function heightPerLeg(c: SolveCase, given: Moves): { side: 'left' | 'right'; upMm: number }[] {
  return c.sides.map((side) => {
    const alone = settleHeight({ ...c, sides: [side] }, given);
    return { side: side.model.side, upMm: alone };
  });
}

function settleHeight(c: SolveCase, given: Moves): number {
  const sides = judgedSides(c, ['kneeFlexionMinDeg']);
  let [at, least] = [0, Infinity];
  for (let up = -40; up <= 40; up += 1) {
    const loss =
      misses(c, sides, legsOnly(effectsOf(c.bike, both(given, { saddleUp: up })))) + PER_UNIT * Math.abs(up);
    if (loss < least) [at, least] = [up, loss];
  }
  return at;
}
