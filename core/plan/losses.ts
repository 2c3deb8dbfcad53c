import type { Prepared } from '../model/bodyModel.ts';
import { CONTROLS, tidy, type ControlKey, type Effects, type Moves } from './controls.ts';
import { asItIs, farEnds, laidOut } from '../model/foretell.ts';
import { beyondBand } from '../protocol/judge.ts';
import type { MeasureReading } from '../protocol/measures.ts';
import { predict, predictTop, PREDICTED, type PredictedKey } from '../model/predict.ts';
import type { MeasureKey } from '../protocol/protocols.ts';
import type { Settled, SolveCase } from './solveCase.ts';

/** Price of a millimetre or degree moved, and of a thing touched, in squares of a standard deviation (own scale; see decisions). */
export const PER_UNIT = 0.03;
export const PER_TOUCH = 1;
/** How far inside its band a measure that was out is aimed: a quarter of the band's width, or one deviation where it is open. */
const INSET = 0.25;
const INSET_WEIGHT = 0.8;
/** A measure that was in its band is kept there with more than its own weight. */
const KEEP_WEIGHT = 30;
/** How far off its edge it is kept: this share of the measurement's uncertainty. */
const KEEP_INSET = 0.6;
const OFF_EDGE_WEIGHT = 6;
/** Two answers are close when their losses are. */
export const CLOSE = 1.2;

/** How far the ankle goes is a habit: kept in its band, but no bolt is turned to bring it there. */
export const HABITS: readonly MeasureKey[] = ['ankleRangeDeg'];

/** Kept in the band for riders too who answer unlike most. */
const AT_RISK: readonly MeasureKey[] = ['backAngleDeg', 'shoulderAngleDeg', 'elbowFlexionDeg'];

const FOOT: readonly MeasureKey[] = ['footPitch90Deg', 'footPitch180Deg', 'ankleRangeDeg'];

/** Nobody sits closer than this from ride to ride, degrees or mm: a figure that is measured better does not weigh more. */
const RIDE_TO_RIDE = 1;

/** What a measure's own doubt counts as. */
const sdOf = (m: MeasureReading): number => Math.max(RIDE_TO_RIDE, m.uncertainty / 1.96);

/** What one measure costs at a foretold value: Σ of squares in units of its own standard deviation. */
function costOf(m: MeasureReading, value: number): number {
  const { low, high } = m.band;
  const sd = sdOf(m);
  const beyond = (v: number, inset: number): number => beyondBand(v, m.band, inset);
  const was = beyond(m.value, 0);
  const out = beyond(value, 0);
  if (m.verdict === 'low' || m.verdict === 'high') {
    if (HABITS.includes(m.key)) return 0;
    const width = low !== null && high !== null ? high - low : 4 * sd;
    // The inset is aimed at from both edges, or a correction would overshoot.
    return (out / sd) ** 2 + INSET_WEIGHT * (beyond(value, INSET * width) / sd) ** 2;
  }
  // No finding: it need not get better, but must not get worse. What lay inside stays inside.
  // How the foot will be held is foretold least surely: it only counts where the film would call it out.
  if (FOOT.includes(m.key)) return KEEP_WEIGHT * (Math.max(0, out - was - m.uncertainty) / sd) ** 2;
  // Everything else is kept a little off the edge, since the rider's answer is not known.
  const width = low !== null && high !== null ? high - low : Infinity;
  const inset = Math.min(KEEP_INSET * m.uncertainty, 0.15 * width);
  const nearer = Math.max(0, beyond(value, inset) - beyond(m.value, inset));
  return KEEP_WEIGHT * (Math.max(0, out - was) / sd) ** 2 + OFF_EDGE_WEIGHT * (nearer / sd) ** 2;
}

export interface Judged {
  prepared: Prepared;
  base: Record<PredictedKey, number>;
  measures: readonly MeasureReading[];
  /** Of the measures, those kept for riders who answer unlike most. */
  atRisk: readonly MeasureReading[];
}

/** The sides laid out coarsely, with the measures that count. */
export function judgedSides(c: SolveCase, keys: readonly PredictedKey[]): Judged[] {
  return c.sides.flatMap(({ model, measures }) => {
    const prepared = laidOut(model, 36);
    const base = asItIs(prepared);
    if (!base) return [];
    const counted = measures.filter(
      (m) =>
        keys.includes(m.key as PredictedKey) &&
        PREDICTED.includes(m.key as PredictedKey) &&
        !c.reportOnly.includes(m.key),
    );
    return [{ prepared, base: base.values, measures: counted, atRisk: atRisk(counted) }];
  });
}

/** What the bands miss after effects on the body; infinite where leg or arm can't reach. */
export function misses(c: SolveCase, sides: readonly Judged[], fx: Effects): number {
  let sum = 0;
  for (const side of sides) {
    const p = predict(side.prepared, fx, {
      ...c.body,
      kappa: c.habits.kappa.mean,
      rho: c.habits.rho.mean,
    });
    if (!p.ok) return Infinity;
    for (const m of side.measures) {
      const key = m.key as PredictedKey;
      sum += costOf(m, m.value + p.values[key] - side.base[key]);
    }
    if (p.rounds) sum += 4;
  }
  return sum;
}

/** What trunk and arm alone miss: never more than the whole does. */
export function topMisses(c: SolveCase, side: Judged, fx: Effects): number {
  const top = predictTop(side.prepared, fx, {
    ...c.body,
    kappa: c.habits.kappa.mean,
    rho: c.habits.rho.mean,
  });
  if (!top) return Infinity;
  let sum = 0;
  for (const m of side.measures) {
    const v = top[m.key as keyof typeof top];
    if (v !== undefined) sum += costOf(m, m.value + v - side.base[m.key as PredictedKey]);
  }
  return sum;
}

/** Kept in the band for riders who answer unlike most: see `risks`. */
function atRisk(measures: readonly MeasureReading[]): MeasureReading[] {
  const top = measures.filter((m) => AT_RISK.includes(m.key));
  const mending = top.some((m) => m.verdict === 'low' || m.verdict === 'high');
  return top.filter((m) => m.verdict === 'in' && !(mending && m.key === 'elbowFlexionDeg'));
}

/**
 * What it costs that a rider who answers unlike most would be pushed out where trunk, shoulder or elbow lay in the band. The far ends of
 * the back's share (95 %, as `foretell` has them) are kept as far from what the next film would call out as everything else is kept off
 * its edge. The elbow takes what is left and swings widely: it is asked only where trunk and arms need no mending themselves, or many a
 * front that mends them would be refused.
 */
export function risks(c: SolveCase, sides: readonly Judged[], fx: Effects): number {
  let sum = 0;
  for (const side of sides) {
    if (side.atRisk.length === 0) continue;
    const tops = farEnds(c.habits.rho).map((rho) =>
      predictTop(side.prepared, fx, { ...c.body, kappa: c.habits.kappa.mean, rho }),
    );
    for (const m of side.atRisk) {
      const key = m.key as keyof NonNullable<(typeof tops)[number]>;
      const out = tops.map((top) =>
        top ? beyondBand(m.value + top[key] - side.base[key], m.band) - (1 - KEEP_INSET) * m.uncertainty : 0,
      );
      sum += KEEP_WEIGHT * (Math.max(0, ...out) / sdOf(m)) ** 2;
    }
  }
  return sum;
}

/** What moves themselves cost: each thing touched, and how far. A part from the bin costs as the control says; what it is does not. */
export function priceOf(moves: Moves): number {
  return (Object.entries(moves) as [ControlKey, number][]).reduce(
    (s, [key, by]) => (by === 0 ? s : s + PER_TOUCH * CONTROLS[key].price + PER_UNIT * Math.abs(by)),
    0,
  );
}

const keyOf = (moves: Moves): string => Object.keys(tidy(moves)).sort().join();

/** The best of many, and the best of each other set of touched things that comes close. */
export class Best {
  private readonly by = new Map<string, { moves: Moves; loss: number }>();
  least = Infinity;
  offer(moves: Moves, loss: number): void {
    this.least = Math.min(this.least, loss);
    const key = keyOf(moves);
    const kept = this.by.get(key);
    if (loss < (kept?.loss ?? Infinity)) this.by.set(key, { moves: tidy(moves), loss });
  }
  settled(): Settled {
    const all = [...this.by.values()].sort((a, b) => a.loss - b.loss);
    if (all.length === 0) return { moves: {}, loss: Infinity, others: [] };
    const [first, ...rest] = all;
    return { ...first, others: rest.filter((o) => o.loss < first.loss + CLOSE).slice(0, 3) };
  }
}
