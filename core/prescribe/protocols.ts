import type { Band } from './judge.ts';

/** The measures that the starting protocols set a band for and that the side view gives. */
export const MEASURE_KEYS = [
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
  'hipVerticalTravelMm',
] as const;
export type MeasureKey = (typeof MEASURE_KEYS)[number];

export const MEASURE_NAMES: Record<MeasureKey, string> = {
  kneeFlexionMinDeg: 'Knee at its straightest',
  kneeFlexionMaxDeg: 'Knee at its most bent',
  hipAngleMinDeg: 'Hip at its most closed',
  backAngleDeg: 'Back above horizontal',
  shoulderAngleDeg: 'Trunk to upper arm',
  elbowFlexionDeg: 'Elbow bend',
  footPitch90Deg: 'Foot pitch, crank forward',
  footPitch180Deg: 'Foot pitch, crank at bottom',
  ankleRangeDeg: 'Ankle range',
  kneeOverSpindleMm: 'Knee over spindle',
  hipVerticalTravelMm: 'Hip travel, vertical',
};

export interface Protocol {
  id: string;
  name: string;
  /** Where the hands are. */
  position: string;
  bands: Record<MeasureKey, Band>;
  reason: string;
  source: string;
  date: string;
}

const within = (low: number, high: number): Band => ({ low, high });
const atMost = (high: number): Band => ({ low: null, high });
const atLeast = (low: number): Band => ({ low, high: null });

const COMMON = {
  source: 'Starting bands of the house handbook, filmed while pedalling; for a rider without injury.',
  date: '2026-11-23',
};

/** The five starting protocols (handbook: targets). Knee and elbow figures are flexion (bend). */
export const PROTOCOLS: readonly Protocol[] = [
  {
    id: 'long-distance',
    name: 'Long-distance and gravel',
    position: 'on the hoods',
    reason:
      'Hours in one posture: an open hip and a back that need not be held; a little more knee bend forgives rough ground.',
    ...COMMON,
    bands: {
      kneeFlexionMinDeg: within(33, 42),
      kneeFlexionMaxDeg: atMost(115),
      hipAngleMinDeg: atLeast(55),
      backAngleDeg: within(42, 55),
      shoulderAngleDeg: within(70, 90),
      elbowFlexionDeg: within(15, 30),
      footPitch90Deg: within(-5, 15),
      footPitch180Deg: within(8, 28),
      ankleRangeDeg: within(12, 35),
      kneeOverSpindleMm: within(-25, 5),
      hipVerticalTravelMm: atMost(18),
    },
  },
  {
    id: 'road-race',
    name: 'Road race',
    position: 'on the hoods',
    reason: 'Power and a lower trunk for riders whose hamstrings and hips allow it.',
    ...COMMON,
    bands: {
      kneeFlexionMinDeg: within(32, 40),
      kneeFlexionMaxDeg: atMost(116),
      hipAngleMinDeg: atLeast(48),
      backAngleDeg: within(35, 46),
      shoulderAngleDeg: within(75, 92),
      elbowFlexionDeg: within(15, 35),
      footPitch90Deg: within(-5, 15),
      footPitch180Deg: within(10, 30),
      ankleRangeDeg: within(12, 35),
      kneeOverSpindleMm: within(-20, 5),
      hipVerticalTravelMm: atMost(18),
    },
  },
  {
    id: 'time-trial',
    name: 'Time trial and pursuit',
    position: 'on the extensions',
    reason: 'Low and forward: the hip angle sets how far, and the saddle comes forward to keep it open.',
    ...COMMON,
    bands: {
      kneeFlexionMinDeg: within(34, 41),
      kneeFlexionMaxDeg: atMost(114),
      hipAngleMinDeg: atLeast(40),
      backAngleDeg: within(5, 18),
      shoulderAngleDeg: within(80, 100),
      elbowFlexionDeg: within(75, 100),
      footPitch90Deg: within(0, 18),
      footPitch180Deg: within(12, 30),
      ankleRangeDeg: within(10, 35),
      kneeOverSpindleMm: within(0, 70),
      hipVerticalTravelMm: atMost(15),
    },
  },
  {
    id: 'city',
    name: 'City and upright',
    position: 'on the grips',
    reason: 'Short rides, much stopping, a view of the traffic: upright, with the foot easily down.',
    ...COMMON,
    bands: {
      kneeFlexionMinDeg: within(30, 42),
      kneeFlexionMaxDeg: atMost(112),
      hipAngleMinDeg: atLeast(65),
      backAngleDeg: within(55, 80),
      shoulderAngleDeg: within(35, 65),
      elbowFlexionDeg: within(10, 25),
      footPitch90Deg: within(-8, 12),
      footPitch180Deg: within(5, 25),
      ankleRangeDeg: within(12, 35),
      kneeOverSpindleMm: within(-40, 0),
      hipVerticalTravelMm: atMost(22),
    },
  },
  {
    id: 'trail',
    name: 'Trail',
    position: 'on the grips',
    reason: 'Room to move over the bike: more bend at the knee, arms that can give.',
    ...COMMON,
    bands: {
      kneeFlexionMinDeg: within(34, 44),
      kneeFlexionMaxDeg: atMost(116),
      hipAngleMinDeg: atLeast(55),
      backAngleDeg: within(45, 60),
      shoulderAngleDeg: within(65, 90),
      elbowFlexionDeg: within(15, 35),
      footPitch90Deg: within(-8, 12),
      footPitch180Deg: within(0, 20),
      ankleRangeDeg: within(12, 35),
      kneeOverSpindleMm: within(-25, 10),
      hipVerticalTravelMm: atMost(20),
    },
  },
];

/** The protocol of an id; the long-distance one where the id is unknown (data from elsewhere). */
export function protocolById(id: string): Protocol {
  return PROTOCOLS.find((p) => p.id === id) ?? PROTOCOLS[0];
}
