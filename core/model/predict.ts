import { DEG_PER_RAD, RAD_PER_DEG } from '../math/angles.ts';
import type { PlanePoint } from '../math/vec.ts';
import type { Prepared } from './bodyModel.ts';
import { footX, footY } from './foot.ts';
import type { Effects } from './effects.ts';
import type { MeasureKey } from '../protocol/protocols.ts';

/** Measures that the model predicts. The knee's path from ahead is not among them: film again from there. */
export const PREDICTED = [
  'kneeFlexionMinDeg',
  'kneeFlexionMaxDeg',
  'hipAngleMinDeg',
  'backAngleDeg',
  'shoulderAngleDeg',
  'elbowFlexionDeg',
  'footPitch90Deg',
  'footPitch180Deg',
  'ankleRangeDeg',
  'kneeOverSpindleMm',
  'effectiveSeatAngleDeg',
  'shoulderAboveMidBackMm',
  'headAboveBackMm',
] as const satisfies readonly MeasureKey[];
export type PredictedKey = (typeof PREDICTED)[number];
export type Values = Record<PredictedKey, number>;

/** The body at one crank angle, for drawing. */
export interface Outline {
  thetaDeg: number;
  spindle: PlanePoint;
  heel: PlanePoint;
  toe: PlanePoint;
  ankle: PlanePoint;
  knee: PlanePoint;
  hip: PlanePoint;
  shoulder: PlanePoint;
  elbow: PlanePoint;
  wrist: PlanePoint;
}

export interface Turn {
  kneeDeg: Float64Array;
  hipDeg: Float64Array;
  ankleDeg: Float64Array;
  pitchDeg: Float64Array;
  outlines: Outline[];
}

export type Prediction =
  | {
      ok: true;
      values: Values;
      /** The back stopped at the rider's limit and rounds from there. */
      rounds: boolean;
      /** Only where asked for. */
      turn: Turn | null;
    }
  | { ok: false; what: 'leg' | 'arm'; missMm: number; thetaDeg: number | null };

export interface Answer {
  kappa: number;
  rho: number;
  /** The least back angle that this rider's back allows; null where nothing limits it. */
  backLimitDeg?: number | null;
  /** Of the shoulders, mm: with it a wider bar takes arm length out of the plane. */
  shoulderWidthMm?: number | null;
  barWidthMm?: number | null;
  withTurn?: boolean;
}

const clampTo = (v: number, low: number, high: number): number => Math.min(high, Math.max(low, v));

/**
 * By how much the foot pitches more, degrees, when a share κ of a change of leg length goes into the ankle: the ankle lies on a
 * circle about the spindle, and at the wanted distance from the hip; the angle between the two directions follows from the cosine
 * rule (own derivation, closed form of the handbook's definition of κ).
 */
function pitchAnswer(p: Prepared, fx: Effects, kappa: number): number {
  const i = p.longest;
  const { leg, side } = p.model;
  const theta = p.thetaDeg[i] * RAD_PER_DEG;
  const pitch = p.pitchDeg[i] * RAD_PER_DEG;
  const [cos, sin] = [Math.cos(pitch), Math.sin(pitch)];
  // eslint-disable-next-line max-params -- called for every crank angle of every try: no object is made for it
  const reach = (crank: number, a: number, b: number, hx: number, hy: number) => {
    const sx = crank * Math.sin(theta);
    const sy = crank * Math.cos(theta);
    const ax = footX(-a, b, cos, sin);
    const ay = footY(-a, b, cos, sin);
    return { span: Math.hypot(hx - sx - ax, hy - sy - ay), ax, ay, dx: hx - sx, dy: hy - sy };
  };
  const own = fx.legs[side];
  const before = reach(leg.crankMm, leg.ankleBehindMm, leg.ankleAboveMm, p.hipX[i], p.hipY[i]);
  const a = leg.ankleBehindMm - own.cleatBackMm;
  const b = leg.ankleAboveMm + own.stackMm;
  const after = reach(leg.crankMm + fx.crankMm, a, b, p.hipX[i] + fx.sitMm.x, p.hipY[i] + fx.sitMm.y);
  const wanted = before.span + (1 - kappa) * (after.span - before.span);
  const far = Math.hypot(after.dx, after.dy);
  const r = Math.hypot(a, b);
  const cosine = (far * far + r * r - wanted * wanted) / (2 * far * r);
  const now = Math.acos(clampTo((after.ax * after.dx + after.ay * after.dy) / (far * r), -1, 1));
  const then = Math.acos(clampTo(cosine, -1, 1));
  return clampTo((now - then) * DEG_PER_RAD, -25, 25);
}

const insideDeg = (ux: number, uy: number, wx: number, wy: number): number =>
  Math.atan2(Math.abs(ux * wy - uy * wx), ux * wx + uy * wy) * DEG_PER_RAD;

interface Upper {
  shoulder: PlanePoint;
  elbow: PlanePoint;
  wrist: PlanePoint;
  backDeg: number;
  shoulderDeg: number;
  elbowDeg: number;
  rounds: boolean;
}

/**
 * The trunk's and the arm's answer to a moved hip and hand: back angles between the one that stays (ρ = 0) and the one that keeps
 * the elbow as it was (ρ = 1: the shoulder at the old distance from the hand); the arm takes what is left.
 */
function upperBody(p: Prepared, fx: Effects, answer: Answer): Upper | { missMm: number } {
  const m = p.model;
  const hip = { x: m.leg.hipXMm.mean + fx.sitMm.x, y: m.leg.hipYMm.mean + fx.sitMm.y };
  const s0 = { x: m.shoulder.x.mean, y: m.shoulder.y.mean };
  const wrist = { x: m.wristMm.x + fx.handMm.x, y: m.wristMm.y + fx.handMm.y };
  const beta0 = Math.atan2(s0.y - m.leg.hipYMm.mean, s0.x - m.leg.hipXMm.mean);
  const flat = (spread: number): number => {
    // A hand further out than the shoulder leaves less of the arm in the picture.
    const out = spread / 2 / (m.upperArmMm + m.forearmMm);
    return Math.sqrt(Math.max(0.2, 1 - out * out));
  };
  const { shoulderWidthMm: sw, barWidthMm: bw } = answer;
  const k = sw && bw && fx.barWidthMm ? flat(bw + fx.barWidthMm - sw) / flat(bw - sw) : 1;
  const d0 = Math.hypot(s0.x - m.wristMm.x, s0.y - m.wristMm.y) * k;
  const [upper, fore] = [m.upperArmMm * k, m.forearmMm * k];
  const gx = wrist.x - hip.x;
  const gy = wrist.y - hip.y;
  const g = Math.hypot(gx, gy);
  const toHand = Math.atan2(gy, gx);
  const u = m.trunkMm;
  // The shoulder lies above the line from hip to hand.
  const at = (distance: number): number =>
    toHand + Math.acos(clampTo((u * u + g * g - distance * distance) / (2 * u * g), -1, 1));
  let beta = beta0 + answer.rho * (at(d0) - beta0);
  // The arm is no longer than it is: a straight one pulls the trunk down.
  const longest = 0.998 * (upper + fore);
  beta = Math.min(beta, Math.max(at(longest), toHand));
  if (g > u + longest) return { missMm: g - u - longest };
  const limit = answer.backLimitDeg;
  let rounds = false;
  if (limit !== null && limit !== undefined && beta < beta0 && beta * DEG_PER_RAD < limit) {
    const held = Math.min(beta0, limit * RAD_PER_DEG);
    rounds = held > beta + 1e-4;
    // Where the arm can't make up for it, the shoulder comes down all the same: that is the rounding.
    beta = Math.min(held, Math.max(at(longest), beta));
  }
  const shoulder = { x: hip.x + u * Math.cos(beta), y: hip.y + u * Math.sin(beta) };
  const dx = wrist.x - shoulder.x;
  const dy = wrist.y - shoulder.y;
  const d = Math.max(Math.abs(upper - fore) + 1e-6, Math.min(Math.hypot(dx, dy), longest));
  const inElbow = Math.acos(clampTo((upper * upper + fore * fore - d * d) / (2 * upper * fore), -1, 1));
  // The elbow hangs on the side on which it was.
  const e0 = m.elbowMm;
  const hangs = Math.sign((m.wristMm.x - s0.x) * (e0.y - s0.y) - (m.wristMm.y - s0.y) * (e0.x - s0.x));
  const open = Math.acos(clampTo((upper * upper + d * d - fore * fore) / (2 * upper * d), -1, 1));
  const dir = Math.atan2(dy, dx) + (hangs || -1) * open;
  const elbow = { x: shoulder.x + upper * Math.cos(dir), y: shoulder.y + upper * Math.sin(dir) };
  return {
    shoulder,
    elbow,
    wrist,
    backDeg: beta * DEG_PER_RAD,
    shoulderDeg: insideDeg(
      hip.x - shoulder.x,
      hip.y - shoulder.y,
      elbow.x - shoulder.x,
      elbow.y - shoulder.y,
    ),
    elbowDeg: 180 - inElbow * DEG_PER_RAD,
    rounds,
  };
}

const emptyTurn = (n: number): Turn => ({
  kneeDeg: new Float64Array(n),
  hipDeg: new Float64Array(n),
  ankleDeg: new Float64Array(n),
  pitchDeg: new Float64Array(n),
  outlines: [],
});

/**
 * The whole body after moves, for given answers of the rider: every measure as the model has it. Only differences against the model
 * without moves are meant to be used (`forecastOf`): so the model's own residual does not count as an effect.
 */
// eslint-disable-next-line max-lines-per-function -- the solver’s innermost loop, written out: it runs thousands of times for a plan
export function predict(p: Prepared, fx: Effects, answer: Answer): Prediction {
  const m = p.model;
  const top = upperBody(p, fx, answer);
  if ('missMm' in top) return { ok: false, what: 'arm', missMm: top.missMm, thetaDeg: null };
  const { leg } = m;
  const own = fx.legs[m.side];
  const crank = leg.crankMm + fx.crankMm;
  const a = leg.ankleBehindMm - own.cleatBackMm;
  const b = leg.ankleAboveMm + own.stackMm;
  const pitchBy = pitchAnswer(p, fx, answer.kappa);
  const n = p.thetaDeg.length;
  const sx = top.shoulder.x - m.shoulder.x.mean;
  const sy = top.shoulder.y - m.shoulder.y.mean;
  const toe = { x: m.toeMm.x + own.cleatBackMm, y: m.toeMm.y + own.stackMm };
  const heel = { x: m.heelMm.x + own.cleatBackMm, y: m.heelMm.y + own.stackMm };
  const turn = answer.withTurn ? emptyTurn(n) : null;
  let [kneeMin, kneeMax, hipMin, ankleMin, ankleMax] = [Infinity, -Infinity, Infinity, Infinity, -Infinity];
  let kneeOver = NaN;
  const { thighMm: t, shankMm: s } = leg;
  for (let i = 0; i < n; i += 1) {
    const theta = p.thetaDeg[i] * RAD_PER_DEG;
    const pitch = (p.pitchDeg[i] + pitchBy) * RAD_PER_DEG;
    const [c, q] = [Math.cos(pitch), Math.sin(pitch)];
    const px = crank * Math.sin(theta);
    const py = crank * Math.cos(theta);
    const ax = px + footX(-a, b, c, q);
    const ay = py + footY(-a, b, c, q);
    const hx = p.hipX[i] + fx.sitMm.x;
    const hy = p.hipY[i] + fx.sitMm.y;
    const dx = hx - ax;
    const dy = hy - ay;
    const d = Math.hypot(dx, dy);
    if (d > t + s) return { ok: false, what: 'leg', missMm: d - t - s, thetaDeg: p.thetaDeg[i] };
    if (d < Math.abs(t - s))
      return { ok: false, what: 'leg', missMm: d - Math.abs(t - s), thetaDeg: p.thetaDeg[i] };
    // The knee from the ankle: along the line to the hip, and square to it towards the front.
    const along = (d * d + s * s - t * t) / (2 * d);
    const off = Math.sqrt(Math.max(0, s * s - along * along));
    const kx = ax + (along * dx + off * dy) / d;
    const ky = ay + (along * dy - off * dx) / d;
    const knee = 180 - insideDeg(hx - kx, hy - ky, ax - kx, ay - ky);
    const shX = p.shoulderX[i] + sx;
    const shY = p.shoulderY[i] + sy;
    const hip = insideDeg(shX - hx, shY - hy, kx - hx, ky - hy);
    const tx = px + footX(toe.x, toe.y, c, q);
    const ty = py + footY(toe.x, toe.y, c, q);
    const ankle = insideDeg(kx - ax, ky - ay, tx - ax, ty - ay);
    kneeMin = Math.min(kneeMin, knee);
    kneeMax = Math.max(kneeMax, knee);
    hipMin = Math.min(hipMin, hip);
    ankleMin = Math.min(ankleMin, ankle);
    ankleMax = Math.max(ankleMax, ankle);
    if (i === p.at90) kneeOver = kx - px;
    if (turn) {
      turn.kneeDeg[i] = knee;
      turn.hipDeg[i] = hip;
      turn.ankleDeg[i] = ankle;
      turn.pitchDeg[i] = p.pitchDeg[i] + pitchBy;
      turn.outlines.push({
        thetaDeg: p.thetaDeg[i],
        spindle: { x: px, y: py },
        heel: { x: px + footX(heel.x, heel.y, c, q), y: py + footY(heel.x, heel.y, c, q) },
        toe: { x: tx, y: ty },
        ankle: { x: ax, y: ay },
        knee: { x: kx, y: ky },
        hip: { x: hx, y: hy },
        shoulder: { x: shX, y: shY },
        elbow: top.elbow,
        wrist: top.wrist,
      });
    }
  }
  const meanHip = { x: leg.hipXMm.mean + fx.sitMm.x, y: leg.hipYMm.mean + fx.sitMm.y };
  return {
    ok: true,
    rounds: top.rounds,
    turn,
    values: {
      kneeFlexionMinDeg: kneeMin,
      kneeFlexionMaxDeg: kneeMax,
      hipAngleMinDeg: hipMin,
      backAngleDeg: top.backDeg,
      shoulderAngleDeg: top.shoulderDeg,
      elbowFlexionDeg: top.elbowDeg,
      footPitch90Deg: p.pitchDeg[p.at90] + pitchBy,
      footPitch180Deg: p.pitchDeg[p.at180] + pitchBy,
      ankleRangeDeg: ankleMax - ankleMin,
      kneeOverSpindleMm: kneeOver,
      effectiveSeatAngleDeg: Math.atan2(meanHip.y, -meanHip.x) * DEG_PER_RAD,
      ...alongTheBack(p, top),
    },
  };
}

/** Trunk and arm alone, for looking quickly through many fronts; null where the arms can't reach. */
export function predictTop(
  p: Prepared,
  fx: Effects,
  answer: Answer,
): Pick<Values, 'backAngleDeg' | 'shoulderAngleDeg' | 'elbowFlexionDeg'> | null {
  const top = upperBody(p, fx, answer);
  return 'missMm' in top
    ? null
    : {
        backAngleDeg: top.backDeg,
        shoulderAngleDeg: top.shoulderDeg,
        elbowFlexionDeg: top.elbowDeg,
      };
}

/** Shoulder and head against the back: its points turn with the trunk about the hip, the head keeps its height over the shoulder. */
function alongTheBack(
  { model: m }: Prepared,
  top: Upper,
): Pick<Values, 'shoulderAboveMidBackMm' | 'headAboveBackMm'> {
  const hip0 = { x: m.leg.hipXMm.mean, y: m.leg.hipYMm.mean };
  const s0 = { x: m.shoulder.x.mean, y: m.shoulder.y.mean };
  const by = top.backDeg * RAD_PER_DEG - Math.atan2(s0.y - hip0.y, s0.x - hip0.x);
  // Heights over the hip, so that a moved saddle does not count.
  const over = (v: PlanePoint): number => (v.x - hip0.x) * Math.sin(by) + (v.y - hip0.y) * Math.cos(by);
  const shoulder = over(s0);
  const mid = m.c7Mm && m.sacrumMm ? (over(m.c7Mm) + over(m.sacrumMm)) / 2 : NaN;
  const high = Math.max(
    shoulder,
    m.c7Mm ? over(m.c7Mm) : -Infinity,
    m.sacrumMm ? over(m.sacrumMm) : -Infinity,
  );
  return {
    shoulderAboveMidBackMm: shoulder - mid,
    headAboveBackMm: m.headMm ? shoulder + (m.headMm.y - s0.y) - high : NaN,
  };
}
