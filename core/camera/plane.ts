import { RAD_PER_DEG } from '../math/angles.ts';
import { distance, isSeen, type ImagePoint, type PlanePoint } from '../math/vec.ts';
import { median } from '../math/statistics.ts';
import { asSeen, keystoneFromWheels, squared, type Keystone, type WheelRims } from './keystone.ts';
import type { Tracks } from '../tracking/tracks.ts';

/** How image pixels become the bike plane: mirrored once for a rider facing left, level, in millimetres, y up. */
export interface PlaneMap {
  facing: 'left' | 'right';
  mmPerPx: number;
  /** The bike's rise towards the front in the picture, degrees: taken out. 0 when the camera was level. */
  levelDeg: number;
  /** Taken out first, where it is known. */
  keystone?: Keystone;
}

/** The two wheel axles in the picture and what is known of them. */
export interface AxleScale {
  rearAxlePx: ImagePoint;
  frontAxlePx: ImagePoint;
  wheelbaseMm: number;
  /** Both wheels' tops and bottoms, and the middle of the picture: they tell how far the camera is from square. */
  rims?: WheelRims | null;
  centrePx?: ImagePoint;
}

export type ScaleResult =
  | { ok: true; mmPerPx: number; levelDeg: number; facing: 'left' | 'right'; keystone?: Keystone }
  | { ok: false; reason: 'axles-coincide' | 'wheelbase-missing' };

/**
 * Scale, level and facing from the axles. The axle line is level when both wheels are the same size and the bike stands level.
 * @returns mm per pixel in the bike's plane; the rise of the axle line; the side on which the front axle lies
 */
export function scaleFromAxles(a: AxleScale): ScaleResult {
  const keystone = (a.rims && a.centrePx && keystoneFromWheels(a.rims, a.centrePx)) || undefined;
  const rear = keystone ? squared(keystone, a.rearAxlePx) : a.rearAxlePx;
  const front = keystone ? squared(keystone, a.frontAxlePx) : a.frontAxlePx;
  const spanPx = distance(rear, front);
  if (!(spanPx > 20)) return { ok: false, reason: 'axles-coincide' };
  if (!(a.wheelbaseMm > 0)) return { ok: false, reason: 'wheelbase-missing' };
  const facing = front.x >= rear.x ? 'right' : 'left';
  const levelDeg = Math.atan2(rear.y - front.y, Math.abs(front.x - rear.x)) / RAD_PER_DEG;
  return { ok: true, mmPerPx: a.wheelbaseMm / spanPx, levelDeg, facing, ...(keystone && { keystone }) };
}

/**
 * A pixel in the bike plane's axes (x forward, y up, mm), about the picture's own corner: the origin is moved to the bottom
 * bracket once the crank circle is known.
 */
export function toPlane(map: PlaneMap, seen: ImagePoint): PlanePoint {
  const p = map.keystone ? squared(map.keystone, seen) : seen;
  const x = (map.facing === 'right' ? p.x : -p.x) * map.mmPerPx;
  const y = -p.y * map.mmPerPx;
  const c = Math.cos(map.levelDeg * RAD_PER_DEG);
  const s = Math.sin(map.levelDeg * RAD_PER_DEG);
  return { x: x * c + y * s, y: -x * s + y * c };
}

/** Back to pixels: the inverse of `toPlane`. */
export function fromPlane(map: PlaneMap, p: PlanePoint): ImagePoint {
  const c = Math.cos(map.levelDeg * RAD_PER_DEG);
  const s = Math.sin(map.levelDeg * RAD_PER_DEG);
  const x = (p.x * c - p.y * s) / map.mmPerPx;
  const y = (p.x * s + p.y * c) / map.mmPerPx;
  const flat = { x: map.facing === 'right' ? x : -x, y: -y };
  return map.keystone ? asSeen(map.keystone, flat) : flat;
}

/** Which way the rider faces, from the tracks alone: toe before heel and ankle, knee and shoulder before hip. */
export function facingOf(tracks: Tracks): 'left' | 'right' {
  const lead = (front: string, back: string): number => {
    const f = tracks.landmarks[front];
    const b = tracks.landmarks[back];
    if (!f || !b) return 0;
    const gap = median(f.xPx.map((x, i) => x - b.xPx[i]));
    return isSeen({ x: gap, y: 0 }) ? gap : 0;
  };
  const leads = lead('toe', 'heel') + lead('toe', 'ankle') + lead('knee', 'hip') + lead('shoulder', 'hip');
  return leads >= 0 ? 'right' : 'left';
}
