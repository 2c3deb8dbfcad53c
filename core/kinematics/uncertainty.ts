import { DEG_PER_RAD } from '../math/angles.ts';
import { dot, sub, type PlanePoint } from '../math/vec.ts';
import { studentT95 } from '../math/statistics.ts';
import { ANGLE_SHAPES, type AnyAngleKey, type Joints, type SideKey } from './angles.ts';
import type { FrontalLandmark } from '../landmarks/landmarks.ts';

/** What stands behind a ± : each a standard deviation in degrees; the two figures are 95 % half-widths. */
export interface AngleUncertainty {
  localisationDeg: number;
  stickerDeg: number;
  /** Skin sliding over bone with the crank. */
  skinDeg: number;
  levelDeg: number;
  /** The same rider off and on again. */
  rideDeg: number;
  strokesDeg: number;
  /** Perspective and yaw. */
  pictureDeg: number;
  /** For the value itself. */
  absoluteDeg: number;
  /** For a before / after difference with the stickers left on: sticker and skin cancel, sitting down anew does not. */
  changeDeg: number;
}

/**
 * How far a sticker stands from its bone, SD in each direction (handbook: measuring, uncertainty: palpation studies, Della Croce 1999
 * and after). Points of the trunk that the handbook does not list are as hard to find as their neighbours.
 */
export const STICKER_SD_MM: Record<SideKey, number> = {
  hip: 13,
  shoulder: 10,
  knee: 8,
  elbow: 6,
  ankle: 5,
  wrist: 5,
  heel: 3,
  toe: 3,
  head: 5,
  c7: 8,
  sacrum: 10,
  asis: 13,
  hand: 5,
  spindle: 2,
};

/** The same for a film from ahead or behind, by the bone's name without its side. */
export const frontalStickerSdMm = (key: FrontalLandmark): number =>
  ({ knee: 8, ankle: 5, toe: 3, asis: 13, psis: 10, hip: 13, shoulder: 10 })[
    key.slice(0, -1) as 'knee' | 'ankle' | 'toe' | 'asis' | 'psis' | 'hip' | 'shoulder'
  ];

/** Of an estimate's square so much stays in a change: the model errs alike on the same rider, but not surely so. */
const ESTIMATE_STAYS = 0.5;

/**
 * Skin over bone, SD of what is left of it at one crank position, in each direction: the trochanter's sticker slides 20–40 mm over a
 * stroke, the knee's 10–15 (Cappozzo 1996), about the place where it was put on. A mean over the turn loses most of it.
 */
export const SKIN_SD_MM: Partial<Record<SideKey, number>> = { hip: 9, knee: 3.5 };
/** A swing at the trochanter is a figure of the sticker: its own sliding is in it (handbook: measuring, uncertainty). */
export const HIP_SWING_SKIN_SD_MM = 4;

/** The same rider, bike and stickers, off and on again, SD (handbook: measuring); shoulder and ankle as their neighbours. */
export const RIDE_SD_DEG: Record<AnyAngleKey, number> = {
  kneeFlexionDeg: 1.2,
  hipAngleDeg: 1.2,
  ankleAngleDeg: 1.5,
  footPitchDeg: 1.5,
  backAngleDeg: 1,
  shoulderAngleDeg: 1.5,
  // Turned by trunk, shoulder and elbow together.
  elbowFlexionDeg: 2.5,
  forearmAngleDeg: 2.5,
  pelvisAngleDeg: 1,
};
/**
 * The same of figures that feel sitting elsewhere less than their angle does at its other end: at the top the knee is bent, and what a foot
 * held otherwise adds to the ankle's least it adds to its most (from sitting 4 and 2 mm elsewhere and a pitch of 1.35°).
 */
export const KNEE_MAX_RIDE_SD_DEG = 0.5;
export const ANKLE_RANGE_RIDE_SD_DEG = 0.7;
export const HIP_TRAVEL_RIDE_SD_MM = 0.4;

/** An angle's ± where a ride adds so much instead, SD. */
export function withRideSd(u: AngleUncertainty, rideDeg: number): AngleUncertainty {
  const less = 1.96 ** 2 * (u.rideDeg ** 2 - rideDeg ** 2);
  return {
    ...u,
    rideDeg,
    absoluteDeg: Math.sqrt(u.absoluteDeg ** 2 - less),
    changeDeg: Math.sqrt(u.changeDeg ** 2 - 2 * less),
  };
}

/** Sits elsewhere, fore-aft and up or down, SD (handbook: how people pedal). */
export const SITS_ELSEWHERE_MM = { foreAft: 4, upDown: 2 };

/** Between strokes, where a single one can't tell: the middle of what riders do (handbook: how people pedal). */
const USUAL_STROKE_SD_DEG = 1.2;

/**
 * What one camera can't tell: joints stand some 30 mm nearer or further than the foot, whose scale is used for all. At 4 m a joint
 * 400 mm from the picture's middle is then seen 400·30/4000 = 3 mm off, along one direction (2.1 mm in each); the cosine of a yaw
 * that was taken out otherwise is below that.
 */
const PICTURE_SD_MM = 2.1;
/** What is left of the camera's roll after levelling on the axles; and where nothing tells the level. */
export const LEVEL_SD_DEG = 0.3;
export const LEVEL_UNKNOWN_SD_DEG = 2;

/**
 * How an angle moves with each of its landmarks: degrees a millimetre, x forward and y up.
 * Inside angle at V with limbs a, b: û⊥/a and ŵ⊥/b at the ends, both together at the vertex; a direction over length a: 1/a at
 * either end.
 */
export function angleGradient(key: AnyAngleKey, joints: Joints): Partial<Record<SideKey, PlanePoint>> {
  const shape = ANGLE_SHAPES[key];
  const at = (k: SideKey): PlanePoint => joints[k] ?? { x: NaN, y: NaN };
  /** Of the direction of v (rad) by its end point, degrees a mm. */
  const turns = (v: PlanePoint): PlanePoint => {
    const l2 = dot(v, v);
    return { x: (-v.y / l2) * DEG_PER_RAD, y: (v.x / l2) * DEG_PER_RAD };
  };
  const times = (v: PlanePoint, k: number): PlanePoint => ({ x: k * v.x, y: k * v.y });
  if (shape.kind === 'direction') {
    const g = times(turns(sub(at(shape.to), at(shape.from))), shape.sign * (shape.backward ? -1 : 1));
    return { [shape.to]: g, [shape.from]: times(g, -1) };
  }
  const u = sub(at(shape.ends[0]), at(shape.vertex));
  const w = sub(at(shape.ends[1]), at(shape.vertex));
  // The inside angle is the turn from u to w, without its sign; flexion is what is left to 180°.
  const way = Math.sign(u.x * w.y - u.y * w.x) * (shape.flexion ? -1 : 1);
  const gu = times(turns(u), -way);
  const gw = times(turns(w), way);
  return {
    [shape.ends[0]]: gu,
    [shape.ends[1]]: gw,
    [shape.vertex]: { x: -gu.x - gw.x, y: -gu.y - gw.y },
  };
}

/** SD of an angle, degrees, when its landmarks are off at random by so much in each direction. */
export function angleSdDeg(
  key: AnyAngleKey,
  joints: Joints,
  landmarkSdMm: Partial<Record<SideKey, number>> | number,
): number {
  let sum = 0;
  for (const [k, g] of Object.entries(angleGradient(key, joints)) as [SideKey, PlanePoint][])
    sum += dot(g, g) * (typeof landmarkSdMm === 'number' ? landmarkSdMm : (landmarkSdMm[k] ?? 0)) ** 2;
  return Math.sqrt(sum);
}

/**
 * SD of a mean over strokes, widened by Student's t since the spread is known from few strokes: 1.96 of it is the 95 % half-width.
 * @param usualSd taken where a single stroke has no spread of its own
 */
const overStrokes = (strokeSd: number, strokes: number, usualSd: number): number =>
  strokes < 2 ? usualSd : ((studentT95(strokes - 1) / 1.96) * strokeSd) / Math.sqrt(strokes);

/** Combines the parts of an angle's ± in quadrature. */
export function combineUncertainty(of: {
  key: AnyAngleKey;
  /** Where the angle is read, bike-plane mm. */
  joints: Joints;
  /** Localisation noise of the landmarks, SD. */
  noiseMm: number;
  strokeSdDeg: number;
  strokes: number;
  /** What is left of the camera's roll, SD. */
  levelSdDeg: number;
  /** A mean over the turn: what slides to and fro falls out of it. */
  isMean: boolean;
  /** How far the joints may stand from the bone where they are estimates, without stickers. */
  estimatedSdMm?: Record<SideKey, number> | null;
}): AngleUncertainty {
  const { key, joints } = of;
  const n = Math.max(1, of.strokes);
  const localisationDeg = angleSdDeg(key, joints, of.noiseMm) / Math.sqrt(n);
  const stickerDeg = angleSdDeg(key, joints, of.estimatedSdMm ?? STICKER_SD_MM);
  const skinDeg = of.isMean ? 0 : angleSdDeg(key, joints, SKIN_SD_MM);
  const direction = ANGLE_SHAPES[key].kind === 'direction';
  const levelDeg = direction ? of.levelSdDeg : 0;
  const rideDeg = RIDE_SD_DEG[key];
  const strokesDeg = overStrokes(of.strokeSdDeg, n, USUAL_STROKE_SD_DEG);
  const pictureDeg = angleSdDeg(key, joints, PICTURE_SD_MM);
  const systematic = stickerDeg ** 2 + skinDeg ** 2 + levelDeg ** 2 + pictureDeg ** 2;
  const passing = localisationDeg ** 2 + rideDeg ** 2 + strokesDeg ** 2;
  const again =
    2 * passing +
    (direction ? 2 * Math.min(of.levelSdDeg, LEVEL_SD_DEG) ** 2 : 0) +
    (of.estimatedSdMm ? ESTIMATE_STAYS * stickerDeg ** 2 : 0);
  return {
    localisationDeg,
    stickerDeg,
    skinDeg,
    levelDeg,
    rideDeg,
    strokesDeg,
    pictureDeg,
    absoluteDeg: 1.96 * Math.sqrt(systematic + passing),
    changeDeg: 1.96 * Math.sqrt(again),
  };
}

/** What stands behind the ± of a length, SDs in mm; the two figures are 95 % half-widths. */
export interface LengthUncertainty {
  localisationMm: number;
  stickerMm: number;
  skinMm: number;
  levelMm: number;
  rideMm: number;
  strokesMm: number;
  pictureMm: number;
  absoluteMm: number;
  changeMm: number;
}

/** A length with its uncertainty. */
export interface Measured {
  value: number;
  uncertainty: LengthUncertainty;
}

/** Combines the parts of a distance between landmarks along one direction, in quadrature. */
export function combineLength(of: {
  noiseMm: number;
  /** How many landmarks it hangs on. */
  points: number;
  /** Of each landmark that stands on bone by a sticker, its SD (none for a swing of one: its place cancels). */
  stickerSdsMm: readonly number[];
  skinSdMm?: number;
  /** The same rider off and on again, SD. */
  rideSdMm: number;
  /** How far the landmarks lie apart across that direction: what a tilt of the camera turns into the figure. */
  acrossMm: number;
  strokeSdMm: number;
  strokes: number;
  /** What is left of the camera's tilt, SD. */
  levelSdDeg: number;
  /** What the picture itself adds, SD; from the stickers' depths when left out. Half of its square stays in a change. */
  pictureSdMm?: number;
  /** The joints are estimates, without stickers. */
  estimated?: boolean;
}): LengthUncertainty {
  const n = Math.max(1, of.strokes);
  const localisationMm = (of.noiseMm * Math.sqrt(of.points)) / Math.sqrt(n);
  const stickerMm = Math.hypot(...of.stickerSdsMm);
  const skinMm = of.skinSdMm ?? 0;
  const across = Math.abs(of.acrossMm) / DEG_PER_RAD;
  const levelMm = across * of.levelSdDeg;
  const rideMm = of.rideSdMm;
  const strokesMm = overStrokes(of.strokeSdMm, n, of.rideSdMm);
  const pictureMm = of.pictureSdMm ?? (of.stickerSdsMm.length > 0 ? PICTURE_SD_MM * Math.sqrt(of.points) : 0);
  // What comes from depths is the same before and after; what comes from where the camera stood is only partly.
  const pictureStays = of.pictureSdMm === undefined ? 0 : 0.5 * pictureMm ** 2;
  const estimateStays = of.estimated ? ESTIMATE_STAYS * stickerMm ** 2 : 0;
  const passing = localisationMm ** 2 + rideMm ** 2 + strokesMm ** 2;
  const levelAgain = across * Math.min(of.levelSdDeg, of.pictureSdMm === undefined ? LEVEL_SD_DEG : 9);
  return {
    localisationMm,
    stickerMm,
    skinMm,
    levelMm,
    rideMm,
    strokesMm,
    pictureMm,
    absoluteMm: 1.96 * Math.sqrt(passing + stickerMm ** 2 + skinMm ** 2 + levelMm ** 2 + pictureMm ** 2),
    changeMm: 1.96 * Math.sqrt(2 * passing + 2 * levelAgain ** 2 + pictureStays + estimateStays),
  };
}
