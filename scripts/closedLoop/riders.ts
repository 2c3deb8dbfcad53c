import { UNMEASURED_BIKE, type BikeSetup } from '../../core/bike/setup.ts';
import { NOT_TESTED, UNTESTED_BODY, type BodyRecord } from '../../core/body/bodyTests.ts';
import { BLANK_INTAKE, type Complaint, type Intake, type RegionKey } from '../../core/intake/intake.ts';
import type { Effects } from '../../core/model/effects.ts';
import { applyMoves, effectsOf, type Moves } from '../../core/plan/controls/controls.ts';
import type { OnBike } from '../../core/suspects/onBike.ts';
import { ridden, type Felt, type Habit } from '../../sim/answer.ts';
import { comfortable, otherLeg, seated } from '../../sim/human.ts';
import { gaussian } from '../../sim/random.ts';
import { hoodMm, type VirtualRider } from '../../sim/rider.ts';

/** How the bike is made not to fit a rider whom it fitted. */
export const MISFITS = ['height', 'setback', 'reach', 'bar', 'height and reach'] as const;
export type Misfit = (typeof MISFITS)[number];

/** What the two legs and the trunk are truly doing. */
export interface Ridden {
  right: VirtualRider;
  left: VirtualRider;
}

/** A made-up rider on a made-up bike, with what only the simulation knows. */
export interface LoopCase {
  /** Null: the bike fits. */
  misfit: Misfit | null;
  /** By how much, and which way: what the plan should take back. */
  wrong: Moves;
  rider: Ridden;
  /** The rider as the bike fitted. */
  fitted: Ridden;
  bike: BikeSetup;
  body: BodyRecord;
  intake: Intake;
  onBike: OnBike;
  habit: Habit;
  /** The fewest things that put it right. */
  fewest: number;
}

/** A share between none and nearly all, about the usual one. */
const share = (mean: number, sd: number, random: () => number): number =>
  Math.min(0.9, Math.max(0, mean + sd * gaussian(random)));

/** The bike under a rider whom it fits. */
function bikeUnder(rider: VirtualRider): BikeSetup {
  const sit = { x: rider.hipMm.x - 25, y: rider.hipMm.y - 92 };
  const foot = {
    ...UNMEASURED_BIKE.feet.left,
    cleatBehindMm: 10,
    cleatOutwardMm: 0,
    heelOutDeg: -6,
    shoeSizeEu: 42,
  };
  return {
    ...UNMEASURED_BIKE,
    frame: {
      ...UNMEASURED_BIKE.frame,
      stackMm: Math.round(hoodMm(rider).y - 60),
      reachMm: 385,
      headAngleDeg: 72.5,
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
    stem: { ...UNMEASURED_BIKE.stem, lengthMm: 100, angleDeg: -6, spacersMm: 20, steererAboveMm: 20 },
    bar: { ...UNMEASURED_BIKE.bar, reachMm: 78, hoodRiseMm: 25, rotationDeg: 0 },
  };
}

/** The inseam by whose starts these legs bend by 37.5°, read with a tape and a book: ± 8 mm, and ± 10 mm of another's proportions. */
function bodyOf(rider: VirtualRider, random: () => number): BodyRecord {
  const right = seated(rider, { kneeFlexionMinDeg: 37.5, kneeOverSpindleMm: -10 }) ?? rider;
  const start = Math.hypot(right.hipMm.x - 25, right.hipMm.y - 92) + 10 * gaussian(random);
  return {
    ...UNTESTED_BODY,
    results: { inseam: { ...NOT_TESTED, both: Math.round(start / 0.883 + 4 * gaussian(random)) } },
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

const ache = (region: RegionKey, severity: number): Complaint => ({
  id: region,
  region,
  side: region === 'neck' || region === 'lowBack' || region === 'cramped' ? 'middle' : 'both',
  words: '',
  severity,
  onset: 'builds-up',
  since: '',
  eases: '',
  goneIso: null,
  carried: false,
});

/** What a misfit makes riders complain of, and what tests on the bike show of it; three in five complain. */
function complaining(wrong: Moves, random: () => number): { complaints: Complaint[]; onBike: OnBike } {
  const up = wrong.saddleUp ?? 0;
  const back = wrong.saddleBack ?? 0;
  const reach = wrong.stemLength ?? 0;
  const bar = wrong.spacers ?? 0;
  const complains = random() < 0.6;
  const say = (region: RegionKey | null): Complaint[] =>
    region && complains ? [ache(region, 3 + Math.floor(4 * random()))] : [];
  const onBike: OnBike = {};
  if (reach > 0 && random() < 0.7) onBike.reachTest = 'falls';
  if (reach > 0 && random() < 0.5) onBike.handsRest = 'behind';
  if (reach < 0 && random() < 0.7) onBike.reachTest = 'shrugs';
  if (bar < 0 && random() < 0.6) onBike.back = 'round';
  if (back < 0 && random() < 0.6) onBike.handsOff = 'falls';
  return {
    complaints: [
      ...say(
        up < 0
          ? 'kneeFront'
          : up > 0
            ? 'kneeBehind'
            : back > 0
              ? 'kneeBehind'
              : back < 0
                ? 'kneeFront'
                : null,
      ),
      ...say(reach > 0 ? 'neck' : reach < 0 ? 'cramped' : bar < 0 ? 'lowBack' : null),
    ],
    onBike,
  };
}

/** A random rider of human kind: on a bike that fits, or moved under him or her by one misfit or two. */
export function randomCase(misfit: Misfit | null, random: () => number): LoopCase | null {
  const right = comfortable(random);
  if (!right) return null;
  const between = (a: number, b: number): number => a + (b - a) * random();
  const either = (a: number, b: number): number => Math.round(between(a, b)) * (random() < 0.5 ? -1 : 1);
  const habit: Habit = { kappa: share(0.35, 0.2, random), rho: share(0.5, 0.25, random) };
  const fitted: Ridden = { right, left: otherLeg(right, random) };
  const good = bikeUnder(right);
  const moves: Record<Misfit, () => Moves> = {
    height: () => ({ saddleUp: either(18, 28) }),
    setback: () => ({ saddleBack: either(25, 36) }),
    reach: () => ({ stemLength: either(30, 45) }),
    bar: () => ({ spacers: -Math.round(between(30, 45)) }),
    'height and reach': () => ({
      saddleUp: -Math.round(between(18, 26)),
      stemLength: Math.round(between(30, 42)),
    }),
  };
  const wrong = misfit ? moves[misfit]() : {};
  const rider = rideOn(fitted, good, wrong, habit);
  if (!rider) return null;
  const moved = applyMoves(good, wrong);
  // A stem and spacers as they are sold: the misfit is in the frame, the front on it is a usual one.
  const bike: BikeSetup = { ...moved, stem: { ...moved.stem, lengthMm: 100, spacersMm: 20 } };
  const { complaints, onBike } = complaining(wrong, random);
  return {
    misfit,
    wrong,
    rider,
    fitted,
    bike,
    body: bodyOf(right, random),
    intake: { ...BLANK_INTAKE, discipline: 'gravel', experience: 'years', ageYears: 40, complaints },
    onBike,
    habit,
    fewest: misfit === 'height and reach' ? 2 : misfit ? 1 : 0,
  };
}
