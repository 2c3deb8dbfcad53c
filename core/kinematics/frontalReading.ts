import type { PlanePoint } from '../math/vec.ts';
import { type CurveReading } from './curves.ts';
import { type FrontalLandmark } from '../landmarks/landmarks.ts';
import { type LandmarkNote } from './paths.ts';
import { type Stroke } from './strokes.ts';
import { type Measured } from './uncertainty.ts';
export interface FrontalOptions {
  view: 'front' | 'rear';
  /** Middle of the picture, px: where the lens looks. */
  centrePx: PlanePoint;
  /** From a known width, at that width's own distance; left out, the crank alone sets the scale. */
  width?: { mmPerPx: number; tiltDeg: number; aheadMm: number } | null;
  crankMm?: number;
}

/** One leg seen from the front or the rear, on its own crank arm's turn. Outward is away from the bike. */
export interface LegFrontal {
  /** From the middle between the feet, outward +. */
  kneeLateralMm: CurveReading;
  kneeHeightMm: CurveReading;
  /** Knee against foot, outward +. */
  kneeOverFootMm: CurveReading;
  /** Knee against the line from hip to foot, outward +; null where the hip is not marked. */
  kneeOffLineMm: CurveReading | null;
  pathWidthMm: Measured;
  /** Mean over the push, crank from top to bottom. */
  kneeOverFootPushMm: Measured;
  kneeOffLinePushMm: Measured | null;
}

/** A line across the body: left less right height. */
export interface Obliquity {
  of: 'asis' | 'psis' | 'hip' | 'shoulder';
  /** On the right crank arm's turn, degrees, left higher +. */
  curve: CurveReading;
  meanDeg: number;
  swingDeg: number;
  absoluteDeg: number;
  changeDeg: number;
}

export interface FrontalReading {
  ok: true;
  view: 'front' | 'rear';
  mmPerPx: number;
  tiltDeg: number;
  scaleFrom: 'crank' | 'width';
  /** Crank as the width's scale measures it against the true one; null where one of them is open. */
  crankRatio: number | null;
  /** Lens to the bottom bracket, from how much nearer the width looks; null where that can’t be known. */
  distanceMm: number | null;
  thetaDeg: Float64Array;
  tS: Float64Array;
  frames: Int32Array;
  strokes: Stroke[];
  usedStrokes: number;
  provisional: boolean;
  cadenceRpm: number;
  legs: Record<'left' | 'right', LegFrontal>;
  /** Between the feet, middle to middle. */
  stanceMm: Measured;
  pelvis: Obliquity | null;
  shoulders: Obliquity | null;
  /** Middle of the pelvis from the middle between the feet, rider's right +: mean and swing; null without hip points. */
  hipShiftMm: { mean: Measured; swing: Measured; curve: CurveReading } | null;
  landmarks: Partial<Record<FrontalLandmark, LandmarkNote>>;
}

export type FrontalResult =
  | FrontalReading
  | { ok: false; reason: 'landmark-missing' | 'too-few-frames' | 'no-scale' | 'no-stroke'; detail: string };

/** Seen on fewer frames than this a landmark counts as not there. */
export const LEAST_FRAMES = 12;
