import { turnDeg } from '../math/angles.ts';
import type { PlanePoint, ImagePoint } from '../math/vec.ts';
import type { HarmonicCurve } from '../math/harmonics.ts';
import { median } from '../math/statistics.ts';
import {
  ANGLE_KEYS,
  OPTIONAL_ANGLE_KEYS,
  jointAngleDeg,
  landmarksOf,
  type AnyAngleKey,
  type Joints,
  type SideKey,
} from './angles.ts';
import { estimatedSdMm } from './estimated.ts';
import { readBody, type BodyReading, type OverStrokes } from './bodyReading.ts';
import { crankAngles } from './crank.ts';
import { curveOverStrokes, type CurveReading } from './curves.ts';
import type { Keystone } from '../camera/keystone.ts';
import { plainName, SIDE_LANDMARKS, SIDE_OPTIONAL, type SideLandmark } from '../landmarks/landmarks.ts';
import { locateCrank, turnsBackwards } from './locateCrank.ts';
import {
  bringToPlane,
  cutoffFor,
  noteNoise,
  ownStamps,
  smoothPaths,
  type LandmarkNote,
  type Paths,
} from './paths.ts';
import { facingOf, fromPlane, toPlane, type PlaneMap } from '../camera/plane.ts';
import { legIsReadable, MAY_BE_MISSING, standIns } from './standIns.ts';
import { cutStrokes, ENOUGH_STROKES, framesByStroke, type Stroke } from './strokes.ts';
import { framesInStrokes, framesSeen, withoutLandmarks, type Tracks } from '../tracking/tracks.ts';
import {
  combineUncertainty,
  LEVEL_SD_DEG,
  LEVEL_UNKNOWN_SD_DEG,
  type AngleUncertainty,
} from './uncertainty.ts';

export interface ReadOptions {
  /** In the bike's plane, from the axles or typed. */
  mmPerPx: number;
  /** Left out where nothing tells the level: then it is taken as level, with the doubt of one that is not known. */
  levelDeg?: number;
  /** Left out: taken from the body itself. */
  facing?: 'left' | 'right';
  /** How far the camera is from square, from the wheels. */
  keystone?: Keystone;
  /** True crank length, mm: brings the rider's side, which is nearer the camera than the axles, to its own scale. */
  crankMm?: number;
  /** The joints are where the pose model sees them, without stickers: each ± is larger. */
  estimated?: boolean;
}

export interface AngleReading extends CurveReading {
  uncertainty: AngleUncertainty;
}

export interface Reading {
  ok: true;
  map: PlaneMap;
  crank: {
    centrePx: ImagePoint;
    radiusPx: number;
    residualPx: number;
    /** Spindle from the toe landmark in the foot's frame, mm; NaN when the spindle itself was marked. */
    spindleFromToeMm: PlanePoint;
    /** Crank length as the axle scale measures it, and against the true one when that is known (1 = agrees). */
    measuredMm: number;
    ratio: number | null;
  };
  /** Scale on the rider's side of the bike, after the crank's correction. */
  riderMmPerPx: number;
  /** Unwrapped crank angle of every frame, degrees. */
  thetaDeg: Float64Array;
  tS: Float64Array;
  /** Which of the tracks' frames each entry above is: doubled stamps are left out. */
  frames: Int32Array;
  /** Each frame's angles, lightly smoothed, for the overlay and the tables. */
  frameAnglesDeg: Partial<Record<AnyAngleKey, Float64Array>>;
  strokes: Stroke[];
  usedStrokes: number;
  /** Fewer than five strokes: shown as provisional. */
  provisional: boolean;
  /** Where the joints are the pose model's own, without stickers, how far they may stand from the bone; then every figure is an estimate. */
  estimatedSdMm: Record<SideKey, number> | null;
  cadenceRpm: number;
  /** Those whose landmarks were seen. */
  angles: Partial<Record<AnyAngleKey, AngleReading>>;
  body: BodyReading;
  landmarks: Partial<Record<SideKey, LandmarkNote>>;
  /** Landmarks that were not seen: their paths in `body` are made up from the others, for the model alone. */
  standIns: readonly SideLandmark[];
  /** Foot pitch on the crank's turn for the leg model; of a foot whose heel or toe was not seen, by the usual shoe. */
  footPitchCurveDeg: HarmonicCurve;
  /** Hip and spindle about the bottom bracket on the crank's turn, mm, for the leg model. */
  hipCurveMm: { x: HarmonicCurve; y: HarmonicCurve };
  /** Medians over the used frames, mm: the rider's own segments. */
  segmentsMm: { thigh: number; shank: number; ankleBehind: number; ankleAbove: number; crank: number };
}

export type ReadResult =
  | Reading
  | {
      ok: false;
      reason: 'too-few-frames' | 'no-crank' | 'no-stroke' | 'backwards' | 'landmark-missing';
      detail: string;
    };

/** Quoted as means over the turn. */
const MEANS: readonly AnyAngleKey[] = [
  'backAngleDeg',
  'shoulderAngleDeg',
  'elbowFlexionDeg',
  'forearmAngleDeg',
  'pelvisAngleDeg',
];

type SidePaths = Paths<SideKey>;
type SideSet = Record<SideKey, PlanePoint[]>;

/** Seen on fewer frames than this a landmark counts as not there. */
const LEAST_FRAMES = 12;
const SIDE_KEYS: readonly SideKey[] = [...SIDE_LANDMARKS, ...SIDE_OPTIONAL];

const jointsAt = (set: SideSet, i: number): Joints =>
  Object.fromEntries(Object.entries(set).map(([key, p]) => [key, p[i]]));

/** The landmarks' paths in the bike's plane, with made-up ones for those that were not seen. */
function pathsOf(tracks: Tracks, seen: readonly SideKey[], map: PlaneMap): SidePaths {
  const paths = bringToPlane(tracks, seen, (p) => toPlane(map, p));
  return { ...paths, raw: { ...paths.raw, ...(paths.tS.length > 0 && standIns(paths.raw)) } };
}

/** What of the leg can't be read, in words. */
const legMissing = (lost: readonly SideLandmark[]): string =>
  `Seen on no frame, or on too few: ${lost.map(plainName).join(', ')}. ${MAY_BE_MISSING}`;

const refused = (reason: Exclude<ReadResult, Reading>['reason'], detail: string): ReadResult => ({
  ok: false,
  reason,
  detail,
});

/** The pedal's circle in the bike's plane, and the landmarks' paths at the scale of the rider's side. */
interface AtScale {
  map: PlaneMap;
  paths: SidePaths;
  crank: NonNullable<ReturnType<typeof locateCrank>>;
  /** As the scale of the axles measures it, mm, and against the true one. */
  measuredMm: number;
  ratio: number | null;
}

/** Brings the landmarks to the plane, and to the scale at which the crank has its true length; null where there is no circle. */
function broughtToScale(tracks: Tracks, seen: readonly SideKey[], options: ReadOptions): AtScale | null {
  const map: PlaneMap = {
    facing: options.facing ?? facingOf(tracks),
    mmPerPx: options.mmPerPx,
    levelDeg: options.levelDeg ?? 0,
    ...(options.keystone && { keystone: options.keystone }),
  };
  const toeSeen = seen.includes('toe') || seen.includes('spindle');
  const paths = pathsOf(tracks, seen, map);
  const crank = locateCrank(paths, toeSeen);
  if (!crank) return null;
  const measuredMm = crank.circle.radius;
  const ratio = options.crankMm ? measuredMm / options.crankMm : null;
  // The near foot stands some 17 cm nearer the camera than the axles, so it looks 2 to 6 % larger. Beyond that the typed
  // lengths are wrong, and correcting would hide it.
  const nearer = ratio !== null && toeSeen && ratio > 0.985 && ratio < 1.07;
  if (!nearer) return { map, paths, crank, measuredMm, ratio };
  const own = { ...map, mmPerPx: options.mmPerPx / ratio };
  const ownPaths = pathsOf(tracks, seen, own);
  return { map: own, paths: ownPaths, crank: locateCrank(ownPaths, toeSeen) ?? crank, measuredMm, ratio };
}

/** The strokes of a film with the landmarks on them: what every angle is read from. */
interface OnStrokes {
  seen: readonly SideKey[];
  raw: SideSet;
  smooth: SideSet;
  thetaDeg: Float64Array;
  strokeOf: Int32Array;
  over: OverStrokes;
  noiseMm: number;
  strokes: number;
  levelSdDeg: number;
  estimatedSdMm: Record<SideKey, number> | null;
}

/** Every angle whose landmarks were seen, over the strokes and on each frame. */
function readAngles(of: OnStrokes): Pick<Reading, 'angles' | 'frameAnglesDeg'> {
  const rawJoints = Array.from(of.thetaDeg, (_, i) => jointsAt(of.raw, i));
  const smoothJoints = Array.from(of.thetaDeg, (_, i) => jointsAt(of.smooth, i));
  const frameAnglesDeg: Reading['frameAnglesDeg'] = {};
  const angles: Reading['angles'] = {};
  for (const key of [...ANGLE_KEYS, ...OPTIONAL_ANGLE_KEYS]) {
    if (!landmarksOf(key).every((k) => of.seen.includes(k))) continue;
    const raw = Float64Array.from(rawJoints, (joints) => jointAngleDeg(key, joints));
    if (!raw.some(Number.isFinite)) continue;
    const lightly = Float64Array.from(smoothJoints, (joints) => jointAngleDeg(key, joints));
    frameAnglesDeg[key] = lightly;
    const reading = of.over(raw, lightly);
    const nearest = nearestFrame(of.thetaDeg, of.strokeOf, reading.minAtThetaDeg, lightly);
    if (nearest === null) continue;
    angles[key] = {
      ...reading,
      uncertainty: combineUncertainty({
        key,
        joints: smoothJoints[nearest],
        noiseMm: of.noiseMm,
        strokeSdDeg: reading.strokeSdDeg,
        strokes: of.strokes,
        levelSdDeg: of.levelSdDeg,
        isMean: MEANS.includes(key),
        estimatedSdMm: of.estimatedSdMm,
      }),
    };
  }
  return { angles, frameAnglesDeg };
}

const aboutCentre = (centre: PlanePoint, path: readonly PlanePoint[]): PlanePoint[] =>
  path.map((q) => ({ x: q.x - centre.x, y: q.y - centre.y }));

function setAbout(centre: PlanePoint, set: SideSet): SideSet {
  return Object.fromEntries(
    Object.entries(set).map(([key, path]) => [key, aboutCentre(centre, path)]),
  ) as SideSet;
}

/** Foot pitch on the crank's turn, made up where heel or toe was not seen. */
const pitchOver = ({ raw, smooth, over }: OnStrokes): HarmonicCurve => {
  const pitch = (set: SideSet): number[] =>
    set.heel.map((heel, i) => jointAngleDeg('footPitchDeg', { heel, toe: set.toe[i] }));
  return over(pitch(raw), pitch(smooth)).curve;
};

/**
 * Reads a clip: from tracked landmarks to the pedal circle, the strokes, and every angle on the crank's turn with its
 * uncertainty (handbook: measuring). Pure: the same tracks and options give the same reading.
 * @returns the reading, or why there is none
 */
// eslint-disable-next-line max-lines-per-function -- one step after the other, each needing what the one before gave
export function readTracks(tracks: Tracks, options: ReadOptions): ReadResult {
  const seen = SIDE_KEYS.filter((key) => framesSeen(tracks, key) >= LEAST_FRAMES);
  const lost = SIDE_LANDMARKS.filter((key) => !seen.includes(key));
  const frames = ownStamps(tracks.tS);
  if (frames < LEAST_FRAMES)
    return refused(
      'too-few-frames',
      `${frames} frames with their own time stamps; ${LEAST_FRAMES} are the least.`,
    );
  if (!legIsReadable((key) => seen.includes(key))) return refused('landmark-missing', legMissing(lost));
  const atScale = broughtToScale(tracks, seen, options);
  if (!atScale) return refused('no-crank', 'The foot’s path does not make a circle.');
  const { map, paths, crank, measuredMm, ratio } = atScale;
  const { centre } = crank.circle;
  const thetaDeg = crankAngles(crank.spindleMm, centre, paths.tS);
  const strokes = cutStrokes(thetaDeg, paths.tS);
  const used = strokes.filter((s) => !s.fault);
  if (turnsBackwards(thetaDeg))
    return refused(
      'backwards',
      'The crank turns backwards: the film runs in reverse or is mirrored, or the rider is set to face the wrong way.',
    );
  if (used.length === 0) return refused('no-stroke', 'No whole turn of the crank is in these tracks.');
  const cadenceRpm = (60 * used.length) / used.reduce((s, k) => s + k.endS - k.startS, 0);
  const smooth = smoothPaths(paths, cutoffFor(cadenceRpm));
  noteNoise(paths, smooth, map.mmPerPx);
  const strokeOf = framesByStroke(thetaDeg, paths.tS, used);
  // Seen outside the strokes that count, or hardly in them, is not seen: nothing could be read of its turn.
  const scarce = seen.filter((key) => framesInStrokes(paths.raw[key], strokeOf) < LEAST_FRAMES);
  if (scarce.length > 0) return readTracks(withoutLandmarks(tracks, scarce), options);
  const bases: Parameters<typeof curveOverStrokes>[0]['bases'] = new Map();
  const read = SIDE_LANDMARKS.filter((key) => seen.includes(key));
  const onStrokes: OnStrokes = {
    seen,
    raw: paths.raw,
    smooth,
    thetaDeg,
    strokeOf,
    over: (raw, lightly) => curveOverStrokes({ thetaDeg, strokeOf, raw, smooth: lightly, used, bases }),
    noiseMm: Math.max(...read.map((k) => paths.notes[k].noisePx)) * map.mmPerPx,
    strokes: used.length,
    levelSdDeg: options.levelDeg === undefined ? LEVEL_UNKNOWN_SD_DEG : LEVEL_SD_DEG,
    estimatedSdMm: options.estimated ? estimatedSdMm(paths.raw) : null,
  };
  const { angles, frameAnglesDeg } = readAngles(onStrokes);
  const body = readBody({
    ...onStrokes,
    raw: setAbout(centre, paths.raw),
    smooth: setAbout(centre, smooth),
    spindle: aboutCentre(centre, crank.spindleMm),
    seen: (key) => seen.includes(key),
  });
  return {
    ok: true,
    map: { ...map, mmPerPx: options.mmPerPx },
    crank: {
      centrePx: fromPlane(map, centre),
      radiusPx: crank.circle.radius / map.mmPerPx,
      residualPx: crank.circle.residual / map.mmPerPx,
      spindleFromToeMm: crank.offsetMm,
      measuredMm,
      ratio,
    },
    riderMmPerPx: map.mmPerPx,
    thetaDeg,
    tS: paths.tS,
    frames: paths.frames,
    frameAnglesDeg,
    strokes,
    usedStrokes: used.length,
    provisional: used.length < ENOUGH_STROKES,
    estimatedSdMm: onStrokes.estimatedSdMm,
    cadenceRpm,
    angles,
    body,
    landmarks: paths.notes,
    standIns: lost,
    footPitchCurveDeg: angles.footPitchDeg?.curve ?? pitchOver(onStrokes),
    hipCurveMm: { x: body.paths.hip!.x.curve, y: body.paths.hip!.y.curve },
    segmentsMm: segments(paths, crank.spindleMm, strokeOf, crank.circle.radius),
  };
}

/** The frame of a stroke nearest to a crank angle, of those that show the angle asked about; null where none does. */
function nearestFrame(
  thetaDeg: Float64Array,
  strokeOf: Int32Array,
  atDeg: number,
  shown: Float64Array,
): number | null {
  let best: number | null = null;
  let gap = Infinity;
  thetaDeg.forEach((t, i) => {
    const off = Math.abs(turnDeg(t, atDeg));
    if (strokeOf[i] >= 0 && Number.isFinite(shown[i]) && off < gap) {
      gap = off;
      best = i;
    }
  });
  return best;
}

/** The rider's own segments, mm: medians, so that a few wrong frames do not count. */
function segments(
  paths: SidePaths,
  spindle: readonly PlanePoint[],
  strokeOf: Int32Array,
  crankMm: number,
): Reading['segmentsMm'] {
  const { hip, knee, ankle, heel, toe } = paths.raw;
  const rows = Array.from(paths.tS.keys()).filter((i) => strokeOf[i] >= 0);
  const span = (a: PlanePoint[], b: PlanePoint[]): number =>
    median(rows.map((i) => Math.hypot(a[i].x - b[i].x, a[i].y - b[i].y)));
  const inFoot = rows.map((i) => {
    const pitch = (jointAngleDeg('footPitchDeg', { heel: heel[i], toe: toe[i] }) * Math.PI) / 180;
    const dx = ankle[i].x - spindle[i].x;
    const dy = ankle[i].y - spindle[i].y;
    return {
      behind: -(dx * Math.cos(pitch) - dy * Math.sin(pitch)),
      above: dx * Math.sin(pitch) + dy * Math.cos(pitch),
    };
  });
  return {
    thigh: span(hip, knee),
    shank: span(knee, ankle),
    ankleBehind: median(inFoot.map((f) => f.behind)),
    ankleAbove: median(inFoot.map((f) => f.above)),
    crank: crankMm,
  };
}
