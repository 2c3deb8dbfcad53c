import { DEG_PER_RAD, RAD_PER_DEG } from '../math/angles.ts';
import type { PlanePoint } from '../math/vec.ts';

/** A saddle's place by the usual tape measures. */
export interface SaddleMeasures {
  /** Bottom bracket to the top, along the seat tube, through the sit point. */
  heightMm: number;
  /** Sit point (where the saddle is 80 mm wide) horizontally behind the bottom bracket. */
  setback80Mm: number;
  tiltDeg: number;
  /** Along the saddle from nose to where it is 80 mm wide. */
  noseTo80Mm: number;
}

/** A saddle's place in the bike plane, mm, BB origin, x forward, y up. */
export interface SaddlePlace {
  sit: PlanePoint;
  nose: PlanePoint;
}

/**
 * From tape measures to the plane. Nose-up tilt raises the nose about the sit point.
 * @returns null where the setback is longer than the height: no saddle can stand there
 */
export function saddlePlace(m: SaddleMeasures): SaddlePlace | null {
  const rise2 = m.heightMm ** 2 - m.setback80Mm ** 2;
  if (!(rise2 > 0)) return null;
  const sit = { x: -m.setback80Mm, y: Math.sqrt(rise2) };
  const tilt = m.tiltDeg * RAD_PER_DEG;
  return {
    sit,
    nose: { x: sit.x + m.noseTo80Mm * Math.cos(tilt), y: sit.y + m.noseTo80Mm * Math.sin(tilt) },
  };
}

/** Back from the plane to tape measures: the inverse of `saddlePlace`. */
export function saddleMeasures({ sit, nose }: SaddlePlace): SaddleMeasures {
  const d = { x: nose.x - sit.x, y: nose.y - sit.y };
  return {
    heightMm: Math.hypot(sit.x, sit.y),
    setback80Mm: -sit.x,
    tiltDeg: Math.atan2(d.y, d.x) * DEG_PER_RAD,
    noseTo80Mm: Math.hypot(d.x, d.y),
  };
}

/** Of the line BB → point above the horizontal behind, degrees. */
export const seatAngleTo = (p: PlanePoint): number => Math.atan2(p.y, -p.x) * DEG_PER_RAD;
