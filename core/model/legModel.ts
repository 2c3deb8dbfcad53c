import { RAD_PER_DEG, insideAngleDeg } from '../math/angles.ts';
import { circleMeetLeft } from '../math/circle.ts';
import { distance, type Vec2 } from '../math/vec.ts';
import {
  evaluateCurve,
  harmonicTable,
  HIGHEST_ORDER,
  tableValue,
  type HarmonicCurve,
} from '../math/harmonics.ts';
import { GRID_DEG } from '../kinematics/curves.ts';
import type { Reading } from '../kinematics/read.ts';

/**
 * The rider's leg over crank, foot, shank and thigh, fitted to the rider (handbook: models). Bike plane, mm, BB origin;
 * foot pitch toe-down positive, degrees.
 */
export interface LegModel {
  crankMm: number;
  thighMm: number;
  shankMm: number;
  /** Ankle behind and above the spindle in the foot's frame. */
  ankleBehindMm: number;
  ankleAboveMm: number;
  seatTubeDeg: number;
  footPitchDeg: HarmonicCurve;
  hipXMm: HarmonicCurve;
  hipYMm: HarmonicCurve;
}

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

export interface LegPose {
  spindle: Vec2;
  ankle: Vec2;
  knee: Vec2;
  hip: Vec2;
  kneeFlexionDeg: number;
}

export type LegResult = ({ ok: true } & LegPose) | { ok: false; reason: 'cannot-reach'; missMm: number };

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
  hipMm: Vec2;
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

interface FootAndHip {
  spindle: Vec2;
  ankle: Vec2;
  hip: Vec2;
}

function place(m: LegModel, thetaDeg: number, pitchDeg: number, hip: Vec2): FootAndHip {
  const th = thetaDeg * RAD_PER_DEG;
  const pitch = pitchDeg * RAD_PER_DEG;
  const spindle = { x: m.crankMm * Math.sin(th), y: m.crankMm * Math.cos(th) };
  const ankle = {
    x: spindle.x - m.ankleBehindMm * Math.cos(pitch) + m.ankleAboveMm * Math.sin(pitch),
    y: spindle.y + m.ankleBehindMm * Math.sin(pitch) + m.ankleAboveMm * Math.cos(pitch),
  };
  return { spindle, ankle, hip };
}

function footAndHip(m: LegModel, thetaDeg: number): FootAndHip {
  const hip = { x: evaluateCurve(m.hipXMm, thetaDeg), y: evaluateCurve(m.hipYMm, thetaDeg) };
  return place(m, thetaDeg, evaluateCurve(m.footPitchDeg, thetaDeg), hip);
}

const GRID_TABLE = harmonicTable(GRID_DEG, HIGHEST_ORDER);

/** How far the ankle is from the hip at a crank angle, mm: what the leg has to span. */
export function legSpanMm(m: LegModel, thetaDeg: number): number {
  const { ankle, hip } = footAndHip(m, thetaDeg);
  return distance(ankle, hip);
}

/**
 * The leg at a crank angle: two links between hip and ankle, the knee on the side towards the front.
 * @returns the pose, or by how many mm the leg is too short (or, missMm negative, too long to fold)
 */
export function legAt(m: LegModel, thetaDeg: number): LegResult {
  return link(m, footAndHip(m, thetaDeg));
}

function link(m: LegModel, { spindle, ankle, hip }: FootAndHip): LegResult {
  const a = circleMeetLeft(ankle, m.shankMm, hip, m.thighMm);
  const b = circleMeetLeft(hip, m.thighMm, ankle, m.shankMm);
  if (!a || !b) {
    const d = distance(ankle, hip);
    const over = d - m.thighMm - m.shankMm;
    return {
      ok: false,
      reason: 'cannot-reach',
      missMm: over > 0 ? over : d - Math.abs(m.thighMm - m.shankMm),
    };
  }
  const knee = a.x > b.x ? a : b;
  return { ok: true, spindle, ankle, knee, hip, kneeFlexionDeg: 180 - insideAngleDeg(hip, knee, ankle) };
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

/** Knee flexion over the turn, on GRID_DEG; or where and by how much the leg fails to reach. */
export type KneeCurve =
  | { ok: true; flexionDeg: number[]; min: number; minAtThetaDeg: number; max: number }
  | { ok: false; reason: 'cannot-reach'; missMm: number; atThetaDeg: number };

/** The knee's flexion over a whole turn of the crank. */
export function kneeCurve(m: LegModel): KneeCurve {
  const flexionDeg: number[] = [];
  for (let i = 0; i < GRID_DEG.length; i += 1) {
    const theta = GRID_DEG[i];
    const hip = { x: tableValue(m.hipXMm, GRID_TABLE, i), y: tableValue(m.hipYMm, GRID_TABLE, i) };
    const pose = link(m, place(m, theta, tableValue(m.footPitchDeg, GRID_TABLE, i), hip));
    if (!pose.ok) return { ok: false, reason: pose.reason, missMm: pose.missMm, atThetaDeg: theta };
    flexionDeg.push(pose.kneeFlexionDeg);
  }
  const min = Math.min(...flexionDeg);
  return {
    ok: true,
    flexionDeg,
    min,
    minAtThetaDeg: GRID_DEG[flexionDeg.indexOf(min)],
    max: Math.max(...flexionDeg),
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

/** Root mean square over the turn by which the rebuilt knee curve misses the measured one, degrees. */
export function modelResidualDeg(m: LegModel, measuredFlexionDeg: readonly number[]): number {
  const rebuilt = kneeCurve(m);
  if (!rebuilt.ok) return Infinity;
  const sum = rebuilt.flexionDeg.reduce((s, v, k) => s + (v - measuredFlexionDeg[k]) ** 2, 0);
  return Math.sqrt(sum / measuredFlexionDeg.length);
}

/** Over this residual the what-if is marked unreliable (handbook: models). */
export const UNRELIABLE_FROM_DEG = 2;

/** The rider's own model from a reading. */
export function fitLegModel(reading: Reading, seatTubeDeg: number): LegModel {
  const s = reading.segmentsMm;
  return {
    crankMm: s.crank,
    thighMm: s.thigh,
    shankMm: s.shank,
    ankleBehindMm: s.ankleBehind,
    ankleAboveMm: s.ankleAbove,
    seatTubeDeg,
    footPitchDeg: reading.footPitchCurveDeg,
    hipXMm: reading.hipCurveMm.x,
    hipYMm: reading.hipCurveMm.y,
  };
}
