import type { Band } from './judge.ts';

/** The measures that the starting protocols set a band for: from the side, the last from the front or the rear. */
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
  'effectiveSeatAngleDeg',
  'shoulderAboveMidBackMm',
  'headAboveBackMm',
  'kneePathWidthMm',
] as const;
export type MeasureKey = (typeof MEASURE_KEYS)[number];

export const isMeasureKey = (key: string): key is MeasureKey =>
  (MEASURE_KEYS as readonly string[]).includes(key);

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
  hipVerticalTravelMm: 'Hip sticker’s travel, vertical',
  effectiveSeatAngleDeg: 'Seat angle at the hip',
  shoulderAboveMidBackMm: 'Shoulder above mid-back',
  headAboveBackMm: 'Head above the back',
  kneePathWidthMm: 'Knee path width',
};

/** How the rider uses the foot: reported, judged with the knee, and never a reason to turn a bolt (handbook: targets). */
export const HABITS: readonly MeasureKey[] = ['footPitch90Deg', 'footPitch180Deg', 'ankleRangeDeg'];
/** Reported beside what is usual: out of it is no finding. */
const REPORTED: readonly MeasureKey[] = ['effectiveSeatAngleDeg'];
/** Compared with the rider's own first: out of it alone moves nothing. */
const AGAINST_ONESELF: readonly MeasureKey[] = ['hipVerticalTravelMm', 'kneeFlexionMaxDeg'];
/** Whether a measure by itself may call for a change. */
export const callsForChange = (key: MeasureKey): boolean =>
  !HABITS.includes(key) && !REPORTED.includes(key) && !AGAINST_ONESELF.includes(key);

export interface Protocol {
  id: string;
  /** Counts up with every change that is kept. */
  revision: number;
  name: string;
  /** Hand position. */
  position: string;
  /** Where both ends are open nothing is asked of the measure. */
  bands: Record<MeasureKey, Band>;
  reason: string;
  source: string;
  date: string;
  /** Why a band is where it is; the measure's usual reason where nothing stands. */
  reasons: Partial<Record<MeasureKey, string>>;
}

const within = (low: number, high: number): Band => ({ low, high });
const atMost = (high: number): Band => ({ low: null, high });
const atLeast = (low: number): Band => ({ low, high: null });

const OPEN: Band = { low: null, high: null };

const COMMON = {
  revision: 1,
  reasons: {},
  source: 'Starting bands of the house handbook, filmed while pedalling; for a rider without injury.',
  date: '2026-11-28T00:00:00.000Z',
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
      kneeFlexionMaxDeg: atMost(118),
      hipAngleMinDeg: atLeast(55),
      backAngleDeg: within(42, 55),
      shoulderAngleDeg: within(70, 90),
      elbowFlexionDeg: within(15, 30),
      footPitch90Deg: within(-5, 15),
      footPitch180Deg: within(3, 28),
      ankleRangeDeg: within(15, 35),
      kneeOverSpindleMm: within(-25, 5),
      hipVerticalTravelMm: atMost(30),
      effectiveSeatAngleDeg: within(73, 77),
      shoulderAboveMidBackMm: OPEN,
      headAboveBackMm: OPEN,
      kneePathWidthMm: atMost(35),
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
      kneeFlexionMaxDeg: atMost(118),
      hipAngleMinDeg: atLeast(48),
      backAngleDeg: within(35, 46),
      shoulderAngleDeg: within(75, 92),
      elbowFlexionDeg: within(15, 35),
      footPitch90Deg: within(-5, 15),
      footPitch180Deg: within(5, 30),
      ankleRangeDeg: within(15, 35),
      kneeOverSpindleMm: within(-20, 5),
      hipVerticalTravelMm: atMost(30),
      effectiveSeatAngleDeg: within(73, 77),
      shoulderAboveMidBackMm: OPEN,
      headAboveBackMm: OPEN,
      kneePathWidthMm: atMost(35),
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
      kneeFlexionMaxDeg: atMost(118),
      hipAngleMinDeg: atLeast(40),
      backAngleDeg: within(5, 18),
      shoulderAngleDeg: within(80, 100),
      elbowFlexionDeg: within(75, 100),
      footPitch90Deg: within(0, 18),
      footPitch180Deg: within(8, 30),
      ankleRangeDeg: within(12, 35),
      kneeOverSpindleMm: within(0, 70),
      hipVerticalTravelMm: atMost(26),
      effectiveSeatAngleDeg: within(77, 83),
      shoulderAboveMidBackMm: atMost(0),
      headAboveBackMm: atMost(60),
      kneePathWidthMm: atMost(35),
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
      kneeFlexionMaxDeg: atMost(116),
      hipAngleMinDeg: atLeast(65),
      backAngleDeg: within(55, 80),
      shoulderAngleDeg: within(35, 65),
      elbowFlexionDeg: within(10, 25),
      footPitch90Deg: within(-8, 12),
      footPitch180Deg: within(0, 25),
      ankleRangeDeg: within(15, 35),
      kneeOverSpindleMm: within(-40, 0),
      hipVerticalTravelMm: atMost(34),
      effectiveSeatAngleDeg: within(71, 76),
      shoulderAboveMidBackMm: OPEN,
      headAboveBackMm: OPEN,
      kneePathWidthMm: atMost(40),
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
      kneeFlexionMaxDeg: atMost(118),
      hipAngleMinDeg: atLeast(55),
      backAngleDeg: within(45, 60),
      shoulderAngleDeg: within(65, 90),
      elbowFlexionDeg: within(15, 35),
      footPitch90Deg: within(-8, 12),
      footPitch180Deg: within(0, 20),
      ankleRangeDeg: within(15, 35),
      kneeOverSpindleMm: within(-25, 10),
      hipVerticalTravelMm: atMost(32),
      effectiveSeatAngleDeg: within(73, 78),
      shoulderAboveMidBackMm: OPEN,
      headAboveBackMm: OPEN,
      kneePathWidthMm: atMost(40),
    },
  },
];

/** The protocol of an id; the long-distance one where the id is unknown (data from elsewhere). */
export function protocolById(id: string): Protocol {
  return PROTOCOLS.find((p) => p.id === id) ?? PROTOCOLS[0];
}

/** Why each measure is asked for, where the protocol has no reason of its own. */
export const MEASURE_REASONS: Record<MeasureKey, string> = {
  kneeFlexionMinDeg:
    'Too straight rocks the pelvis and pulls at the back of the knee; too bent loads its front.',
  kneeFlexionMaxDeg:
    'Deep bend under load presses the kneecap; by itself no reason to move or to buy anything.',
  hipAngleMinDeg: 'A closed hip pinches, and rocks the low back at the top of the stroke.',
  backAngleDeg: 'How far the trunk may lean before the low back rounds and the hands carry too much.',
  shoulderAngleDeg: 'Reach: arms neither under the trunk nor stretched from it.',
  elbowFlexionDeg: 'A bend that can give; locked elbows pass every jolt to neck and hands.',
  footPitch90Deg: 'The foot as it pushes: near level; a habit, and no bolt is turned for it.',
  footPitch180Deg: 'A habit, judged with the knee: pointing toes may hide a saddle that is too high.',
  ankleRangeDeg:
    'A habit, worth mentioning and no reason to move anything: much ankling reaches, little is a stiff ankle or a held foot.',
  kneeOverSpindleMm: 'Where the knee pushes from: fore-aft of the saddle.',
  hipVerticalTravelMm:
    'A hip that rocks more than before reaches for the pedal; the sticker’s own sliding is in it, so against oneself first.',
  effectiveSeatAngleDeg:
    'How far the rider sits behind the bottom bracket, wherever the saddle is clamped: reported, no reason to move.',
  shoulderAboveMidBackMm: 'On the extensions the shoulders come no higher than the back.',
  headAboveBackMm: 'On the extensions the head stays near the line of the back.',
  kneePathWidthMm: 'A knee that swings sideways is guided badly by foot, stance or hip.',
};
