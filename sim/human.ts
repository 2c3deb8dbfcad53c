import type { Vec2 } from '../core/math/vec.ts';
import { trueFigures } from './measured.ts';
import { gaussian } from './random.ts';
import type { JointKey, VirtualRider } from './rider.ts';

/** Palpation: how far a sticker stands from its bone, SD in each direction, mm (handbook: how people pedal, stickers). */
const PALPATION_SD_MM: Record<JointKey, number> = {
  hip: 13,
  shoulder: 10,
  knee: 8,
  elbow: 6,
  ankle: 5,
  wrist: 5,
  heel: 3,
  toe: 3,
};

/** Stickers as a fitter puts them on one side of a rider. */
export const stickOn = (random: () => number, times = 1): Record<JointKey, Vec2> =>
  Object.fromEntries(
    Object.entries(PALPATION_SD_MM).map(([key, sd]) => [
      key,
      { x: times * sd * gaussian(random), y: times * sd * gaussian(random) },
    ]),
  ) as Record<JointKey, Vec2>;

/** Where a rider is to sit, and how the hands are to be placed; degrees and mm. */
export interface Sitting {
  kneeFlexionMinDeg: number;
  kneeOverSpindleMm: number;
  backDeg: number;
  shoulderDeg: number;
  elbowFlexionDeg: number;
}

const between = (random: () => number, a: number, b: number): number => a + (b - a) * random();

/** Moves the hip until knee and plumb line are where they are wanted: about 0.37° a millimetre up, 0.9 mm a millimetre forward. */
export function seated(
  rider: VirtualRider,
  at: Pick<Sitting, 'kneeFlexionMinDeg' | 'kneeOverSpindleMm'>,
): VirtualRider | null {
  let now = rider;
  try {
    for (let i = 0; i < 12; i += 1) {
      const t = trueFigures(now, 72);
      const [knee, over] = [
        t.kneeFlexionMinDeg - at.kneeFlexionMinDeg,
        t.kneeOverSpindleMm - at.kneeOverSpindleMm,
      ];
      if (Math.abs(knee) < 0.02 && Math.abs(over) < 0.1) return now;
      now = { ...now, hipMm: { x: now.hipMm.x - over / 0.9, y: now.hipMm.y + knee / 0.42 } };
    }
    return now;
  } catch {
    return null;
  }
}

/** The three ways to hold the foot: how far it points on the mean, and how far it swings (handbook: how people pedal). */
const STYLES = {
  ordinary: { mean: [12, 22], swing: [9, 15] },
  flat: { mean: [6, 10], swing: [5.5, 7] },
  pointing: { mean: [24, 32], swing: [9, 13] },
} as const;
export type Style = keyof typeof STYLES;

/** A body of human measure with a human way to pedal, not yet seated. */
export function randomBody(random: () => number, style: Style = 'ordinary'): VirtualRider {
  const thighMm = between(random, 385, 455);
  const shankMm = thighMm * between(random, 0.97, 1.03);
  const legMm = thighMm + shankMm;
  const { mean, swing } = STYLES[style];
  const peakDeg = between(random, 262, 293);
  return {
    crankMm: Math.min(180, Math.max(160, 2.5 * Math.round((0.208 * (legMm - 30)) / 2.5))),
    thighMm,
    shankMm,
    ankleBehindMm: between(random, 114, 134),
    ankleAboveMm: between(random, 88, 102),
    soleAboveMm: between(random, 20, 28),
    heelBehindMm: between(random, 155, 175),
    shoeTipMm: 80,
    hipMm: { x: -0.235 * legMm, y: 0.845 * legMm },
    hipRockX: [{ order: 1, amplitude: between(random, 1.5, 2.5), phaseDeg: between(random, 0, 360) }],
    hipRockY: [
      { order: 1, amplitude: between(random, 2.5, 5), phaseDeg: between(random, 75, 110) },
      { order: 2, amplitude: between(random, 0.3, 1), phaseDeg: between(random, 0, 360) },
    ],
    footPitchMeanDeg: between(random, mean[0], mean[1]),
    footPitch: [
      { order: 1, amplitude: between(random, swing[0], swing[1]), phaseDeg: 90 - peakDeg },
      { order: 2, amplitude: between(random, 0.5, 2), phaseDeg: between(random, 0, 360) },
    ],
    trunkMm: between(random, 445, 510),
    backDeg: 48,
    upperArmMm: between(random, 265, 305),
    forearmMm: between(random, 235, 270),
    shoulderDeg: 80,
    elbowFlexionDeg: 22,
    cadenceRpm: between(random, 78, 95),
    startThetaDeg: between(random, 0, 360),
    unevenness: between(random, 0.015, 0.03),
    wanderDeg: between(random, 1, 1.6),
    wanderSeed: 1 + Math.floor(1e6 * random()),
    foreshortening: between(random, 0.006, 0.014),
    hipSkinMm: between(random, 20, 28),
  };
}

/** Body and saddle together in the ranges of people (handbook: how people pedal): knee, hip and ankle through the stroke. */
function isHuman(rider: VirtualRider): boolean {
  const t = trueFigures(rider, 72);
  const knee = t.kneeFlexionMaxDeg - t.kneeFlexionMinDeg;
  const hip = t.hipAngleMaxDeg - t.hipAngleMinDeg;
  return knee >= 66 && knee <= 80 && hip >= 36 && hip <= 49 && t.ankleRangeDeg >= 12 && t.ankleRangeDeg <= 36;
}

/** One in twelve is flat-footed, one in twelve points the toes. */
const styleOf = (u: number): Style => (u < 1 / 12 ? 'flat' : u < 2 / 12 ? 'pointing' : 'ordinary');

/** A rider who sits where he or she is comfortable: knee 35.5–39.5°, knee over spindle −18…−2 mm, back 45–52°; null where no human. */
export function comfortable(random: () => number, more: Partial<Sitting> = {}): VirtualRider | null {
  const body = randomBody(random, styleOf(random()));
  const at: Sitting = {
    kneeFlexionMinDeg: between(random, 35.5, 39.5),
    kneeOverSpindleMm: between(random, -18, -2),
    backDeg: between(random, 45, 52),
    shoulderDeg: between(random, 74, 86),
    elbowFlexionDeg: between(random, 18, 27),
    ...more,
  };
  const rider = seated({ ...body, ...pickArms(at) }, at);
  return rider && isHuman(rider) ? rider : null;
}

/** The next such rider of a row that is a human. */
export function nextComfortable(random: () => number): VirtualRider {
  for (;;) {
    const rider = comfortable(random);
    if (rider) return rider;
  }
}

const pickArms = ({ backDeg, shoulderDeg, elbowFlexionDeg }: Sitting) => ({
  backDeg,
  shoulderDeg,
  elbowFlexionDeg,
});

/**
 * The same rider off the bike and on again: sits elsewhere, holds foot, back and arms a little otherwise; the hands come to rest where
 * they are easy on the hoods, some millimetres from where they were (handbook: how people pedal, ride to ride).
 */
export const satAnew = (rider: VirtualRider, random: () => number): VirtualRider => ({
  ...rider,
  hipMm: { x: rider.hipMm.x + 4 * gaussian(random), y: rider.hipMm.y + 2 * gaussian(random) },
  footPitchMeanDeg: rider.footPitchMeanDeg + 1.3 * gaussian(random),
  backDeg: rider.backDeg + gaussian(random),
  shoulderDeg: rider.shoulderDeg + gaussian(random),
  elbowFlexionDeg: Math.max(4, rider.elbowFlexionDeg + 1.8 * gaussian(random)),
  startThetaDeg: 360 * random(),
  wanderSeed: 1 + Math.floor(1e6 * random()),
});

/** The other leg of the same rider: foot and hip a little otherwise, without harm. */
export function otherLeg(rider: VirtualRider, random: () => number): VirtualRider {
  return {
    ...rider,
    footPitchMeanDeg: rider.footPitchMeanDeg + between(random, 1, 3) * (random() < 0.5 ? -1 : 1),
    hipMm: { x: rider.hipMm.x + 2 * gaussian(random), y: rider.hipMm.y + 1.5 * gaussian(random) },
    wanderSeed: (rider.wanderSeed ?? 1) + 17,
    hipSkinMm: (rider.hipSkinMm ?? 0) * between(random, 0.9, 1.1),
  };
}
