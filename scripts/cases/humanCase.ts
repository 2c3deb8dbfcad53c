import { parseCase, planReport, type CaseReadings } from '../../core/formats/planCase.ts';
import { readTracks } from '../../core/kinematics/read.ts';
import { filmed, FILMED_MM_PER_PX } from '../../sim/filmed.ts';
import { seated, stickOn } from '../../sim/human.ts';
import { seededRandom } from '../../sim/random.ts';
import { hoodMm, type JointKey, type VirtualRider } from '../../sim/rider.ts';
import { ridden, type Felt } from '../../sim/answer.ts';
import { fromToWords } from '../../app/ui/words/moveText.ts';

/** A rider of human kind, as the handbook's cases have them: knee 37°, knee over spindle −12 unless said. */
const WELL: VirtualRider = {
  crankMm: 172.5,
  thighMm: 428,
  shankMm: 430,
  ankleBehindMm: 124,
  ankleAboveMm: 95,
  soleAboveMm: 24,
  heelBehindMm: 166,
  shoeTipMm: 80,
  hipMm: { x: -202, y: 725 },
  hipRockX: [{ order: 1, amplitude: 2, phaseDeg: 30 }],
  hipRockY: [{ order: 1, amplitude: 3.5, phaseDeg: 95 }],
  footPitchMeanDeg: 16,
  footPitch: [
    { order: 1, amplitude: 12, phaseDeg: 175 },
    { order: 2, amplitude: 1, phaseDeg: 60 },
  ],
  trunkMm: 480,
  backDeg: 48.5,
  upperArmMm: 285,
  forearmMm: 255,
  shoulderDeg: 80,
  elbowFlexionDeg: 22,
  cadenceRpm: 88,
  startThetaDeg: 40,
  unevenness: 0.02,
  wanderDeg: 1.2,
  wanderSeed: 5,
  foreshortening: 0.01,
  hipSkinMm: 22,
};

export const well = (
  more: Partial<VirtualRider> = {},
  at = { kneeFlexionMinDeg: 37, kneeOverSpindleMm: -12 },
): VirtualRider => {
  const rider = seated({ ...WELL, ...more }, at);
  if (!rider) throw new Error('This rider cannot reach.');
  return rider;
};

/** The rider after the bike was moved under him or her, answering as most do. */
export function moved(rider: VirtualRider, felt: Partial<Felt>): VirtualRider {
  const out = ridden(
    rider,
    { sitMm: { x: 0, y: 0 }, handMm: { x: 0, y: 0 }, crankMm: 0, cleatBackMm: 0, stackMm: 0, ...felt },
    { kappa: 0.35, rho: 0.5 },
  );
  if (!out) throw new Error('This rider cannot reach.');
  return out;
}

const SEAT = (73 * Math.PI) / 180;
/** What the body feels of a saddle up along the seat tube, and back on its rails. */
export const saddle = (up: number, back = 0): Partial<Felt> => ({
  sitMm: { x: -up * Math.cos(SEAT) - back, y: up * Math.sin(SEAT) },
});

/** A bike that holds this rider, by tape: saddle under the hip, stem and bar to the hood. */
export function bikeOf(rider: VirtualRider): Record<string, Record<string, unknown>> {
  const sit = { x: rider.hipMm.x - 25, y: rider.hipMm.y - 92 };
  const hood = hoodMm(rider);
  const foot = { cleatBehindMm: 10, cleatOutwardMm: 0, heelOutDeg: -6, shoeSizeEu: 43 };
  return {
    frame: {
      stackMm: Math.min(780, Math.max(360, Math.round(hood.y - 60))),
      reachMm: 385,
      headAngleDeg: 72.5,
      seatAngleDeg: 73,
    },
    crank: { lengthMm: rider.crankMm, qFactorMm: 150 },
    pedals: { axleLengthMm: 53, stackMm: 11 },
    feet: { left: foot, right: foot },
    saddle: {
      heightMm: Math.round(Math.hypot(sit.x, sit.y)),
      setback80Mm: Math.round(-sit.x),
      tiltDeg: 0,
      widthMm: 148,
    },
    stem: { lengthMm: 100, angleDeg: -6, spacersMm: 20 },
    bar: { widthMm: 420, reachMm: 78, hoodRiseMm: 25, dropMm: 125, rotationDeg: 0 },
  };
}

/** The inseam whose schools' starts put the saddle where a well-fitted rider of these legs has it. */
export const inseamOf = (rider: VirtualRider): number => {
  const fitted = seated(rider, { kneeFlexionMinDeg: 37, kneeOverSpindleMm: -12 })!;
  return Math.round(Math.hypot(fitted.hipMm.x - 25, fitted.hipMm.y - 92) / 0.883);
};

export interface HumanCase {
  right?: VirtualRider;
  left?: VirtualRider;
  visit?: Record<string, unknown>;
  parts?: unknown[];
  /** Stickers beside the bone by so many times the usual; 0 puts them on it. */
  stickers?: number;
  seed?: number;
  levelDeg?: number;
  /** Landmarks that were never seen. */
  lost?: readonly string[];
}

export interface Answer {
  measures: {
    key: string;
    side: string;
    value: number;
    uncertainty: number;
    verdict: string;
    pOut: number;
  }[];
  suspects: {
    complaint: string;
    side: string;
    list: { key: string; score: number; for: string[]; against: string[] }[];
  }[];
  now: AnswerLine[];
  later: AnswerLine[];
  try: AnswerLine[];
  ask: { question: string; because: string }[];
  conflicts: string[];
  heldBack: string[];
  cautions: string[];
  leaveAlone: boolean;
}
export interface AnswerLine {
  key: string;
  p: number;
  moves: Record<string, number>;
  why: string[];
  title: string | null;
  check: string;
  risk: string[];
  predicted: { key: string; before: number; after: number; low: number; high: number }[];
}

/** A case as the command line takes it, filmed at track level and answered by the same functions. */
export function answer(of: HumanCase): Answer {
  const raw = { visit: of.visit ?? {}, films: [], ...(of.parts && { parts: of.parts }) };
  const parsed = parseCase(raw);
  if (!parsed.ok) throw new Error(parsed.message);
  const random = seededRandom(of.seed ?? 1);
  const readings: CaseReadings = { right: [], left: [], frontal: null };
  for (const side of ['right', 'left'] as const) {
    const rider = of[side];
    if (!rider) continue;
    const tracks = filmed({
      rider,
      seconds: 6,
      noisePx: 0.2,
      facing: side,
      seed: 1 + Math.floor(1e6 * random()),
      stickerOffMm: stickOn(random, of.stickers ?? 0) as Partial<Record<JointKey, { x: number; y: number }>>,
      stickersTurn: true,
    });
    for (const key of of.lost ?? []) delete (tracks.landmarks as Record<string, unknown>)[key];
    const reading = readTracks(tracks, {
      mmPerPx: FILMED_MM_PER_PX,
      crankMm: rider.crankMm,
      ...(of.levelDeg !== undefined && { levelDeg: of.levelDeg }),
    });
    if (!reading.ok) throw new Error(reading.detail);
    readings[side].push(reading);
  }
  return planReport(parsed.value, readings, fromToWords) as Answer;
}
