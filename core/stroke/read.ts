import { turnDeg } from '../geometry/angles.ts';
import { isSeen, type Vec2 } from '../geometry/vec.ts';
import { bridgeGaps } from '../signal/gaps.ts';
import { evaluateCurve, type HarmonicCurve } from '../signal/harmonics.ts';
import { smoothSeries } from '../signal/smooth.ts';
import { undoRounding } from '../signal/stamps.ts';
import { median } from '../signal/statistics.ts';
import { ANGLE_KEYS, jointAngleDeg, type AngleKey } from './angles.ts';
import { crankAngles, fitCrank, type CrankFit } from './crank.ts';
import { SIDE_LANDMARKS, type SideLandmark } from './landmarks.ts';
import type { Keystone } from './keystone.ts';
import { facingOf, fromPlane, toPlane, type PlaneMap } from './plane.ts';
import { curveOverStrokes, type CurveReading } from './curves.ts';
import { cutStrokes, type Stroke } from './strokes.ts';
import { angleSensitivity, combineUncertainty, type AngleUncertainty } from './uncertainty.ts';
import { pointAt, type Tracks } from './tracks.ts';

export interface ReadOptions {
  /** In the bike's plane, from the axles or typed. */
  mmPerPx: number;
  levelDeg?: number;
  /** Left out: taken from the body itself. */
  facing?: 'left' | 'right';
  /** How far the camera is from square, from the wheels. */
  keystone?: Keystone;
  /** True crank length, mm: brings the rider's side, which is nearer the camera than the axles, to its own scale. */
  crankMm?: number;
}

export interface AngleReading extends CurveReading {
  uncertainty: AngleUncertainty;
}

export interface LandmarkNote {
  seenFrames: number;
  /** Frames put in by bridging a short gap. */
  bridgedFrames: number;
  /** Frames that stay gaps. */
  lostFrames: number;
  /** Localisation noise, SD of the path about its smooth course, px. */
  noisePx: number;
}

export interface Reading {
  ok: true;
  map: PlaneMap;
  crank: {
    centrePx: Vec2;
    radiusPx: number;
    residualPx: number;
    /** Spindle from the toe landmark in the foot's frame, mm; NaN when the spindle itself was marked. */
    spindleFromToeMm: Vec2;
    /** Crank length as the axle scale measures it, and against the true one when that is known (1 = agrees). */
    measuredMm: number;
    ratio: number | null;
  };
  /** Scale on the rider's side of the bike, after the crank's correction. */
  riderMmPerPx: number;
  /** Unwrapped crank angle of every frame, degrees. */
  thetaDeg: Float64Array;
  tS: Float64Array;
  /** Which of the tracks' frames each entry above is: doubled stamps are left out. */
  frames: Int32Array;
  /** Each frame's angles, lightly smoothed, for the overlay and the tables. */
  frameAnglesDeg: Record<AngleKey, Float64Array>;
  strokes: Stroke[];
  usedStrokes: number;
  /** Fewer than five strokes: shown as provisional. */
  provisional: boolean;
  cadenceRpm: number;
  angles: Record<AngleKey, AngleReading>;
  kneeOverSpindleMm: { value: number; uncertaintyMm: number };
  hipTravelMm: { vertical: number; foreAft: number };
  landmarks: Record<SideLandmark, LandmarkNote>;
  /** Hip and spindle about the bottom bracket on the crank's turn, mm, for the leg model. */
  hipCurveMm: { x: HarmonicCurve; y: HarmonicCurve };
  /** Medians over the used frames, mm: the rider's own segments. */
  segmentsMm: { thigh: number; shank: number; ankleBehind: number; ankleAbove: number; crank: number };
}

export type ReadResult =
  | Reading
  | { ok: false; reason: 'too-few-frames' | 'no-crank' | 'no-stroke' | 'landmark-missing'; detail: string };

/** Longest bridged gaps, s of unseen time: the leg moves fast; hip, trunk and arm move slowly and over a whole stroke. */
const BRIDGE_LEG_S = 0.06;
const BRIDGE_TRUNK_S = 0.12;
const SLOW: ReadonlySet<string> = new Set(['hip', 'shoulder', 'elbow', 'wrist']);

interface Paths {
  tS: Float64Array;
  frames: Int32Array;
  raw: Record<SideLandmark, Vec2[]>;
  smooth: Record<SideLandmark, Vec2[]>;
  notes: Record<SideLandmark, LandmarkNote>;
  spindle: Vec2[] | undefined;
}

const jointsAt = (set: Record<SideLandmark, Vec2[]>, i: number): Record<SideLandmark, Vec2> =>
  Object.fromEntries(SIDE_LANDMARKS.map((key) => [key, set[key][i]])) as Record<SideLandmark, Vec2>;

/** Leaves out frames whose stamp does not move on (a phone may write the same one twice). */
function growingFrames(tS: ArrayLike<number>): number[] {
  const keep: number[] = [];
  for (let i = 0; i < tS.length; i += 1)
    if (keep.length === 0 || tS[i] > tS[keep[keep.length - 1]] + 1e-6) keep.push(i);
  return keep;
}

function bringToPlane(tracks: Tracks, map: PlaneMap): Paths {
  const keep = growingFrames(tracks.tS);
  const tS = undoRounding(Float64Array.from(keep, (i) => tracks.tS[i]));
  const frameS = median(tS.slice(1).map((t, i) => t - tS[i]));
  const raw = {} as Paths['raw'];
  const smooth = {} as Paths['smooth'];
  const notes = {} as Paths['notes'];
  const path = (key: string): { x: Float64Array; y: Float64Array; filled: Uint8Array } => {
    const plane = keep.map((i) => toPlane(map, pointAt(tracks, key, i)));
    const longest = (SLOW.has(key) ? BRIDGE_TRUNK_S : BRIDGE_LEG_S) + frameS;
    const x = bridgeGaps(
      tS,
      plane.map((p) => p.x),
      longest,
    );
    const y = bridgeGaps(
      tS,
      plane.map((p) => p.y),
      longest,
    );
    return { x: x.values, y: y.values, filled: x.filled };
  };
  const asPoints = (x: Float64Array, y: Float64Array): Vec2[] => Array.from(x, (v, i) => ({ x: v, y: y[i] }));
  for (const key of SIDE_LANDMARKS) {
    const p = path(key);
    raw[key] = asPoints(p.x, p.y);
    const seen = p.x.reduce((n, v) => n + (Number.isFinite(v) ? 1 : 0), 0);
    const bridged = p.filled.reduce((n, v) => n + v, 0);
    notes[key] = {
      seenFrames: seen - bridged,
      bridgedFrames: bridged,
      lostFrames: p.x.length - seen,
      noisePx: 0,
    };
  }
  const hasSpindle = tracks.landmarks.spindle?.xPx.some(Number.isFinite);
  const spindle = hasSpindle ? ((p) => asPoints(p.x, p.y))(path('spindle')) : undefined;
  return { tS, frames: Int32Array.from(keep), raw, smooth, notes, spindle };
}

function smoothPaths(paths: Paths, cutoffHz: number): Record<SideLandmark, Vec2[]> {
  const out = {} as Record<SideLandmark, Vec2[]>;
  for (const key of SIDE_LANDMARKS) {
    const p = paths.raw[key];
    const x = smoothSeries(
      paths.tS,
      p.map((q) => q.x),
      cutoffHz,
    );
    const y = smoothSeries(
      paths.tS,
      p.map((q) => q.y),
      cutoffHz,
    );
    out[key] = p.map((_, i) => ({ x: x[i], y: y[i] }));
  }
  return out;
}

/** 6 Hz at 90 rpm is the field's usual cut-off; a slower or faster leg has its shape at lower or higher frequencies. */
const cutoffFor = (cadenceRpm: number): number => (6 * cadenceRpm) / 90;

/** Localisation noise: how far each path lies about its smooth course, px. */
function noteNoise(paths: Paths, mmPerPx: number): void {
  for (const key of SIDE_LANDMARKS) {
    const smooth = paths.smooth[key];
    const off = paths.raw[key].flatMap((q, i) =>
      isSeen(q) ? [Math.abs(q.x - smooth[i].x), Math.abs(q.y - smooth[i].y)] : [],
    );
    paths.notes[key].noisePx = (1.4826 * median(off)) / mmPerPx;
  }
}

const pitchOf = (set: Record<SideLandmark, Vec2[]>): number[] =>
  set.heel.map((_, i) => jointAngleDeg('footPitchDeg', jointsAt(set, i)));

/**
 * The pedal circle, twice: a first fit on the raw paths tells the cadence, the second takes lightly smoothed ones. Noise in the
 * pitch would otherwise pass for a turning of the foot and pull the spindle's place under it.
 */
function locateCrank(paths: Paths): CrankFit | null {
  const first = fitCrank(paths.raw.toe, pitchOf(paths.raw), paths.spindle);
  if (!first || paths.spindle) return first;
  const theta = crankAngles(first.spindleMm, first.circle.centre, paths.tS);
  const cadenceRpm = median(
    theta.slice(1).map((t, i) => Math.abs(t - theta[i]) / (6 * (paths.tS[i + 1] - paths.tS[i]))),
  );
  if (!(cadenceRpm > 20)) return first;
  const light = smoothPaths(paths, 1.8 * cutoffFor(cadenceRpm));
  return fitCrank(light.toe, pitchOf(light)) ?? first;
}

/**
 * Reads a clip: from tracked landmarks to the pedal circle, the strokes, and every angle on the crank's turn with its
 * uncertainty (handbook: measuring). Pure: the same tracks and options give the same reading.
 * @returns the reading, or why there is none
 */
export function readTracks(tracks: Tracks, options: ReadOptions): ReadResult {
  const missing = SIDE_LANDMARKS.find((key) => !tracks.landmarks[key]?.xPx.some(Number.isFinite));
  if (missing)
    return { ok: false, reason: 'landmark-missing', detail: `“${missing}” is not seen on any frame.` };
  const map: PlaneMap = {
    facing: options.facing ?? facingOf(tracks),
    mmPerPx: options.mmPerPx,
    levelDeg: options.levelDeg ?? 0,
    ...(options.keystone && { keystone: options.keystone }),
  };
  let paths = bringToPlane(tracks, map);
  if (paths.tS.length < 12) {
    return {
      ok: false,
      reason: 'too-few-frames',
      detail: `${paths.tS.length} frames with their own time stamps; 12 are the least.`,
    };
  }
  let crank = locateCrank(paths);
  if (!crank) return { ok: false, reason: 'no-crank', detail: 'The foot’s path does not make a circle.' };
  const measuredMm = crank.circle.radius;
  const ratio = options.crankMm ? measuredMm / options.crankMm : null;
  // The near foot stands some 17 cm nearer the camera than the axles, so it looks 2 to 6 % larger. Beyond that the typed
  // lengths are wrong, and correcting would hide it.
  const nearer = ratio !== null && ratio > 0.985 && ratio < 1.07;
  if (nearer) {
    map.mmPerPx = options.mmPerPx / ratio;
    paths = bringToPlane(tracks, map);
    crank = locateCrank(paths) ?? crank;
  }
  const centre = crank.circle.centre;
  const thetaDeg = crankAngles(crank.spindleMm, centre, paths.tS);
  const strokes = cutStrokes(thetaDeg, paths.tS);
  const used = strokes.filter((s) => !s.fault);
  if (used.length === 0) {
    return {
      ok: false,
      reason: 'no-stroke',
      detail: 'No whole turn of the crank, top to top, is in these tracks.',
    };
  }
  const cadenceRpm = (60 * used.length) / used.reduce((s, k) => s + k.endS - k.startS, 0);
  paths.smooth = smoothPaths(paths, cutoffFor(cadenceRpm));
  noteNoise(paths, map.mmPerPx);

  const strokeOf = Int32Array.from(paths.tS, (t) => used.findIndex((s) => t >= s.startS && t < s.endS));
  const over = (values: ArrayLike<number>, smooth: ArrayLike<number>): CurveReading =>
    curveOverStrokes(thetaDeg, strokeOf, values, smooth, used);
  const angles = {} as Record<AngleKey, AngleReading>;
  const frameAnglesDeg = {} as Record<AngleKey, Float64Array>;
  for (const key of ANGLE_KEYS) {
    const raw = Float64Array.from(paths.tS, (_, i) => jointAngleDeg(key, jointsAt(paths.raw, i)));
    const smooth = Float64Array.from(paths.tS, (_, i) => jointAngleDeg(key, jointsAt(paths.smooth, i)));
    frameAnglesDeg[key] = smooth;
    const reading = over(raw, smooth);
    const nearest = nearestFrame(thetaDeg, strokeOf, reading.minAtThetaDeg);
    const sensitivity = angleSensitivity(key, jointsAt(paths.smooth, nearest));
    const noiseMm = Math.max(...SIDE_LANDMARKS.map((k) => paths.notes[k].noisePx)) * map.mmPerPx;
    angles[key] = {
      ...reading,
      uncertainty: combineUncertainty(key, sensitivity, noiseMm, reading.strokeSdDeg, used.length),
    };
  }
  const about = (p: Vec2): Vec2 => ({ x: p.x - centre.x, y: p.y - centre.y });
  const series = (key: SideLandmark, axis: 'x' | 'y', set = paths.raw): number[] =>
    set[key].map((p) => about(p)[axis]);
  const hipX = over(series('hip', 'x'), series('hip', 'x', paths.smooth));
  const hipY = over(series('hip', 'y'), series('hip', 'y', paths.smooth));
  const ahead = paths.raw.knee.map((p, i) => p.x - crank.spindleMm[i].x);
  const aheadSmooth = paths.smooth.knee.map((p, i) => p.x - crank.spindleMm[i].x);
  const kneeAhead = over(ahead, aheadSmooth);
  return {
    ok: true,
    map: { ...map, mmPerPx: options.mmPerPx },
    crank: {
      centrePx: fromPlane(map, centre),
      radiusPx: crank.circle.radius / map.mmPerPx,
      residualPx: crank.circle.residual / map.mmPerPx,
      spindleFromToeMm: crank.offsetMm,
      measuredMm,
      ratio,
    },
    riderMmPerPx: map.mmPerPx,
    thetaDeg,
    tS: paths.tS,
    frames: paths.frames,
    frameAnglesDeg,
    strokes,
    usedStrokes: used.length,
    provisional: used.length < 5,
    cadenceRpm,
    angles,
    kneeOverSpindleMm: {
      value: evaluateCurve(kneeAhead.curve, 90),
      uncertaintyMm: 1.96 * Math.hypot(5, 5, kneeAhead.strokeSdDeg / Math.sqrt(used.length)),
    },
    hipTravelMm: { vertical: hipY.meanSwing, foreAft: hipX.meanSwing },
    landmarks: paths.notes,
    hipCurveMm: { x: hipX.curve, y: hipY.curve },
    segmentsMm: segments(paths, crank.spindleMm, strokeOf, crank.circle.radius),
  };
}

function nearestFrame(thetaDeg: Float64Array, strokeOf: Int32Array, atDeg: number): number {
  let best = 0;
  let gap = Infinity;
  thetaDeg.forEach((t, i) => {
    const off = Math.abs(turnDeg(t, atDeg));
    if (strokeOf[i] >= 0 && off < gap) {
      gap = off;
      best = i;
    }
  });
  return best;
}

/** The rider's own segments, mm: medians, so that a few wrong frames do not count. */
function segments(
  paths: Paths,
  spindle: readonly Vec2[],
  strokeOf: Int32Array,
  crankMm: number,
): Reading['segmentsMm'] {
  const { hip, knee, ankle } = paths.raw;
  const rows = paths.tS.reduce<number[]>((list, _, i) => (strokeOf[i] >= 0 ? [...list, i] : list), []);
  const span = (a: Vec2[], b: Vec2[]): number =>
    median(rows.map((i) => Math.hypot(a[i].x - b[i].x, a[i].y - b[i].y)));
  const inFoot = rows.map((i) => {
    const pitch = (jointAngleDeg('footPitchDeg', jointsAt(paths.raw, i)) * Math.PI) / 180;
    const dx = ankle[i].x - spindle[i].x;
    const dy = ankle[i].y - spindle[i].y;
    return {
      behind: -(dx * Math.cos(pitch) - dy * Math.sin(pitch)),
      above: dx * Math.sin(pitch) + dy * Math.cos(pitch),
    };
  });
  return {
    thigh: span(hip, knee),
    shank: span(knee, ankle),
    ankleBehind: median(inFoot.map((f) => f.behind)),
    ankleAbove: median(inFoot.map((f) => f.above)),
    crank: crankMm,
  };
}
