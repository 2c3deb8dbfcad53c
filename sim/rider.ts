import { RAD_PER_DEG } from '../core/geometry/angles.ts';
import { circleMeetLeft } from '../core/geometry/circle.ts';
import type { Vec2 } from '../core/geometry/vec.ts';

/** One sine of the crank angle: amplitude·sin(order·θ + phase). */
export interface Harmonic {
  order: number;
  amplitude: number;
  phaseDeg: number;
}

/** The virtual rider: everything that makes the pedalling body, millimetres and degrees, in the bike plane (BB origin, x forward, y up). */
export interface VirtualRider {
  crankMm: number;
  thighMm: number;
  shankMm: number;
  /** Ankle behind and above the pedal spindle in the foot's own frame. */
  ankleBehindMm: number;
  ankleAboveMm: number;
  /** Spindle to sole: the toe sticker sits this far above the spindle, the heel sticker at the same height. */
  soleAboveMm: number;
  heelBehindMm: number;
  /** Toe sticker ahead of the spindle; above it when left out. Moves with the shoe when the cleat does. */
  toeAheadMm?: number;
  /** Shoe tip ahead of the spindle: drawing only. */
  shoeTipMm: number;
  hipMm: Vec2;
  hipRockX: Harmonic[];
  hipRockY: Harmonic[];
  footPitchMeanDeg: number;
  footPitch: Harmonic[];
  trunkMm: number;
  backDeg: number;
  upperArmMm: number;
  forearmMm: number;
  /** Angle of trunk to upper arm and bend of the elbow that place the hood when the rider is set up. */
  shoulderDeg: number;
  elbowFlexionDeg: number;
  cadenceRpm: number;
  /** Crank angle at time zero. */
  startThetaDeg: number;
  /** Share by which the crank's speed varies within a turn, and drifts over seconds. */
  unevenness: number;
  /** Degrees by which foot pitch wanders from stroke to stroke. */
  wanderDeg: number;
}

export type JointKey = 'hip' | 'knee' | 'ankle' | 'heel' | 'toe' | 'shoulder' | 'elbow' | 'wrist';

export interface Pose {
  thetaDeg: number;
  joints: Record<JointKey, Vec2>;
  spindle: Vec2;
  footPitchDeg: number;
}

const sumOf = (harmonics: readonly Harmonic[], thetaDeg: number): number =>
  harmonics.reduce((s, h) => s + h.amplitude * Math.sin((h.order * thetaDeg + h.phaseDeg) * RAD_PER_DEG), 0);

/** A point of the foot's frame (spindle origin, x to the toe, y up from the sole) turned by the pitch, toe-down positive. */
export function footToPlane(spindle: Vec2, pitchDeg: number, x: number, y: number): Vec2 {
  const c = Math.cos(pitchDeg * RAD_PER_DEG);
  const s = Math.sin(pitchDeg * RAD_PER_DEG);
  return { x: spindle.x + x * c + y * s, y: spindle.y - x * s + y * c };
}

/** Crank angle (unwrapped degrees) at a time: steady, with a small surge twice a turn and a slow drift. */
export function crankAngleDeg(rider: VirtualRider, tS: number): number {
  const steady = rider.startThetaDeg + 6 * rider.cadenceRpm * tS;
  const surge = ((rider.unevenness * 180) / (2 * Math.PI)) * Math.sin(2 * steady * RAD_PER_DEG);
  const drift = rider.unevenness * 40 * Math.sin(2 * Math.PI * 0.21 * tS);
  return steady + surge + drift;
}

/** The arms hold the shoulder where it is: a rocking hip takes it along by a third, at the trunk's own length. */
export function shoulderMm(rider: VirtualRider, hip: Vec2): Vec2 {
  const back = rider.backDeg * RAD_PER_DEG;
  const away = {
    x: rider.trunkMm * Math.cos(back) - (2 / 3) * (hip.x - rider.hipMm.x),
    y: rider.trunkMm * Math.sin(back) - (2 / 3) * (hip.y - rider.hipMm.y),
  };
  const k = rider.trunkMm / Math.hypot(away.x, away.y);
  return { x: hip.x + k * away.x, y: hip.y + k * away.y };
}

/** Where the wrist rests when the rider sits at the set-up posture: the hood it holds all the time. */
export function hoodMm(rider: VirtualRider): Vec2 {
  const shoulder = shoulderMm(rider, rider.hipMm);
  // From the shoulder, the direction back to the hip turned towards the front by the trunk–arm angle.
  const arm = (rider.backDeg + 180 + rider.shoulderDeg) * RAD_PER_DEG;
  const fore = arm + rider.elbowFlexionDeg * RAD_PER_DEG;
  return {
    x: shoulder.x + rider.upperArmMm * Math.cos(arm) + rider.forearmMm * Math.cos(fore),
    y: shoulder.y + rider.upperArmMm * Math.sin(arm) + rider.forearmMm * Math.sin(fore),
  };
}

/**
 * The whole body at a crank angle.
 * @param thetaDeg crank angle of this leg (add 180 for the other)  @param tS time, for the stroke-to-stroke wander
 * @throws Error where leg or arm cannot reach: a virtual rider must be possible
 */
export function poseAt(rider: VirtualRider, thetaDeg: number, tS: number): Pose {
  const th = thetaDeg * RAD_PER_DEG;
  const spindle = { x: rider.crankMm * Math.sin(th), y: rider.crankMm * Math.cos(th) };
  const footPitchDeg =
    rider.footPitchMeanDeg +
    sumOf(rider.footPitch, thetaDeg) +
    rider.wanderDeg * (Math.sin(2 * Math.PI * 0.37 * tS + 1) + 0.6 * Math.sin(2 * Math.PI * 0.83 * tS));
  const hip = {
    x: rider.hipMm.x + sumOf(rider.hipRockX, thetaDeg),
    y: rider.hipMm.y + sumOf(rider.hipRockY, thetaDeg),
  };
  const ankle = footToPlane(spindle, footPitchDeg, -rider.ankleBehindMm, rider.ankleAboveMm);
  const knee = circleMeetLeft(ankle, rider.shankMm, hip, rider.thighMm);
  const kneeFront = circleMeetLeft(hip, rider.thighMm, ankle, rider.shankMm);
  if (!knee || !kneeFront)
    throw new Error(`The virtual rider's leg cannot reach at ${thetaDeg.toFixed(0)} degrees.`);
  const shoulder = shoulderMm(rider, hip);
  const wrist = hoodMm(rider);
  const elbow = circleMeetLeft(wrist, rider.forearmMm, shoulder, rider.upperArmMm);
  if (!elbow) throw new Error('The virtual rider’s arm cannot reach the hood.');
  return {
    thetaDeg,
    spindle,
    footPitchDeg,
    joints: {
      hip,
      knee: knee.x > kneeFront.x ? knee : kneeFront,
      ankle,
      heel: footToPlane(spindle, footPitchDeg, -rider.heelBehindMm, rider.soleAboveMm),
      toe: footToPlane(spindle, footPitchDeg, rider.toeAheadMm ?? 0, rider.soleAboveMm),
      shoulder,
      elbow,
      wrist,
    },
  };
}

export type ExtraKey = 'head' | 'c7' | 'sacrum' | 'asis' | 'hand' | 'spindle';

/** The points that are marked when more is asked of the side view: on the head, the back, the pelvis, the grip and the pedal. */
export function extrasOf({ joints, spindle }: Pose): Record<ExtraKey, Vec2> {
  const { hip, shoulder, wrist } = joints;
  const l = Math.hypot(shoulder.x - hip.x, shoulder.y - hip.y);
  const [ux, uy] = [(shoulder.x - hip.x) / l, (shoulder.y - hip.y) / l];
  /** From a point along the trunk, and towards the back of it. */
  const off = (p: Vec2, along: number, back: number): Vec2 => ({
    x: p.x + along * ux - back * uy,
    y: p.y + along * uy + back * ux,
  });
  return {
    head: { x: shoulder.x + 90 * ux + 54, y: shoulder.y + 60 * uy + 118 },
    c7: off(shoulder, 25, 78),
    sacrum: off(hip, 25, 96),
    asis: off(hip, 82, -34),
    hand: { x: wrist.x + 60, y: wrist.y - 10 },
    spindle,
  };
}
