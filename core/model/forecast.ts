import { prepare, type BodyModel, type Habits, type Prepared, type Share } from './bodyModel.ts';
import { NO_EFFECTS, type Effects } from './effects.ts';
import { judge, type Verdict } from '../protocol/judge.ts';
import type { MeasureReading } from '../protocol/measures.ts';
import { predict, PREDICTED, type Answer, type PredictedKey, type Prediction, type Turn } from './predict.ts';

/** A measure after a change, with the interval that holds it in 95 of 100. */
export interface PredictedMeasure {
  key: PredictedKey;
  before: number;
  after: number;
  low: number;
  high: number;
  /** Judged by what the interval is made of beside the measurement: its half width. */
  verdict: Verdict;
  verdictBefore: Verdict;
}

export type Forecast =
  | { ok: true; measures: PredictedMeasure[]; rounds: boolean; turn: Turn | null }
  | Extract<Prediction, { ok: false }>;

export type Body = Omit<Answer, 'kappa' | 'rho' | 'withTurn'>;

/** A rider's shares stay between none and nearly all. */
const share = (v: number): number => Math.min(0.95, Math.max(0, v));

/** Both ends of a share's 95 %. */
const farEnds = ({ mean, sd }: Share): [least: number, most: number] => [
  share(mean - 1.96 * sd),
  share(mean + 1.96 * sd),
];

const start = new WeakMap<Prepared, Extract<Prediction, { ok: true }>>();

/** The model without any change; once for each. */
export function asItIs(p: Prepared): Extract<Prediction, { ok: true }> | null {
  let kept = start.get(p);
  if (!kept) {
    const first = predict(p, NO_EFFECTS, { kappa: 0, rho: 0, withTurn: true });
    if (!first.ok) return null;
    kept = first;
    start.set(p, kept);
  }
  return kept;
}

/**
 * Every measure after moves. The model's difference is added to what was measured; the interval holds the measurement's own
 * uncertainty and the spread of the rider's two shares, taken as independent (quadrature, each share's effect by its ends).
 * @returns why it is impossible, where leg or arm can't reach
 */
export function forecastOf(
  p: Prepared,
  {
    measured,
    fx,
    habits,
    body = {},
    withTurn = false,
  }: { measured: readonly MeasureReading[]; fx: Effects; habits: Habits; body?: Body; withTurn?: boolean },
): Forecast {
  const before = asItIs(p);
  const { kappa, rho } = habits;
  const at = (k: number, r: number, turn = false): Prediction =>
    predict(p, fx, { ...body, kappa: share(k), rho: share(r), withTurn: turn });
  const mid = at(kappa.mean, rho.mean, withTurn);
  if (!before) return { ok: false, what: 'leg', missMm: 0, thetaDeg: null };
  if (!mid.ok) return mid;
  const ends = {
    k: farEnds(kappa).map((k) => at(k, rho.mean)),
    r: farEnds(rho).map((r) => at(kappa.mean, r)),
  };
  const measures = measured.flatMap((m): PredictedMeasure[] => {
    const key = m.key as PredictedKey;
    if (!PREDICTED.includes(key)) return [];
    const centre = mid.values[key];
    const after = m.value + centre - before.values[key];
    if (!Number.isFinite(after)) return [];
    // The mean of the shares is not the middle of their effects: each side has its own width.
    const side = (way: 1 | -1): number => {
      const reach = (list: Prediction[]): number =>
        Math.max(0, ...list.map((e) => (e.ok ? way * (e.values[key] - centre) : 0)));
      return Math.hypot(reach(ends.k), reach(ends.r), m.uncertainty);
    };
    const [low, high] = [after - side(-1), after + side(1)];
    return [
      {
        key,
        before: m.value,
        after,
        low,
        high,
        verdict: judge(after, m.uncertainty, m.band),
        verdictBefore: m.verdict,
      },
    ];
  });
  return { ok: true, measures, rounds: mid.rounds, turn: mid.turn };
}

const prepared = new WeakMap<BodyModel, Map<number, Prepared>>();

/** A model laid out on its grid, once. */
export function preparedOnce(model: BodyModel, points = 144): Prepared {
  const kept = prepared.get(model) ?? new Map<number, Prepared>();
  prepared.set(model, kept);
  const known = kept.get(points) ?? prepare(model, points);
  kept.set(points, known);
  return known;
}
