import { DEG_PER_RAD } from '../geometry/angles.ts';
import { distance, sub, type Vec2 } from '../geometry/vec.ts';
import { ANGLE_SHAPES, type AngleKey } from './angles.ts';
import type { SideLandmark } from './landmarks.ts';

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
export function angleSensitivity(key: AngleKey, joints: Readonly<Record<SideLandmark, Vec2>>): number {
  const shape = ANGLE_SHAPES[key];
  if (shape.kind === 'direction')
    return (Math.SQRT2 / distance(joints[shape.from], joints[shape.to])) * DEG_PER_RAD;
  const u = sub(joints[shape.ends[0]], joints[shape.vertex]);
  const w = sub(joints[shape.ends[1]], joints[shape.vertex]);
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
  key: AngleKey,
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
