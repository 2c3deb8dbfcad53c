import { mean, studentT95 } from '../../math/statistics.ts';

/**
 * How alike a rider's strokes are: partly anew with each, partly wandering over some seven (handbook: how people pedal).
 * The slow share of the square fades over seven strokes; the quick one over the next stroke alone.
 */
interface Alike {
  slow: number;
  /** Of the quick part, how much a stroke shares with the next. */
  next: number;
}
/** What is read at one place of the turn; and a mean over the turn, from which half of the quick part falls out. */
const AT_A_PLACE: Alike = { slow: 0.28, next: 0.25 };
const OVER_THE_TURN: Alike = { slow: 0.4, next: 0.5 };

const alike = ({ slow, next }: Alike, apart: number): number =>
  (1 - slow) * (apart === 1 ? next : 0) + slow * Math.max(0, 1 - apart / 7);

/** By how much more than that of as many strangers the square of a mean of neighbouring strokes errs. */
function shared(how: Alike, strokes: number): number {
  let sum = 1;
  for (let k = 1; k < strokes; k += 1) sum += 2 * (1 - k / strokes) * alike(how, k);
  return sum;
}

/** 1 + 2 Σ of the squares of how alike strokes are: by so much fewer they are for telling their spread. */
const sharedSpread = (how: Alike): number =>
  1 + 2 * [1, 2, 3, 4, 5, 6].reduce((s, k) => s + alike(how, k) ** 2, 0);

/** With fewer strokes there is no spread to judge by. */
export const LEAST_TURNS = 6;

/** How far the mean of one run of turns is from that of another, with the 95 % of it. */
export interface TurnChange {
  before: number;
  after: number;
  by: number;
  /** 95 % half-width. */
  uncertainty: number;
  /** Beyond it. */
  real: boolean;
}

/** Sum of squares about their own mean, and how many strokes' worth of spread is in it. */
function spreadOf(how: Alike, values: readonly number[]): { square: number; worth: number } {
  const middle = mean(values);
  const square = values.reduce((s, v) => s + (v - middle) ** 2, 0);
  return { square, worth: values.length - shared(how, values.length) };
}

/** A mean over some turns, with its 95 % half-width. */
export interface TurnMean {
  value: number;
  uncertainty: number;
  turns: number;
}

/**
 * The mean of a figure over turns that follow each other, with how far it may stray by the strokes alone: same stickers, same seat.
 * @returns null with too few turns
 */
export function meanOfTurns(values: readonly number[], { isMean }: { isMean: boolean }): TurnMean | null {
  if (values.length < LEAST_TURNS) return null;
  const how = isMean ? OVER_THE_TURN : AT_A_PLACE;
  const { square, worth } = spreadOf(how, values);
  const freedom = Math.max(2, values.length / sharedSpread(how) - 1);
  const strokes = ((square / worth) * shared(how, values.length)) / values.length;
  return {
    value: mean(values),
    uncertainty: studentT95(freedom) * Math.sqrt(strokes),
    turns: values.length,
  };
}

/**
 * What a change did to a figure, from the turns before it and after: same stickers, same camera, and, unless said otherwise, the same seat.
 * Neighbouring strokes are alike, so that a mean of ten tells as much as one of some four strangers; their spread is taken over both runs.
 * @param isMean the figure is a mean over the turn
 * @param rideSd what sitting down anew adds to each side, SD in the figure's own unit; 0 where the rider did not get off
 * @returns null with too few turns on either side
 */
export function changeBetween(
  before: readonly number[],
  after: readonly number[],
  { isMean, rideSd = 0 }: { isMean: boolean; rideSd?: number },
): TurnChange | null {
  if (before.length < LEAST_TURNS || after.length < LEAST_TURNS) return null;
  const how = isMean ? OVER_THE_TURN : AT_A_PLACE;
  const [p, q] = [spreadOf(how, before), spreadOf(how, after)];
  const variance = (p.square + q.square) / (p.worth + q.worth);
  const strokes =
    variance * (shared(how, before.length) / before.length + shared(how, after.length) / after.length);
  const freedom = Math.max(2, (before.length + after.length) / sharedSpread(how) - 2);
  const uncertainty = Math.hypot(studentT95(freedom) * Math.sqrt(strokes), 1.96 * Math.SQRT2 * rideSd);
  const [a, b] = [mean(before), mean(after)];
  return { before: a, after: b, by: b - a, uncertainty, real: Math.abs(b - a) > uncertainty };
}

/** Turns right after a change are the rider finding the new place. */
const FINDING_TURNS = 4;
/** So many turns have to be steady. */
const STEADY_TURNS = 8;

/**
 * From which of the turns after a change on the rider has settled: the last eight turns' halves agree within what strokes stray.
 * @param turns figures of each turn since the change, in one row a figure
 * @returns index of the first settled turn; or how many more turns it takes at the least
 */
export function settledFrom(
  turns: readonly (readonly number[])[],
): { settled: true; from: number } | { settled: false; more: number } {
  const count = Math.min(...turns.map((t) => t.length));
  const least = FINDING_TURNS + STEADY_TURNS;
  if (turns.length === 0 || count < least)
    return { settled: false, more: least - (turns.length ? count : 0) };
  for (let from = FINDING_TURNS; from + STEADY_TURNS <= count; from += 1) {
    const steady = turns.every((values) => {
      const half = STEADY_TURNS / 2;
      const [a, b] = [values.slice(from, from + half), values.slice(from + half, from + 2 * half)];
      const [p, q] = [spreadOf(OVER_THE_TURN, a), spreadOf(OVER_THE_TURN, b)];
      // Four neighbours are so alike that their own spread is small: half of what is between the halves is allowed beside it.
      const sd = Math.sqrt((p.square + q.square) / Math.max(1, p.worth + q.worth));
      return Math.abs(mean(a) - mean(b)) < DRIFT_SDS * sd;
    });
    if (steady) return { settled: true, from };
  }
  return { settled: false, more: 1 };
}

/** Halves further apart than this many SD of a stroke: it still moves. */
const DRIFT_SDS = 2;
