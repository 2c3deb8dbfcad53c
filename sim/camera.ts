import { RAD_PER_DEG } from '../core/math/angles.ts';
import type { Vec2 } from '../core/math/vec.ts';

/** A pinhole camera beside the bike. Millimetres and degrees; pixels with y down. */
export interface Camera {
  widthPx: number;
  heightPx: number;
  /** Distance from the bike's plane to the lens, and the scale in that plane. */
  distanceMm: number;
  mmPerPx: number;
  /** The point of the bike's plane at which the lens aims, and where it lands in the picture (share of width and height). */
  aimMm: Vec2;
  centreShare: Vec2;
  yawDeg: number;
  rollDeg: number;
  facing: 'left' | 'right';
}

export interface Projected extends Vec2 {
  /** Pixels for a millimetre at that depth. */
  pxPerMm: number;
}

/**
 * Where a point of the scene lands in the picture.
 * @param p mm in the bike plane's x and y  @param zMm towards the camera from the bike's plane
 */
export function project(camera: Camera, p: Vec2, zMm: number): Projected {
  const side = camera.facing === 'right' ? 1 : -1;
  const x0 = (p.x - camera.aimMm.x) * side;
  const y0 = p.y - camera.aimMm.y;
  const yaw = camera.yawDeg * RAD_PER_DEG;
  const x = x0 * Math.cos(yaw) + zMm * Math.sin(yaw);
  const z = -x0 * Math.sin(yaw) + zMm * Math.cos(yaw);
  const pxPerMm = camera.distanceMm / camera.mmPerPx / (camera.distanceMm - z);
  const roll = camera.rollDeg * RAD_PER_DEG;
  const u = x * pxPerMm;
  const v = -y0 * pxPerMm;
  return {
    x: camera.widthPx * camera.centreShare.x + u * Math.cos(roll) - v * Math.sin(roll),
    y: camera.heightPx * camera.centreShare.y + u * Math.sin(roll) + v * Math.cos(roll),
    pxPerMm,
  };
}

interface Wheels {
  rearAxle: Vec2;
  frontAxle: Vec2;
  wheelRadiusMm: number;
}

/** Where axles, tops and bottoms of a bike's wheels land in the picture, px. */
export function wheelsInPicture(
  camera: Camera,
  w: Wheels,
): Record<'rear' | 'front' | 'rearTop' | 'rearBottom' | 'frontTop' | 'frontBottom', Vec2> {
  const at = (p: Vec2, riseMm: number): Vec2 => {
    const { x, y } = project(camera, { x: p.x, y: p.y + riseMm }, 0);
    return { x, y };
  };
  return {
    rear: at(w.rearAxle, 0),
    front: at(w.frontAxle, 0),
    rearTop: at(w.rearAxle, w.wheelRadiusMm),
    rearBottom: at(w.rearAxle, -w.wheelRadiusMm),
    frontTop: at(w.frontAxle, w.wheelRadiusMm),
    frontBottom: at(w.frontAxle, -w.wheelRadiusMm),
  };
}
