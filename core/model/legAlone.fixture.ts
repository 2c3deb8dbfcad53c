import { RAD_PER_DEG } from '../math/angles.ts';
import { evaluateCurve, type HarmonicCurve } from '../math/harmonics.ts';
import { distance, type PlanePoint } from '../math/vec.ts';
import { kneeCurve, legPose, type LegModel, type LegResult } from './legModel.ts';

/** The leg by itself on a changed bike, for tests: another way to what `predict` does with the whole body. */

/** A change of the bike, all zero for none. Each moves what the handbook's leg model says it moves. */
export interface BikeChange {
  /** Along the seat tube. */
  saddleUpMm?: number;
  saddleBackMm?: number;
  cleatBackMm?: number;
  /** Thicker sole, pedal or shim: acts like a lower saddle. */
  stackMm?: number;
  crankLongerMm?: number;
}

const constant = (mean: number): HarmonicCurve => ({ mean, cos: [], sin: [] });

/** A model with a hip that stands still and a foot pitch of one harmonic: mean + amplitude·sin(θ + phase). */
export function simpleLeg(m: {
  crankMm: number;
  thighMm: number;
  shankMm: number;
  ankleBehindMm: number;
  ankleAboveMm: number;
  seatTubeDeg: number;
  pitchMeanDeg: number;
  pitchAmplitudeDeg: number;
  pitchPhaseDeg: number;
  hipMm: PlanePoint;
}): LegModel {
  const phase = m.pitchPhaseDeg * RAD_PER_DEG;
  return {
    crankMm: m.crankMm,
    thighMm: m.thighMm,
    shankMm: m.shankMm,
    ankleBehindMm: m.ankleBehindMm,
    ankleAboveMm: m.ankleAboveMm,
    seatTubeDeg: m.seatTubeDeg,
    footPitchDeg: {
      mean: m.pitchMeanDeg,
      cos: [m.pitchAmplitudeDeg * Math.sin(phase)],
      sin: [m.pitchAmplitudeDeg * Math.cos(phase)],
    },
    hipXMm: constant(m.hipMm.x),
    hipYMm: constant(m.hipMm.y),
  };
}

const hipAt = (m: LegModel, thetaDeg: number): PlanePoint => ({
  x: evaluateCurve(m.hipXMm, thetaDeg),
  y: evaluateCurve(m.hipYMm, thetaDeg),
});

/** The leg at a crank angle of its own stroke. */
export const legAt = (m: LegModel, thetaDeg: number): LegResult =>
  legPose(m, thetaDeg, evaluateCurve(m.footPitchDeg, thetaDeg), hipAt(m, thetaDeg));

/** How far the ankle is from the hip at a crank angle, mm: what the leg has to span, whether or not it reaches. */
export function legSpanMm(m: LegModel, thetaDeg: number): number {
  const long = legAt({ ...m, thighMm: 1e4, shankMm: 1e4 }, thetaDeg);
  if (!long.ok) throw new Error('a leg of twenty metres reaches');
  return distance(long.ankle, long.hip);
}

const moved = (c: HarmonicCurve, by: number): HarmonicCurve => ({ ...c, mean: c.mean + by });

/** The model after a change of the bike, the rider's foot pitch left as it was (κ = 0). */
export function changeBike(m: LegModel, change: BikeChange): LegModel {
  const up = change.saddleUpMm ?? 0;
  const g = m.seatTubeDeg * RAD_PER_DEG;
  return {
    ...m,
    crankMm: m.crankMm + (change.crankLongerMm ?? 0),
    ankleBehindMm: m.ankleBehindMm - (change.cleatBackMm ?? 0),
    ankleAboveMm: m.ankleAboveMm + (change.stackMm ?? 0),
    hipXMm: moved(m.hipXMm, -up * Math.cos(g) - (change.saddleBackMm ?? 0)),
    hipYMm: moved(m.hipYMm, up * Math.sin(g)),
  };
}

/** Where in the turn each model's leg is longest: asked again for every change of the same leg. */
const longest = new WeakMap<LegModel, number>();

function longestAtDeg(m: LegModel): number {
  let at = longest.get(m);
  if (at === undefined) {
    const curve = kneeCurve(m);
    at = curve.ok ? curve.minAtThetaDeg : 165;
    longest.set(m, at);
  }
  return at;
}

/**
 * The model after a change, with the rider's answer: a share κ of what the leg would have to give at its longest is taken by
 * the foot instead, which pitches by the same angle all round the stroke.
 * @param kappa 0 (the foot stays as it was) … 1 (the knee stays as it was)
 */
export function changeWithAnswer(m: LegModel, change: BikeChange, kappa: number): LegModel {
  const after = changeBike(m, change);
  if (kappa === 0) return after;
  const at = longestAtDeg(m);
  const wanted = legSpanMm(m, at) + (1 - kappa) * (legSpanMm(after, at) - legSpanMm(m, at));
  const withPitch = (d: number): LegModel => ({ ...after, footPitchDeg: moved(after.footPitchDeg, d) });
  // The span falls steadily as the toe goes down, within any pitch a foot can take: halve the interval.
  let low = -25;
  let high = 25;
  for (let i = 0; i < 40; i += 1) {
    const mid = (low + high) / 2;
    if (legSpanMm(withPitch(mid), at) > wanted) low = mid;
    else high = mid;
  }
  return withPitch((low + high) / 2);
}
