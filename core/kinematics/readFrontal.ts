import { DEG_PER_RAD, RAD_PER_DEG } from '../math/angles.ts';
import type { ImagePoint, PlanePoint } from '../math/vec.ts';
import { mean } from '../math/statistics.ts';
import { curveOverStrokes, swingSd, type CurveReading } from './curves.ts';
import { FRONTAL_LANDMARKS, FRONTAL_NEEDED, type FrontalLandmark } from '../landmarks/landmarks.ts';
import { bringToPlane, cutoffFor, noteNoise, smoothPaths, type LandmarkNote } from './paths.ts';
import { cutStrokes, type Stroke } from './strokes.ts';
import { framesInStrokes, framesSeen, withoutLandmarks, type Tracks } from '../tracking/tracks.ts';
import { combineLength, frontalStickerSdMm, RIDE_SD_DEG, type Measured } from './uncertainty.ts';
import { phaseFromFeet } from './pedalPhase.ts';

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
  /** Lens to the bottom bracket, from how much nearer the width looks; null where that can't be told. */
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
const LEAST_FRAMES = 12;

/** How far the camera stands where nothing tells it. */
const USUAL_DISTANCE_MM = 4000;
/**
 * How far ahead of the bottom bracket a landmark is, mm: its mean where its sticker sits from the front and from the rear, and how
 * it goes with the sine and cosine of its crank arm, in crank lengths (fitted to the virtual riders). What is nearer the camera
 * looks larger, by about 3 % a 120 mm at 4 m.
 */
const AHEAD: Record<string, { front: number; rear: number; sine: number; cosine: number }> = {
  toe: { front: 24, rear: -42, sine: 0.95, cosine: 0 },
  ankle: { front: -56, rear: -131, sine: 0.84, cosine: 0.03 },
  knee: { front: 160, rear: 60, sine: 0.21, cosine: 0.58 },
  hip: { front: -190, rear: -190, sine: 0, cosine: 0 },
  asis: { front: -130, rear: -130, sine: 0, cosine: 0 },
  psis: { front: -290, rear: -290, sine: 0, cosine: 0 },
  shoulder: { front: 170, rear: 170, sine: 0, cosine: 0 },
};
/** Half the knee's way to and fro, in crank lengths. */
const KNEE_FORE_AFT = Math.hypot(AHEAD.knee.sine, AHEAD.knee.cosine);
/**
 * What stands for the spindle is not it: from behind, the pedal's rear edge some 46 mm back, which a foot that ankles by 11 to 12° raises
 * and lowers by the arm's cosine and sine, mm (fitted to the virtual riders). Half of it is the scatter between riders.
 */
const PEDAL_EDGE = { front: { cosine: 0, sine: 0 }, rear: { cosine: 1, sine: -9 } };
/** How far those may be off, SD, and what a lens not quite straight ahead adds. */
const AHEAD_SD_MM = 50;
const YAW_SD_DEG = 1.5;
/** The tilt left when it was set on a level line across the bike, and when it was not set at all. */
const TILT_SD_DEG = { set: 0.4, unset: 1 };

/** A knee's path, a stance and a pelvis after sitting down anew, SD. */
const KNEE_RIDE_SD_MM = 2;

const boneOf = (key: string): string => key.slice(0, -1);

/**
 * Reads a film from the front or the rear: crank phase from the feet's rise and fall, knee paths, pelvis and shoulders, stance
 * (handbook: measuring, front and rear). Lateral +: the rider's right, whichever side it is on the picture.
 */
export function readFrontal(tracks: Tracks, options: FrontalOptions): FrontalResult {
  const tooFew = (frames: number): FrontalResult => ({
    ok: false,
    reason: 'too-few-frames',
    detail: `${frames} frames with their own time stamps; ${LEAST_FRAMES} are the least.`,
  });
  if (tracks.tS.length < LEAST_FRAMES) return tooFew(tracks.tS.length);
  const missing = FRONTAL_NEEDED.find((key) => framesSeen(tracks, key) < LEAST_FRAMES);
  if (missing)
    return {
      ok: false,
      reason: 'landmark-missing',
      detail: `“${missing}” is not seen, or on too few frames of whole strokes.`,
    };
  if (!options.crankMm && !options.width)
    return { ok: false, reason: 'no-scale', detail: 'Neither a width nor the crank’s length is known.' };
  const keys = FRONTAL_LANDMARKS.filter((key) => framesSeen(tracks, key) >= LEAST_FRAMES);
  const side = options.view === 'rear' ? 1 : -1;
  const tilt = (options.width?.tiltDeg ?? 0) * RAD_PER_DEG;
  const { centrePx } = options;
  // Pixels about the picture's middle, the rider's right to the right, y up, upright.
  const upright = (p: ImagePoint): PlanePoint => {
    const [x, y] = [p.x - centrePx.x, -(p.y - centrePx.y)];
    return {
      x: side * (x * Math.cos(tilt) - y * Math.sin(tilt)),
      y: x * Math.sin(tilt) + y * Math.cos(tilt),
    };
  };
  const paths = bringToPlane(tracks, keys, upright);
  if (paths.tS.length < LEAST_FRAMES) return tooFew(paths.tS.length);
  const heights = (key: FrontalLandmark): number[] => paths.raw[key].map((p) => p.y);
  const noTurn: FrontalResult = {
    ok: false,
    reason: 'no-stroke',
    detail: 'The feet do not rise and fall in turn through a whole stroke.',
  };
  let phase = phaseFromFeet(heights('toeR'), heights('toeL'), paths.tS);
  if (!phase) return noTurn;
  const crankMm = options.crankMm ?? (options.width ? phase.amplitude * options.width.mmPerPx : 0);
  const edge = PEDAL_EDGE[options.view];
  /** Half the feet's rise, mm. */
  const riseMm = Math.hypot(crankMm + edge.cosine, edge.sine);
  const crankScale = riseMm / phase.amplitude;
  const distanceMm = distanceOf(options, crankScale);
  const usedDistance = distanceMm ?? USUAL_DISTANCE_MM;
  const towards = options.view === 'front' ? 1 : -1;
  // What is nearer the camera is drawn smaller again, about the picture's middle: first for the feet, whose heights tell the phase.
  const nearer = (key: FrontalLandmark, thetaDeg: Float64Array): PlanePoint[] => {
    const ahead = AHEAD[boneOf(key)];
    const turn = key.endsWith('R') ? 0 : 180;
    return paths.raw[key].map((p, i) => {
      const arm = (thetaDeg[i] + turn) * RAD_PER_DEG;
      const swing = ahead.sine * Math.sin(arm) + ahead.cosine * Math.cos(arm);
      const z = towards * (ahead[options.view] + crankMm * (Number.isFinite(swing) ? swing : 0));
      const k = 1 - z / usedDistance;
      return { x: p.x * k, y: p.y * k };
    });
  };
  for (let round = 0; round < 3; round += 1) {
    const { thetaDeg } = phase;
    const feet = (key: FrontalLandmark): number[] => nearer(key, thetaDeg).map((p) => p.y);
    phase = phaseFromFeet(feet('toeR'), feet('toeL'), paths.tS) ?? phase;
  }
  const lagDeg = Math.atan2(-edge.sine, crankMm + edge.cosine) * DEG_PER_RAD;
  const thetaDeg = phase.thetaDeg.map((t) => t - lagDeg);
  const mmPerPx = options.crankMm ? riseMm / phase.amplitude : options.width!.mmPerPx;
  const mm = { ...paths, raw: {} as typeof paths.raw };
  for (const key of keys)
    mm.raw[key] = nearer(key, thetaDeg).map((p) => ({ x: p.x * mmPerPx, y: p.y * mmPerPx }));
  // The left leg is half a turn behind: its strokes are cut on its own arm's angle.
  const own = {
    right: turnOf(thetaDeg, paths.tS),
    left: turnOf(
      thetaDeg.map((t) => t + 180),
      paths.tS,
    ),
  };
  const { strokes, used } = own.right;
  // Half a turn behind, the other leg may have no whole stroke in a short film.
  if (used.length === 0 || own.left.used.length === 0) return noTurn;
  const scarce = keys.filter((key) =>
    [own.left, own.right].some(({ strokeOf }) => framesInStrokes(mm.raw[key], strokeOf) < LEAST_FRAMES),
  );
  if (scarce.length > 0) return readFrontal(withoutLandmarks(tracks, scarce), options);
  const cadenceRpm = (60 * used.length) / used.reduce((s, k) => s + k.endS - k.startS, 0);
  const smooth = smoothPaths(mm, cutoffFor(cadenceRpm));
  noteNoise(mm, smooth, mmPerPx);
  const noiseMm = Math.max(...FRONTAL_NEEDED.map((k) => mm.notes[k].noisePx)) * mmPerPx;
  const bases = { left: new Map(), right: new Map() };
  const over = (leg: 'left' | 'right', raw: ArrayLike<number>, lightly: ArrayLike<number>): CurveReading =>
    curveOverStrokes({
      thetaDeg: own[leg].theta,
      strokeOf: own[leg].strokeOf,
      raw,
      smooth: lightly,
      used: own[leg].used,
      bases: bases[leg],
    });
  const tiltSd = options.width ? TILT_SD_DEG.set : TILT_SD_DEG.unset;
  const length = (
    value: number,
    {
      points,
      stickers,
      acrossMm,
      strokeSdMm,
      pictureSdMm,
    }: {
      points: number;
      stickers: readonly FrontalLandmark[];
      acrossMm: number;
      strokeSdMm: number;
      pictureSdMm: number;
    },
  ): Measured => ({
    value,
    uncertainty: combineLength({
      noiseMm,
      points,
      stickerSdsMm: stickers.map(frontalStickerSdMm),
      rideSdMm: KNEE_RIDE_SD_MM,
      acrossMm,
      strokeSdMm,
      strokes: used.length,
      levelSdDeg: tiltSd,
      pictureSdMm,
    }),
  });
  type Set = Record<FrontalLandmark, PlanePoint[]>;
  const series = (set: Set, value: (at: (k: FrontalLandmark) => PlanePoint) => number): number[] =>
    Array.from(paths.tS, (_, i) => value((k) => set[k][i]));
  const through = (
    leg: 'left' | 'right',
    value: (at: (k: FrontalLandmark) => PlanePoint) => number,
  ): CurveReading => over(leg, series(mm.raw, value), series(smooth as Set, value));
  const middle = mean(
    (['toeR', 'toeL'] as const).map((k) => mean(mm.raw[k].map((p) => p.x).filter(Number.isFinite))),
  );
  const yaw = Math.sin(YAW_SD_DEG * RAD_PER_DEG);
  const legOf = (leg: 'left' | 'right'): LegFrontal => {
    const letter = leg === 'right' ? 'R' : 'L';
    const out = leg === 'right' ? 1 : -1;
    const [knee, toe, hip] = [`knee${letter}`, `toe${letter}`, `hip${letter}`] as FrontalLandmark[];
    const lateral = through(leg, (at) => out * (at(knee).x - middle));
    const height = through(leg, (at) => at(knee).y);
    const overFoot = through(leg, (at) => out * (at(knee).x - at(toe).x));
    const rise = through(leg, (at) => at(knee).y - at(toe).y).curve.mean;
    const offLine = keys.includes(hip)
      ? through(leg, (at) => {
          const [h, k, t] = [at(hip), at(knee), at(toe)];
          return out * (k.x - (t.x + ((h.x - t.x) * (k.y - t.y)) / (h.y - t.y)));
        })
      : null;
    // Seen from off straight ahead, the knee's way to and fro goes into its way across.
    // It adds fully only where both ways are in step; three quarters are the mean over phases.
    const fore = 1.5 * KNEE_FORE_AFT * crankMm;
    const push = (c: CurveReading): number => mean(c.meanOnGrid.slice(0, 73));
    return {
      kneeLateralMm: lateral,
      kneeHeightMm: height,
      kneeOverFootMm: overFoot,
      kneeOffLineMm: offLine,
      pathWidthMm: length(lateral.meanSwing, {
        points: 2,
        stickers: [],
        acrossMm: height.meanSwing,
        strokeSdMm: swingSd(lateral),
        pictureSdMm: fore * yaw,
      }),
      kneeOverFootPushMm: length(push(overFoot), {
        points: 2,
        stickers: ['kneeL', 'toeL'],
        acrossMm: rise,
        strokeSdMm: overFoot.strokeSdDeg,
        pictureSdMm: Math.hypot(
          AHEAD.knee[options.view] * yaw,
          (Math.abs(lateral.curve.mean) * AHEAD_SD_MM) / usedDistance,
        ),
      }),
      kneeOffLinePushMm:
        offLine &&
        length(push(offLine), {
          points: 3,
          stickers: ['kneeL', 'toeL', 'hipL'],
          acrossMm: rise / 2,
          strokeSdMm: offLine.strokeSdDeg,
          pictureSdMm: AHEAD.knee[options.view] * yaw,
        }),
    };
  };
  const obliquity = (of: Obliquity['of']): Obliquity | null => {
    const [r, l] = [`${of}R`, `${of}L`] as FrontalLandmark[];
    if (!keys.includes(r) || !keys.includes(l)) return null;
    const curve = through(
      'right',
      (at) => Math.atan2(at(l).y - at(r).y, Math.abs(at(r).x - at(l).x)) * DEG_PER_RAD,
    );
    const widthMm = Math.abs(through('right', (at) => at(r).x - at(l).x).curve.mean);
    const perMm = DEG_PER_RAD / widthMm;
    const n = Math.max(1, used.length);
    const rideSd = RIDE_SD_DEG.pelvisAngleDeg / 2;
    const random = (curve.strokeSdDeg ** 2 + 2 * (perMm * noiseMm) ** 2) / n;
    return {
      of,
      curve,
      meanDeg: curve.curve.mean,
      swingDeg: curve.meanSwing,
      absoluteDeg:
        1.96 * Math.sqrt(random + rideSd ** 2 + 2 * (perMm * frontalStickerSdMm(r)) ** 2 + tiltSd ** 2),
      changeDeg: 1.96 * Math.sqrt(2 * random + 2 * rideSd ** 2 + 2 * tiltSd ** 2),
    };
  };
  // The pair that tells most: wide apart counts more than the hips' softer skin.
  const pelvis =
    [obliquity(options.view === 'front' ? 'asis' : 'psis'), obliquity('hip')]
      .filter((o) => o !== null)
      .sort((a, b) => a.absoluteDeg - b.absoluteDeg)[0] ?? null;
  const pelvisOf = pelvis?.of ?? null;
  const shift = pelvisOf
    ? through('right', (at) => (at(`${pelvisOf}R`).x + at(`${pelvisOf}L`).x) / 2 - middle)
    : null;
  const stance = through('right', (at) => at('toeR').x - at('toeL').x);
  const pelvisHeight = pelvisOf
    ? Math.abs(through('right', (at) => at(`${pelvisOf}R`).y - at('toeR').y).curve.mean)
    : 0;
  return {
    ok: true,
    view: options.view,
    mmPerPx,
    tiltDeg: options.width?.tiltDeg ?? 0,
    scaleFrom: options.crankMm ? 'crank' : 'width',
    crankRatio: options.crankMm && options.width ? (phase.amplitude * options.width.mmPerPx) / riseMm : null,
    distanceMm,
    thetaDeg,
    tS: paths.tS,
    frames: paths.frames,
    strokes,
    usedStrokes: used.length,
    provisional: used.length < 5,
    cadenceRpm,
    legs: { left: legOf('left'), right: legOf('right') },
    stanceMm: length(stance.curve.mean, {
      points: 2,
      stickers: ['toeL', 'toeR'],
      acrossMm: 0,
      strokeSdMm: stance.strokeSdDeg,
      pictureSdMm: (options.view === 'front' ? 0.005 : 0.015) * Math.abs(stance.curve.mean),
    }),
    pelvis,
    shoulders: obliquity('shoulder'),
    hipShiftMm: shift && {
      curve: shift,
      mean: length(shift.curve.mean, {
        points: 2,
        stickers: [`${pelvisOf!}L`, `${pelvisOf!}R`],
        acrossMm: pelvisHeight,
        strokeSdMm: shift.strokeSdDeg,
        pictureSdMm: -AHEAD.hip[options.view] * yaw,
      }),
      swing: length(shift.meanSwing, {
        points: 2,
        stickers: [],
        acrossMm: 0,
        strokeSdMm: swingSd(shift),
        pictureSdMm: 0,
      }),
    },
    landmarks: mm.notes,
  };
}

/** A crank arm's turn, with the strokes cut on it. */
function turnOf(
  theta: Float64Array,
  tS: Float64Array,
): { theta: Float64Array; strokes: Stroke[]; strokeOf: Int32Array; used: Stroke[] } {
  const strokes = cutStrokes(theta, tS);
  const used = strokes.filter((s) => !s.fault);
  return {
    theta,
    strokes,
    used,
    strokeOf: Int32Array.from(tS, (t) => used.findIndex((s) => t >= s.startS && t < s.endS)),
  };
}

/** Lens to bottom bracket from how much larger a width ahead of it looks than the crank; null where they lie too close to tell. */
function distanceOf(options: FrontalOptions, crankScale: number): number | null {
  const { width } = options;
  if (!width || !options.crankMm) return null;
  const z = (options.view === 'front' ? 1 : -1) * width.aheadMm;
  if (Math.abs(z) < 200) return null;
  const ratio = crankScale / width.mmPerPx;
  const distance = (z * ratio) / (ratio - 1);
  return distance > 1500 && distance < 12_000 ? distance : null;
}
