import type { Band, Verdict } from './judge.ts';
import { judge } from './judge.ts';
import { changeWithAnswer, kneeCurve, type KneeCurve, type LegModel } from './legModel.ts';

/** Share of a leg-length change that the foot takes: prior until a re-film tells the rider's own (handbook: models). */
export const KAPPA_PRIOR = { mean: 0.35, sd: 0.2 } as const;
/** Steps and limits (handbook: targets). */
export const SADDLE_STEP_MM = 3;
export const SADDLE_VISIT_LIMIT_MM = 10;

export interface Kappa {
  mean: number;
  sd: number;
}

export interface PredictedKnee {
  changeMm: number;
  /** For the mean κ; not ok where the leg would not reach. */
  curve: KneeCurve;
  /** Lowest flexion with its 95 % interval from κ. */
  minDeg: number;
  minLowDeg: number;
  minHighDeg: number;
}

const kappaBounds = (k: Kappa): [number, number] => [
  Math.max(0, k.mean - 1.96 * k.sd),
  Math.min(0.95, k.mean + 1.96 * k.sd),
];

/** The knee's curve after a saddle-height change. NaN figures where the leg would not reach: `curve` says by how much. */
export function predictKnee(model: LegModel, changeMm: number, kappa: Kappa = KAPPA_PRIOR): PredictedKnee {
  const at = (k: number): KneeCurve => kneeCurve(changeWithAnswer(model, { saddleUpMm: changeMm }, k));
  const curve = at(kappa.mean);
  const ends = kappaBounds(kappa).map(at);
  const mins = ends.map((e) => (e.ok ? e.min : NaN));
  return {
    changeMm,
    curve,
    minDeg: curve.ok ? curve.min : NaN,
    minLowDeg: Math.min(...mins),
    minHighDeg: Math.max(...mins),
  };
}

export type SaddleAdvice =
  | { kind: 'leave'; verdict: Verdict }
  | {
      kind: 'move';
      verdict: 'low' | 'high';
      /** Aimed at a quarter of the band's width inside the nearer edge; whole mm, + up. */
      changeMm: number;
      /** 95 %, from κ and the measurement; whole mm, growing, on the advised side of nothing. */
      intervalMm: [number, number];
      /** The least change that reaches the band. */
      toEdgeMm: number;
      targetDeg: number;
      /** What to do before filming again: the visit's limit. */
      todayMm: number;
    }
  | { kind: 'impossible'; verdict: 'low' | 'high'; reason: string };

/** The change that brings the rebuilt knee's minimum to a target, by halving; null where ±80 mm do not. */
function changeFor(model: LegModel, targetDeg: number, kappa: number): number | null {
  const minAt = (mm: number): number => {
    const c = kneeCurve(changeWithAnswer(model, { saddleUpMm: mm }, kappa));
    // Past the leg's reach the knee would be straighter than straight.
    return c.ok ? c.min : -1;
  };
  let low = -80;
  let high = 80;
  if (minAt(low) < targetDeg || minAt(high) > targetDeg) return null;
  for (let i = 0; i < 40; i += 1) {
    const mid = (low + high) / 2;
    if (minAt(mid) > targetDeg) low = mid;
    else high = mid;
  }
  return (low + high) / 2;
}

/**
 * Saddle height from the knee's least flexion: leave it where the band holds it or misses it by less than the measurement's
 * uncertainty; else the change along the seat tube that brings it a quarter of the band inside.
 * @param measured the knee's minimum flexion and its 95 % absolute uncertainty, degrees
 * @param halfSteps half as far in one visit: for the new, the returning and riders over 60
 */
export function adviseSaddleHeight(
  model: LegModel,
  measured: { minDeg: number; uncertaintyDeg: number },
  band: Band,
  kappa: Kappa = KAPPA_PRIOR,
  halfSteps = false,
): SaddleAdvice {
  const verdict = judge(measured.minDeg, measured.uncertaintyDeg, band);
  if (verdict !== 'low' && verdict !== 'high') return { kind: 'leave', verdict };
  const edge = (verdict === 'high' ? band.high : band.low)!;
  const far = (verdict === 'high' ? band.low : band.high) ?? edge;
  const targetDeg = edge + 0.25 * (far - edge);
  // The rebuilt knee misses the measured one a little; the change is judged on the model's own start.
  const start = kneeCurve(model);
  const offset = start.ok ? start.min - measured.minDeg : 0;
  const solve = (deg: number, k: number): number | null => changeFor(model, deg + offset, k);
  const aim = solve(targetDeg, kappa.mean);
  const least = solve(edge, kappa.mean);
  const [k0, k1] = kappaBounds(kappa);
  const ends = [solve(targetDeg, k0), solve(targetDeg, k1)];
  const shifted = solve(targetDeg + measured.uncertaintyDeg, kappa.mean);
  if (aim === null || least === null) {
    return {
      kind: 'impossible',
      verdict,
      reason:
        'No saddle height within 80 mm brings this knee into its band: look at the marks and the scale.',
    };
  }
  const byMeasure = shifted === null ? 0 : Math.abs(shifted - aim);
  const sign = Math.sign(aim);
  // The side of each κ bound that is missing is at the search's end.
  const reach = ends.map((e) => Math.abs((e ?? sign * 80) - aim));
  const nearer = Math.hypot(Math.min(...reach), byMeasure);
  const further = Math.hypot(Math.max(...reach), byMeasure);
  const inner = sign * Math.max(1, Math.abs(aim) - nearer);
  const outer = sign * Math.min(80, Math.abs(aim) + further);
  const changeMm = Math.round(aim);
  return {
    kind: 'move',
    verdict,
    changeMm,
    intervalMm: [Math.round(Math.min(inner, outer)), Math.round(Math.max(inner, outer))],
    toEdgeMm: sign * Math.ceil(Math.abs(least)),
    targetDeg,
    todayMm: sign * Math.min(Math.abs(changeMm), SADDLE_VISIT_LIMIT_MM / (halfSteps ? 2 : 1)),
  };
}
