import { SURE } from '../landmarks/nameSpots.ts';
import { keystoneFromWheels, squared, type WheelRims } from '../camera/keystone.ts';
import type { Landmark } from '../landmarks/landmarks.ts';
import { distance, type ImagePoint } from '../math/vec.ts';

/** A point that is proposed: where, on a sticker or by eye, and how sure its name is; what the fitter has put or confirmed is 1. */
export interface ProposedPoint extends ImagePoint {
  onSticker: boolean;
  sure: number;
}

export interface ProposedWheels {
  rear: ImagePoint;
  front: ImagePoint;
  rims: WheelRims;
}

/** Which of the points have to be asked about, in order: those that are unsure, then those that are not there. */
export function questionsOf(
  wanted: readonly Landmark[],
  points: Partial<Record<Landmark, ProposedPoint>>,
): { landmark: Landmark; kind: 'unsure' | 'open' }[] {
  const unsure = wanted.filter((k) => points[k] && points[k].sure < SURE);
  const open = wanted.filter((k) => !points[k]);
  return [
    ...unsure.map((landmark) => ({ landmark, kind: 'unsure' as const })),
    ...open.map((landmark) => ({ landmark, kind: 'open' as const })),
  ];
}

/** Wheels that stand this close to an earlier film's are seen by a camera that has not been moved, px. */
const UNMOVED_PX = 3;

/** Whether the camera stands where it stood for another film of the same picture size. */
export const isUnmoved = (
  now: ProposedWheels,
  before: { rear: ImagePoint | null; front: ImagePoint | null },
): boolean =>
  before.rear !== null &&
  before.front !== null &&
  distance(now.rear, before.rear) < UNMOVED_PX &&
  distance(now.front, before.front) < UNMOVED_PX;

const TYRE = /^\s*(\d{2})\s*[-–x]\s*(\d{3})\s*$/;

/**
 * Outer diameter of a tyre by the size printed on it, mm: width and bead seat as in “28-622” (ISO 5775-1); a tyre is about as high
 * as it is wide. Null for what is no such size.
 */
export function tyreDiameterMm(printed: string): number | null {
  const [, width, bead] = TYRE.exec(printed) ?? [];
  const [w, b] = [Number(width), Number(bead)];
  return w >= 18 && w <= 75 && b >= 349 && b <= 635 ? b + 2 * w : null;
}

/**
 * The wheelbase from both wheels in the picture and their tyres' diameter, mm, about 1 % good; the camera's turn is taken out.
 * @param centrePx the middle of the picture
 */
export function wheelbaseFromTyre(wheels: ProposedWheels, diameterMm: number, centrePx: ImagePoint): number {
  const { rims } = wheels;
  const keystone = keystoneFromWheels(rims, centrePx);
  const flat = (p: ImagePoint): ImagePoint => (keystone ? squared(keystone, p) : p);
  const height =
    (distance(flat(rims.rearTop), flat(rims.rearBottom)) +
      distance(flat(rims.frontTop), flat(rims.frontBottom))) /
    2;
  return (diameterMm * distance(flat(wheels.rear), flat(wheels.front))) / height;
}
