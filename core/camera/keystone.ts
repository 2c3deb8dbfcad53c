import { distance, type ImagePoint } from '../math/vec.ts';

/**
 * How the picture shrinks to one side because the camera is turned away from square: at u pixels from the middle, things look
 * (1 − perPx·u) times their size in the middle.
 */
export interface Keystone {
  perPx: number;
  centrePx: ImagePoint;
}

/** Top and bottom of both wheels' tyres in the picture, px. The wheels are of one size. */
export interface WheelRims {
  rearTop: ImagePoint;
  rearBottom: ImagePoint;
  frontTop: ImagePoint;
  frontBottom: ImagePoint;
}

/** More than this across half the picture is no camera beside a bike, but a slip of the hand. */
const MOST = 0.12;

/**
 * The keystone from the wheels' apparent heights. In a pinhole camera turned by yaw ψ at distance D, a point x along the bike
 * from the lens's axis stands 1 + x·sin ψ/D times as far as one on it, so apparent heights go as 1 − perPx·u, where u is the
 * place in the picture: two wheels of one size give perPx without knowing D (own derivation; the handbook's
 * ψ ≈ asin((s − 1)·D/B) is the same, solved for ψ).
 * @param centrePx the middle of the picture, where the lens looks
 * @returns null where the points make no two wheels
 */
export function keystoneFromWheels(rims: WheelRims, centrePx: ImagePoint): Keystone | null {
  const rear = distance(rims.rearTop, rims.rearBottom);
  const front = distance(rims.frontTop, rims.frontBottom);
  const rearU = (rims.rearTop.x + rims.rearBottom.x) / 2 - centrePx.x;
  const frontU = (rims.frontTop.x + rims.frontBottom.x) / 2 - centrePx.x;
  const perPx = (rear - front) / (rear * frontU - front * rearU);
  const sane = rear > 10 && front > 10 && Math.abs(frontU - rearU) > 20;
  return sane && Math.abs(perPx * centrePx.x) < MOST ? { perPx, centrePx } : null;
}

/** Where a pixel would be if the camera were square to the bike. */
export function squared(k: Keystone, p: ImagePoint): ImagePoint {
  const u = p.x - k.centrePx.x;
  const v = p.y - k.centrePx.y;
  const s = 1 / (1 - k.perPx * u);
  return { x: k.centrePx.x + u * s, y: k.centrePx.y + v * s };
}

/** The inverse of `squared`. */
export function asSeen(k: Keystone, p: ImagePoint): ImagePoint {
  const u = p.x - k.centrePx.x;
  const v = p.y - k.centrePx.y;
  const s = 1 / (1 + k.perPx * u);
  return { x: k.centrePx.x + u * s, y: k.centrePx.y + v * s };
}

/**
 * The camera's yaw, degrees, positive when the front wheel stands further away, if the camera's distance is known.
 * @param mmPerPx scale in the bike's plane  @param distanceMm lens to the bike's plane
 */
export function yawDeg(k: Keystone, mmPerPx: number, distanceMm: number): number {
  const pxAhead = Math.asin(Math.max(-1, Math.min(1, (k.perPx * distanceMm) / mmPerPx)));
  return (pxAhead * 180) / Math.PI;
}
