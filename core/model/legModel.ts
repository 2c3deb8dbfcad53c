import { RAD_PER_DEG, insideAngleDeg } from '../math/angles.ts';
import { circleMeetLeft } from '../math/circle.ts';
import { distance, type PlanePoint } from '../math/vec.ts';
import { harmonicTable, HIGHEST_ORDER, tableValue, type HarmonicCurve } from '../math/harmonics.ts';
import { footX, footY } from './foot.ts';
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

export interface LegPose {
  spindle: PlanePoint;
  ankle: PlanePoint;
  knee: PlanePoint;
  hip: PlanePoint;
  kneeFlexionDeg: number;
}

export type LegResult = ({ ok: true } & LegPose) | { ok: false; reason: 'cannot-reach'; missMm: number };

const GRID_TABLE = harmonicTable(GRID_DEG, HIGHEST_ORDER);

/**
 * The leg at a crank angle for a given pitch of the foot and place of the hip: two links between hip and ankle, the knee on the side
 * towards the front.
 * @returns the pose, or by how many mm the leg is too short (or, missMm negative, too long to fold)
 */
export function legPose(m: LegModel, thetaDeg: number, pitchDeg: number, hip: PlanePoint): LegResult {
  const theta = thetaDeg * RAD_PER_DEG;
  const [c, s] = [Math.cos(pitchDeg * RAD_PER_DEG), Math.sin(pitchDeg * RAD_PER_DEG)];
  const spindle = { x: m.crankMm * Math.sin(theta), y: m.crankMm * Math.cos(theta) };
  const ankle = {
    x: spindle.x + footX(-m.ankleBehindMm, m.ankleAboveMm, c, s),
    y: spindle.y + footY(-m.ankleBehindMm, m.ankleAboveMm, c, s),
  };
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
    const pose = legPose(m, theta, tableValue(m.footPitchDeg, GRID_TABLE, i), hip);
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
