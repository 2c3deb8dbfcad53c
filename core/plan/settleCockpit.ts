import {
  both,
  cannot,
  CONTROL_KEYS,
  CONTROLS,
  effectsOf,
  pick,
  type ControlKey,
  type Moves,
} from './controls.ts';
import { fronts, priceOfFront } from './fronts.ts';
import { Best, CLOSE, judgedSides, misses, PER_TOUCH, risks, topMisses } from './losses.ts';
import type { PredictedKey } from '../model/predict.ts';
import type { Settled, SolveCase } from './solveCase.ts';

const TOP_KEYS: readonly PredictedKey[] = [
  'hipAngleMinDeg',
  'backAngleDeg',
  'shoulderAngleDeg',
  'elbowFlexionDeg',
  'shoulderAboveMidBackMm',
  'headAboveBackMm',
];

/** The cockpit, after feet and saddle: the whole bench of fronts is tried, and the cheapest that serves is taken. */
export function settleCockpit(c: SolveCase, given: Moves): Settled {
  const sides = judgedSides(c, TOP_KEYS);
  const best = new Best();
  const fixed = pick(c.locked, COCKPIT_KEYS);
  const locked = Object.entries(fixed) as [ControlKey, number][];
  const fxNow = effectsOf(c.bike, both(given, fixed));
  const base = misses(c, sides, fxNow) + risks(c, sides, fxNow);
  best.offer({}, base);
  if (base < PER_TOUCH || sides.length === 0) return best.settled();
  for (const { moves, extra } of fronts(c)) {
    // What is settled stays as it was settled, the rest goes round it.
    if (locked.some(([key, by]) => (moves[key] ?? 0) !== 0 && moves[key] !== by)) continue;
    const all = both(given, { ...moves, ...fixed });
    const price = priceOfFront(moves) + extra;
    // Where the price alone, or with what trunk and arm cost, is too much, the legs need not be asked.
    const most = Math.min(base, best.least + CLOSE);
    if (price >= most || cannot(c.bike, all)) continue;
    const fx = effectsOf(c.bike, all);
    if (topMisses(c, sides[0], fx) + price >= most) continue;
    const risk = risks(c, sides, fx);
    if (risk + price >= most) continue;
    const loss = misses(c, sides, fx) + risk + price;
    if (loss < Infinity) best.offer(without(moves, fixed), loss);
  }
  return best.settled();
}

const without = (moves: Moves, these: Moves): Moves =>
  Object.fromEntries(Object.entries(moves).filter(([key]) => !(key in these)));

const COCKPIT_KEYS = CONTROL_KEYS.filter((k) => CONTROLS[k].stage === 'cockpit');
