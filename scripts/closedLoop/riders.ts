import { UNMEASURED_BIKE, type BikeSetup } from '../../core/bike/setup.ts';
import type { BodyRecord } from '../../core/body/tests.ts';
import { BLANK_INTAKE, type Intake } from '../../core/intake/intake.ts';
import { applyMoves, effectsOf, type Effects, type Moves } from '../../core/plan/controls.ts';
import type { Band } from '../../core/protocol/judge.ts';
import { protocolById, type MeasureKey } from '../../core/protocol/protocols.ts';
import { gaussian } from '../../sim/random.ts';
import { ridden, type Felt, type Habit } from '../../sim/answer.ts';
import { poseAt, type VirtualRider } from '../../sim/rider.ts';
import { insideAngleDeg, elevationDeg, RAD_PER_DEG } from '../../core/geometry/angles.ts';

export const MISFITS = [
  'height',
  'setback',
  'cleats',
  'crank',
  'reach',
  'drop',
  'stance',
  'leg length',
  'height and reach',
] as const;
export type Misfit = (typeof MISFITS)[number];

/** What the two legs and the trunk are truly doing. */
export interface Ridden {
  right: VirtualRider;
  left: VirtualRider;
}

/** A made-up rider on a made-up bike that does not fit, with what only the simulation knows. */
export interface Case {
  misfit: Misfit;
  rider: Ridden;
  bike: BikeSetup;
  body: BodyRecord;
  intake: Intake;
  habit: Habit;
  /** The fewest things that put it right. */
  fewest: number;
}

export const BANDS: Record<MeasureKey, Band> = protocolById('long-distance').bands;

/** The true measures of one leg and the trunk, without the wander from stroke to stroke. */
export function truth(rider: VirtualRider, points = 360): Partial<Record<MeasureKey, number>> {
  const still = { ...rider, wanderDeg: 0 };
  const poses = Array.from({ length: points }, (_, i) => poseAt(still, (360 * i) / points, 0));
  const knee = poses.map(({ joints: j }) => 180 - insideAngleDeg(j.hip, j.knee, j.ankle));
  const hip = poses.map(({ joints: j }) => insideAngleDeg(j.shoulder, j.hip, j.knee));
  const mean = (f: (p: (typeof poses)[number]) => number): number =>
    poses.reduce((s, p) => s + f(p), 0) / points;
  const ankle = poses.map(({ joints: j }) => insideAngleDeg(j.knee, j.ankle, j.toe));
  const seat = { x: mean((p) => p.joints.hip.x), y: mean((p) => p.joints.hip.y) };
  return {
    kneeFlexionMinDeg: Math.min(...knee),
    kneeFlexionMaxDeg: Math.max(...knee),
    hipAngleMinDeg: Math.min(...hip),
    backAngleDeg: mean((p) => elevationDeg(p.joints.hip, p.joints.shoulder)),
    shoulderAngleDeg: mean(({ joints: j }) => insideAngleDeg(j.hip, j.shoulder, j.elbow)),
    elbowFlexionDeg: mean(({ joints: j }) => 180 - insideAngleDeg(j.shoulder, j.elbow, j.wrist)),
    footPitch90Deg: poses[points / 4].footPitchDeg,
    footPitch180Deg: poses[points / 2].footPitchDeg,
    ankleRangeDeg: Math.max(...ankle) - Math.min(...ankle),
    kneeOverSpindleMm: poses[points / 4].joints.knee.x - poses[points / 4].spindle.x,
    effectiveSeatAngleDeg: Math.atan2(seat.y, -seat.x) / RAD_PER_DEG,
  };
}

const inside = (v: number, b: Band, by: number): boolean =>
  (b.low === null || v >= b.low + by) && (b.high === null || v <= b.high - by);

/** A rider who sits well inside every band. */
function wellFitted(random: () => number): VirtualRider | null {
  const between = (a: number, b: number): number => a + (b - a) * random();
  const thighMm = between(385, 455);
  const shankMm = thighMm + between(-12, 12);
  const legMm = thighMm + shankMm;
  const crankMm = Math.round((0.205 * (legMm - 56)) / 2.5) * 2.5;
  const seat = between(71.2, 73) * RAD_PER_DEG;
  const range = between(0.86, 0.92) * legMm;
  const rider: VirtualRider = {
    crankMm,
    thighMm,
    shankMm,
    ankleBehindMm: between(112, 134),
    ankleAboveMm: between(86, 102),
    soleAboveMm: between(20, 28),
    heelBehindMm: between(150, 175),
    shoeTipMm: 80,
    hipMm: { x: -range * Math.cos(seat), y: range * Math.sin(seat) },
    hipRockX: [{ order: 2, amplitude: between(0.5, 2), phaseDeg: between(0, 360) }],
    hipRockY: [{ order: 2, amplitude: between(1, 3.5), phaseDeg: between(0, 360) }],
    footPitchMeanDeg: between(14, 21),
    footPitch: [
      { order: 1, amplitude: between(9, 15), phaseDeg: between(140, 168) },
      { order: 2, amplitude: between(0, 1.5), phaseDeg: between(0, 360) },
    ],
    trunkMm: between(445, 510),
    backDeg: between(45.5, 51),
    upperArmMm: between(265, 305),
    forearmMm: between(235, 270),
    shoulderDeg: between(74, 86),
    elbowFlexionDeg: between(18, 27),
    cadenceRpm: between(78, 95),
    startThetaDeg: between(0, 360),
    unevenness: between(0, 0.015),
    wanderDeg: between(0.2, 0.7),
  };
  const wanted = { knee: between(35, 40), over: between(-20, 1) };
  try {
    // The hip is put where knee and plumb line are wanted: about 0.35° a millimetre up, 0.9 mm a millimetre forward.
    for (let i = 0; i < 6; i += 1) {
      const now = truth(rider, 24);
      rider.hipMm = {
        x: rider.hipMm.x + (wanted.over - now.kneeOverSpindleMm!) / 0.9,
        y: rider.hipMm.y + (now.kneeFlexionMinDeg! - wanted.knee) / 0.4,
      };
    }
    const t = truth(rider, 72);
    const fits = (Object.entries(t) as [MeasureKey, number][]).every(([key, v]) => {
      const b = BANDS[key];
      const width = b.low !== null && b.high !== null ? b.high - b.low : 20;
      return inside(v, b, 0.12 * width);
    });
    return fits ? rider : null;
  } catch {
    return null;
  }
}

/** The bike under a well-fitted rider. */
function bikeUnder(rider: VirtualRider, random: () => number): BikeSetup {
  const sit = { x: rider.hipMm.x - 25, y: rider.hipMm.y - 92 };
  const foot = {
    ...UNMEASURED_BIKE.feet.left,
    cleatBehindMm: 10,
    cleatOutwardMm: 0,
    heelOutDeg: -5,
    shoeSizeEu: 42,
  };
  return {
    ...UNMEASURED_BIKE,
    frame: {
      ...UNMEASURED_BIKE.frame,
      stackMm: 590,
      reachMm: 385,
      headAngleDeg: 71 + 2 * random(),
      seatAngleDeg: 73,
    },
    crank: { lengthMm: rider.crankMm, qFactorMm: 150 },
    pedals: { ...UNMEASURED_BIKE.pedals, axleLengthMm: 53, stackMm: 11 },
    feet: { left: foot, right: foot },
    saddle: {
      ...UNMEASURED_BIKE.saddle,
      heightMm: Math.round(Math.hypot(sit.x, sit.y)),
      setback80Mm: Math.round(-sit.x),
      tiltDeg: 0,
    },
    stem: { ...UNMEASURED_BIKE.stem, lengthMm: 90, angleDeg: -6, spacersMm: 20 },
    bar: { ...UNMEASURED_BIKE.bar, reachMm: 75, hoodRiseMm: 30, rotationDeg: 0 },
  };
}

const feltBy = (fx: Effects, side: 'left' | 'right'): Felt => ({
  sitMm: fx.sitMm,
  handMm: fx.handMm,
  crankMm: fx.crankMm,
  cleatBackMm: fx.legs[side].cleatBackMm,
  stackMm: fx.legs[side].stackMm,
});

/** The rider after moves of the bike, by the simulation's own answer; null where it can't be ridden. */
export function rideOn(rider: Ridden, bike: BikeSetup, moves: Moves, habit: Habit): Ridden | null {
  const fx = effectsOf(bike, moves);
  const right = ridden(rider.right, feltBy(fx, 'right'), habit);
  const left = ridden(rider.left, feltBy(fx, 'left'), habit);
  return right && left && { right, left };
}

const clip = (v: number): number => Math.min(0.9, Math.max(0, v));

/** Plain body notes: inseam alone, and a table difference where there is one. */
function bodyOf(rider: VirtualRider, differenceMm: number): BodyRecord {
  const none = { left: null, right: null, both: null, skipped: null };
  return {
    adjustmentsOff: [],
    results: {
      inseam: { ...none, both: Math.round(rider.thighMm + rider.shankMm - 56) },
      ...(differenceMm && {
        malleoliTraction: { ...none, both: differenceMm },
        malleoliSitUp: { ...none, both: differenceMm },
      }),
    },
  };
}

/** A random rider made not to fit by one misfit (or two): the bike is moved, the rider answers by habits that nobody knows. */
export function randomCase(misfit: Misfit, random: () => number): Case | null {
  const right = wellFitted(random);
  if (!right) return null;
  const between = (a: number, b: number): number => a + (b - a) * random();
  const either = (a: number, b: number): number => Math.round(between(a, b)) * (random() < 0.5 ? -1 : 1);
  const habit: Habit = {
    kappa: clip(0.35 + 0.2 * gaussian(random)),
    rho: clip(0.5 + 0.25 * gaussian(random)),
  };
  const shorter = misfit === 'leg length' ? Math.round(between(5, 9)) : 0;
  const left =
    shorter > 0
      ? { ...right, thighMm: right.thighMm - shorter / 2, shankMm: right.shankMm - shorter / 2 }
      : right;
  const good = bikeUnder(right, random);
  const moves: Record<Misfit, () => Moves> = {
    height: () => ({ saddleUp: either(14, 26) }),
    setback: () => ({ saddleBack: either(22, 36) }),
    cleats: () => ({
      'cleatBack.left': -Math.round(between(7, 14)),
      ...(random() < 0.5 && { 'cleatBack.right': -Math.round(between(7, 14)) }),
    }),
    crank: () => ({ crank: 2.5 * Math.round(between(3, 6)) }),
    reach: () => ({ stemLength: 10 * either(3, 5) }),
    drop: () => ({
      spacers: -20,
      stemAngle: -11 * Math.round(between(1, 1.4)),
      ...(random() < 0.5 && { barReach: 0 }),
    }),
    stance: () => ({ 'cleatOut.left': Math.round(between(4, 5)) }),
    'leg length': () => ({}),
    'height and reach': () => ({
      saddleUp: -Math.round(between(14, 24)),
      stemLength: 10 * Math.round(between(3, 5)),
    }),
  };
  const wrong = moves[misfit]();
  const rider = rideOn({ right, left }, good, wrong, habit);
  if (!rider) return null;
  const bike = applyMoves(good, wrong);
  return {
    misfit,
    rider,
    bike,
    body: bodyOf(right, shorter),
    intake: { ...BLANK_INTAKE, discipline: 'gravel', experience: 'years', ageYears: 40 },
    habit,
    fewest: misfit === 'height and reach' ? 2 : 1,
  };
}
