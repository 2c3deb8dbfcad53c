import { RAD_PER_DEG } from '../core/math/angles.ts';
import { circleMeetLeft } from '../core/math/circle.ts';
import type { Vec2 } from '../core/math/vec.ts';
import { wander } from './wander.ts';

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
  /** Share by which the crank's speed varies within a turn, and (at random) from turn to turn. */
  unevenness: number;
  /** SD by which foot pitch wanders at random from stroke to stroke, degrees; hip and back wander with it in their own measure. */
  wanderDeg: number;
  /** Tells one rider's wandering from another's. */
  wanderSeed?: number;
  /** Share by which thigh and shank look shorter at most, as the pelvis rolls and the knee moves sideways. */
  foreshortening?: number;
  /** How far the trochanter's skin slides over the bone within a stroke, mm: moves its sticker, not the hip. */
  hipSkinMm?: number;
  /** Head above the back's high point when it hangs low, mm; as it falls out on the hoods when left out. */
  headAboveBackMm?: number;
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

/** A straight arm holds the shoulder: it can't stray further from the hand than the arm is long. */
function held(shoulder: Vec2, wrist: Vec2, { upperArmMm, forearmMm }: VirtualRider): Vec2 {
  const far = Math.hypot(shoulder.x - wrist.x, shoulder.y - wrist.y);
  const k = Math.min(1, (0.999 * (upperArmMm + forearmMm)) / far);
  return { x: wrist.x + k * (shoulder.x - wrist.x), y: wrist.y + k * (shoulder.y - wrist.y) };
}

/** From the tragus to the top of the head. */
const TRAGUS_TO_TOP_MM = 130;
/** For a degree that the foot strays: millimetres of the hip, and degrees of the back. */
const HIP_STRAYS_MM = 1.2;
const BACK_STRAYS = 0.4;

/** A point of the foot's frame (spindle origin, x to the toe, y up from the sole) turned by the pitch, toe-down positive. */
export function footToPlane(spindle: Vec2, pitchDeg: number, x: number, y: number): Vec2 {
  const c = Math.cos(pitchDeg * RAD_PER_DEG);
  const s = Math.sin(pitchDeg * RAD_PER_DEG);
  return { x: spindle.x + x * c + y * s, y: spindle.y - x * s + y * c };
}

/** Crank angle (unwrapped degrees) at a time: steady, with a small surge twice a turn, some turns quicker and some slower. */
export function crankAngleDeg(rider: VirtualRider, tS: number): number {
  const steady = rider.startThetaDeg + 6 * rider.cadenceRpm * tS;
  const surge = ((rider.unevenness * 180) / (2 * Math.PI)) * Math.sin(2 * steady * RAD_PER_DEG);
  // Over two turns 720·unevenness/2 degrees of lead or lag: a turn's cadence then varies by about the unevenness.
  const drift = rider.unevenness * 360 * wander(rider.wanderSeed ?? 1, 'cadence', steady / 720);
  return steady + surge + drift;
}

/** The arms hold the shoulder where it is: a rocking hip takes it along by a third, at the trunk's own length. */
export function shoulderMm(rider: VirtualRider, hip: Vec2, moreBackDeg = 0): Vec2 {
  const back = (rider.backDeg + moreBackDeg) * RAD_PER_DEG;
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
  const strays = (channel: string): number =>
    rider.wanderDeg === 0
      ? 0
      : rider.wanderDeg * wander(rider.wanderSeed ?? 1, channel, (tS * rider.cadenceRpm) / 60);
  const footPitchDeg = rider.footPitchMeanDeg + sumOf(rider.footPitch, thetaDeg) + strays('pitch');
  const hip = {
    x: rider.hipMm.x + sumOf(rider.hipRockX, thetaDeg) + HIP_STRAYS_MM * strays('hip-x'),
    y: rider.hipMm.y + sumOf(rider.hipRockY, thetaDeg) + 0.5 * HIP_STRAYS_MM * strays('hip-y'),
  };
  const ankle = footToPlane(spindle, footPitchDeg, -rider.ankleBehindMm, rider.ankleAboveMm);
  // Out of the picture's plane a limb looks shorter: the thigh most at the top, the shank as the knee swings.
  const short = rider.foreshortening ?? 0;
  const thighMm = rider.thighMm * (1 - short * (0.5 + 0.5 * Math.cos(th)));
  const shankMm = rider.shankMm * (1 - 0.6 * short * (0.5 + 0.5 * Math.sin(th + 0.8)));
  const knee = circleMeetLeft(ankle, shankMm, hip, thighMm);
  const kneeFront = circleMeetLeft(hip, thighMm, ankle, shankMm);
  if (!knee || !kneeFront)
    throw new Error(`The virtual rider's leg cannot reach at ${thetaDeg.toFixed(0)} degrees.`);
  const wrist = hoodMm(rider);
  const shoulder = held(shoulderMm(rider, hip, BACK_STRAYS * strays('back')), wrist, rider);
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

/** Where the sticker on the trochanter is: it slides with the skin as the thigh comes up, locked to the crank. */
export function hipStickerMm(rider: VirtualRider, { joints }: Pose): Vec2 {
  const { hip, knee } = joints;
  const thighDeg = Math.atan2(knee.y - hip.y, knee.x - hip.x) / RAD_PER_DEG;
  // The thigh swings between some 50° and 8° below the horizontal: half of the way either side of the middle.
  const share = Math.max(-0.6, Math.min(0.6, (thighDeg + 31) / 44)) * (rider.hipSkinMm ?? 0);
  return { x: hip.x - 0.6 * share, y: hip.y + 0.8 * share };
}

export type ExtraKey = 'head' | 'c7' | 'sacrum' | 'asis' | 'hand' | 'spindle';

/** The points that are marked when more is asked of the side view: on the head, the back, the pelvis, the grip and the pedal. */
export function extrasOf({ joints, spindle }: Pose, headAboveBackMm?: number): Record<ExtraKey, Vec2> {
  const { hip, shoulder, wrist } = joints;
  const l = Math.hypot(shoulder.x - hip.x, shoulder.y - hip.y);
  const [ux, uy] = [(shoulder.x - hip.x) / l, (shoulder.y - hip.y) / l];
  /** From a point along the trunk, and towards the back of it. */
  const off = (p: Vec2, along: number, back: number): Vec2 => ({
    x: p.x + along * ux - back * uy,
    y: p.y + along * uy + back * ux,
  });
  const [c7, sacrum] = [off(shoulder, 25, 78), off(hip, 25, 96)];
  const backTop = Math.max(shoulder.y, c7.y, sacrum.y);
  return {
    head: {
      x: shoulder.x + 90 * ux + 54,
      y:
        headAboveBackMm === undefined
          ? shoulder.y + 60 * uy + 118
          : backTop + headAboveBackMm - TRAGUS_TO_TOP_MM,
    },
    c7,
    sacrum,
    asis: off(hip, 82, -34),
    hand: { x: wrist.x + 60, y: wrist.y - 10 },
    spindle,
  };
}
