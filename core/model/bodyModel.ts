import { RAD_PER_DEG } from '../math/angles.ts';
import type { PlanePoint } from '../math/vec.ts';
import {
  evaluateCurve,
  harmonicTable,
  HIGHEST_ORDER,
  tableValue,
  type HarmonicCurve,
} from '../math/harmonics.ts';
import type { Reading } from '../kinematics/read.ts';
import { fitLegModel, modelResidualDeg, type LegModel } from './legModel.ts';
import type { LegSide } from './effects.ts';
import { footX, footY } from './foot.ts';

/**
 * The rider's own leg, trunk and arm, fitted from a reading: what stands still at its lengths, what moves as harmonic series of
 * the crank angle. Bike plane, mm, BB origin.
 */
export interface BodyModel {
  side: LegSide;
  leg: LegModel;
  /** Of the rebuilt knee curve against the measured one, RMS; null where a joint of the leg was not seen. */
  residualDeg: number | null;
  /** Heel and toe in the foot's frame, spindle origin. */
  heelMm: PlanePoint;
  toeMm: PlanePoint;
  shoulder: { x: HarmonicCurve; y: HarmonicCurve };
  elbowMm: PlanePoint;
  wristMm: PlanePoint;
  upperArmMm: number;
  forearmMm: number;
  trunkMm: number;
  /** c7, sacrum and the tragus where they were marked, mean over the turn. */
  c7Mm: PlanePoint | null;
  sacrumMm: PlanePoint | null;
  headMm: PlanePoint | null;
}

/** The rider's answers to a change, each a share with its spread (handbook: models). */
export interface Share {
  mean: number;
  sd: number;
}
export interface Habits {
  /** Share of a leg-length change taken by foot pitch. */
  kappa: Share;
  /** Share of a bar change taken by the back. */
  rho: Share;
}

/** Until a re-film tells the rider's own (handbook: models). */
export const USUAL_HABITS: Habits = { kappa: { mean: 0.35, sd: 0.2 }, rho: { mean: 0.5, sd: 0.25 } };

/** The model of the filmed side. */
export function fitBody(reading: Reading, side: LegSide, seatTubeDeg: number): BodyModel {
  const leg = fitLegModel(reading, seatTubeDeg);
  const { paths } = reading.body;
  const { kneeFlexionDeg: knee } = reading.angles;
  const meanOf = (key: keyof typeof paths): PlanePoint | null => {
    const p = paths[key];
    return p ? { x: p.x.curve.mean, y: p.y.curve.mean } : null;
  };
  // Heel and toe against the spindle, turned back by the foot's pitch, at the crank's four positions.
  const inFoot = (key: 'heel' | 'toe'): PlanePoint => {
    const sum = { x: 0, y: 0 };
    for (const [i, at] of (['0', '90', '180', '270'] as const).entries()) {
      const theta = (i * Math.PI) / 2;
      const pitch = evaluateCurve(reading.footPitchCurveDeg, Number(at)) * RAD_PER_DEG;
      const dx = paths[key]!.x.at[at] - leg.crankMm * Math.sin(theta);
      const dy = paths[key]!.y.at[at] - leg.crankMm * Math.cos(theta);
      sum.x += (dx * Math.cos(pitch) - dy * Math.sin(pitch)) / 4;
      sum.y += (dx * Math.sin(pitch) + dy * Math.cos(pitch)) / 4;
    }
    return sum;
  };
  const shoulder = { x: paths.shoulder!.x.curve, y: paths.shoulder!.y.curve };
  const [s, e, w] = [meanOf('shoulder')!, meanOf('elbow')!, meanOf('wrist')!];
  return {
    side,
    leg,
    residualDeg: knee ? modelResidualDeg(leg, knee.meanOnGrid) : null,
    heelMm: inFoot('heel'),
    toeMm: inFoot('toe'),
    shoulder,
    elbowMm: e,
    wristMm: w,
    upperArmMm: Math.hypot(s.x - e.x, s.y - e.y),
    forearmMm: Math.hypot(e.x - w.x, e.y - w.y),
    trunkMm: Math.hypot(s.x - leg.hipXMm.mean, s.y - leg.hipYMm.mean),
    c7Mm: meanOf('c7'),
    sacrumMm: meanOf('sacrum'),
    headMm: meanOf('head'),
  };
}

/** A model's curves on an even grid of crank angles, laid out once for many predictions. */
export interface Prepared {
  model: BodyModel;
  thetaDeg: Float64Array;
  pitchDeg: Float64Array;
  hipX: Float64Array;
  hipY: Float64Array;
  shoulderX: Float64Array;
  shoulderY: Float64Array;
  /** Index of the grid where the ankle is furthest from the hip. */
  longest: number;
  /** Crank forward, and at the bottom. */
  at90: number;
  at180: number;
}

/** @param points of the turn, divisible by four: 144 for drawing, 36 for searching */
export function prepare(model: BodyModel, points = 144): Prepared {
  const theta = Array.from({ length: points }, (_, i) => (360 * i) / points);
  const table = harmonicTable(theta, HIGHEST_ORDER);
  const on = (c: HarmonicCurve): Float64Array => Float64Array.from(theta, (_, i) => tableValue(c, table, i));
  const { leg } = model;
  const out: Prepared = {
    model,
    thetaDeg: Float64Array.from(theta),
    pitchDeg: on(leg.footPitchDeg),
    hipX: on(leg.hipXMm),
    hipY: on(leg.hipYMm),
    shoulderX: on(model.shoulder.x),
    shoulderY: on(model.shoulder.y),
    longest: 0,
    at90: points / 4,
    at180: points / 2,
  };
  let most = 0;
  for (let i = 0; i < points; i += 1) {
    const t = theta[i] * RAD_PER_DEG;
    const p = out.pitchDeg[i] * RAD_PER_DEG;
    const [c, s] = [Math.cos(p), Math.sin(p)];
    const ax = leg.crankMm * Math.sin(t) + footX(-leg.ankleBehindMm, leg.ankleAboveMm, c, s);
    const ay = leg.crankMm * Math.cos(t) + footY(-leg.ankleBehindMm, leg.ankleAboveMm, c, s);
    const span = Math.hypot(out.hipX[i] - ax, out.hipY[i] - ay);
    if (span > most) [most, out.longest] = [span, i];
  }
  return out;
}
