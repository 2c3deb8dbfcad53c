import { DEG_PER_RAD } from '../geometry/angles.ts';
import { distance, sub, type Vec2 } from '../geometry/vec.ts';
import { ANGLE_SHAPES, type AnyAngleKey, type Joints } from './angles.ts';

/** What stands behind a ± : each a standard deviation in degrees; the two figures are 95 % half-widths. */
export interface AngleUncertainty {
  localisationDeg: number;
  stickerDeg: number;
  levelDeg: number;
  strokesDeg: number;
  /** Perspective and yaw. */
  pictureDeg: number;
  /** For the value itself. */
  absoluteDeg: number;
  /** For a before / after difference with the stickers left on: the sticker's place cancels. */
  changeDeg: number;
}

/** A sticker is within about 5 mm of the bone it stands for (standard deviation in each direction). */
export const STICKER_SD_MM = 5;
/**
 * What one camera can't tell: joints stand some 30 mm nearer or further than the foot, whose scale is used for all. At 4 m a joint
 * 400 mm from the picture's middle is then seen 400·30/4000 = 3 mm off, along one direction (2.1 mm in each); the cosine of a yaw
 * that was taken out otherwise is below that.
 */
export const PICTURE_SD_MM = 2.1;
/** What is left of the camera's roll after levelling on the axles. */
export const LEVEL_SD_DEG = 0.3;

/**
 * How far an angle moves, in degrees a millimetre (root sum of squares), when its landmarks are each off at random.
 * Inside angle at V with limbs a, b: 1/a² + 1/b² + |û⊥/a − ŵ⊥/b|²; the vertex term couples both limbs. A direction
 * over length a: 2/a².
 */
export function angleSensitivity(key: AnyAngleKey, joints: Joints): number {
  const shape = ANGLE_SHAPES[key];
  const at = (k: keyof Joints): Vec2 => joints[k] ?? { x: NaN, y: NaN };
  if (shape.kind === 'direction') return (Math.SQRT2 / distance(at(shape.from), at(shape.to))) * DEG_PER_RAD;
  const u = sub(at(shape.ends[0]), at(shape.vertex));
  const w = sub(at(shape.ends[1]), at(shape.vertex));
  const a = Math.hypot(u.x, u.y);
  const b = Math.hypot(w.x, w.y);
  // û⊥/a = (−u.y, u.x)/a²
  const vx = -u.y / (a * a) + w.y / (b * b);
  const vy = u.x / (a * a) - w.x / (b * b);
  return Math.sqrt(1 / (a * a) + 1 / (b * b) + vx * vx + vy * vy) * DEG_PER_RAD;
}

/**
 * Combines the parts in quadrature.
 * @param sensitivity degrees a millimetre (see above)  @param noiseMm localisation noise of the landmarks, SD
 * @param strokeSdDeg SD between strokes  @param strokes how many
 */
export function combineUncertainty(
  key: AnyAngleKey,
  sensitivity: number,
  noiseMm: number,
  strokeSdDeg: number,
  strokes: number,
): AngleUncertainty {
  const n = Math.max(1, strokes);
  const localisationDeg = (sensitivity * noiseMm) / Math.sqrt(n);
  const stickerDeg = sensitivity * STICKER_SD_MM;
  const levelDeg = ANGLE_SHAPES[key].kind === 'direction' ? LEVEL_SD_DEG : 0;
  const strokesDeg = strokeSdDeg / Math.sqrt(n);
  const pictureDeg = sensitivity * PICTURE_SD_MM;
  const random = localisationDeg ** 2 + strokesDeg ** 2;
  return {
    localisationDeg,
    stickerDeg,
    levelDeg,
    strokesDeg,
    pictureDeg,
    absoluteDeg: 1.96 * Math.sqrt(random + stickerDeg ** 2 + levelDeg ** 2 + pictureDeg ** 2),
    changeDeg: 1.96 * Math.sqrt(2 * random + 2 * levelDeg ** 2),
  };
}

/** What stands behind the ± of a length, SDs in mm; the two figures are 95 % half-widths. */
export interface LengthUncertainty {
  localisationMm: number;
  stickerMm: number;
  levelMm: number;
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

/**
 * Combines the parts of a distance between landmarks along one direction, in quadrature.
 * @param stickers how many landmarks stand on bone by a sticker each (0 for a swing of one: its place cancels)
 * @param acrossMm how far the landmarks lie apart across that direction: what a tilt of the camera turns into the figure
 */
export function combineLength(of: {
  noiseMm: number;
  points: number;
  stickers: number;
  acrossMm: number;
  strokeSdMm: number;
  strokes: number;
  /** What is left of the camera's tilt, SD; the side view's own when left out. */
  levelSdDeg?: number;
  /** What the picture itself adds, SD; from the stickers' depths when left out. Half of its square stays in a change. */
  pictureSdMm?: number;
}): LengthUncertainty {
  const n = Math.max(1, of.strokes);
  const localisationMm = (of.noiseMm * Math.sqrt(of.points)) / Math.sqrt(n);
  const stickerMm = STICKER_SD_MM * Math.sqrt(of.stickers);
  const levelMm = (Math.abs(of.acrossMm) * (of.levelSdDeg ?? LEVEL_SD_DEG)) / DEG_PER_RAD;
  const strokesMm = of.strokeSdMm / Math.sqrt(n);
  const pictureMm = of.pictureSdMm ?? (of.stickers > 0 ? PICTURE_SD_MM * Math.sqrt(of.points) : 0);
  // What comes from depths is the same before and after; what comes from where the camera stood is only partly.
  const pictureStays = of.pictureSdMm === undefined ? 0 : 0.5 * pictureMm ** 2;
  const random = localisationMm ** 2 + strokesMm ** 2;
  return {
    localisationMm,
    stickerMm,
    levelMm,
    strokesMm,
    pictureMm,
    absoluteMm: 1.96 * Math.sqrt(random + stickerMm ** 2 + levelMm ** 2 + pictureMm ** 2),
    changeMm: 1.96 * Math.sqrt(2 * random + 2 * levelMm ** 2 + pictureStays),
  };
}
