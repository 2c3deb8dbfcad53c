import { RAD_PER_DEG } from '../math/angles.ts';
import type { PlanePoint } from '../math/vec.ts';

export interface OverlapInput {
  crankMm: number;
  /** Shoe's tip ahead of the pedal spindle, and its place above it. */
  tipAheadMm: number;
  tipAboveMm: number;
  /** Foot's middle from the bike's middle. */
  stanceSideMm: number;
  frontAxleMm: PlanePoint;
  headAngleDeg: number;
  forkRakeMm: number;
  wheelDiameterMm: number;
  tyreWidthMm: number;
}

export interface Overlap {
  /** Least gap between the shoe's tip and the tyre over crank and steer; below nothing they touch. */
  gapMm: number;
  atThetaDeg: number;
  atSteerDeg: number;
  /** The smallest steer at which they touch, or null where they never do. */
  closesAtSteerDeg: number | null;
}

const MOST_STEER_DEG = 60;

/** Toes lie ahead of the first metatarsal head by about 27 % of the foot's length, and the shoe a thumb's breadth further. */
export const shoeTipAheadMm = (footLengthMm: number, cleatBehindMm: number): number =>
  0.27 * footLengthMm + 12 + cleatBehindMm;

/**
 * Toe overlap in three dimensions (handbook: models): the shoe's tip against the tyre, which is a ring of round section turned
 * about the steering axis. Crank from 45° to 135°, steer up to 60° to the foot's side (the other side opens the gap).
 */
export function toeOverlap(o: OverlapInput): Overlap {
  const tyre = o.tyreWidthMm / 2;
  const ring = o.wheelDiameterMm / 2 - tyre;
  const c = Math.cos(o.headAngleDeg * RAD_PER_DEG);
  const s = Math.sin(o.headAngleDeg * RAD_PER_DEG);
  const up = { x: -c, y: s };
  // A point of the steering axis: the axle less the rake, square to the axis.
  const pivot = { x: o.frontAxleMm.x - o.forkRakeMm * s, y: o.frontAxleMm.y - o.forkRakeMm * c };
  const gapAt = (thetaDeg: number, steerDeg: number): number => {
    const t = thetaDeg * RAD_PER_DEG;
    const tip = {
      x: o.crankMm * Math.sin(t) + o.tipAheadMm - pivot.x,
      y: o.crankMm * Math.cos(t) + o.tipAboveMm - pivot.y,
      z: o.stanceSideMm,
    };
    // Instead of the wheel, the tip is turned back about the axis (Rodrigues), into the frame of a wheel that points ahead.
    const a = -steerDeg * RAD_PER_DEG;
    const dot = tip.x * up.x + tip.y * up.y;
    const cross = { x: up.y * tip.z, y: -up.x * tip.z, z: up.x * tip.y - up.y * tip.x };
    const k = Math.cos(a);
    const n = Math.sin(a);
    const q = {
      x: tip.x * k + cross.x * n + up.x * dot * (1 - k) + pivot.x - o.frontAxleMm.x,
      y: tip.y * k + cross.y * n + up.y * dot * (1 - k) + pivot.y - o.frontAxleMm.y,
      z: tip.z * k + cross.z * n,
    };
    return Math.hypot(Math.hypot(q.x, q.y) - ring, q.z) - tyre;
  };
  let least: Overlap = { gapMm: Infinity, atThetaDeg: 90, atSteerDeg: 0, closesAtSteerDeg: null };
  // The tyre's back swings out to the side away from which the wheel turns: both signs are looked at.
  for (let steer = 0; steer <= MOST_STEER_DEG; steer += 1) {
    for (const side of steer === 0 ? [1] : [1, -1]) {
      for (let theta = 45; theta <= 135; theta += 3) {
        const gap = gapAt(theta, side * steer);
        if (gap < least.gapMm) least = { ...least, gapMm: gap, atThetaDeg: theta, atSteerDeg: steer };
        if (gap <= 0 && least.closesAtSteerDeg === null) least = { ...least, closesAtSteerDeg: steer };
      }
    }
  }
  return least;
}
