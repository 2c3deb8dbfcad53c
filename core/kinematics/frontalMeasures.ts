import { DEG_PER_RAD, RAD_PER_DEG } from '../math/angles.ts';
import type { PlanePoint } from '../math/vec.ts';
import { mean } from '../math/statistics.ts';
import { curveOverStrokes, swingSd, type CurveReading } from './curves.ts';
import { FRONTAL_NEEDED, type FrontalLandmark } from '../landmarks/landmarks.ts';
import { type Stroke } from './strokes.ts';
import { combineLength, frontalStickerSdMm, RIDE_SD_DEG, type Measured } from './uncertainty.ts';
import type { FrontalOptions, LegFrontal, Obliquity } from './frontalReading.ts';
import { AHEAD, KNEE_FORE_AFT, type FrontalMotion } from './frontalMotion.ts';
/** How far those may be off, SD, and what a lens not quite straight ahead adds. */
const AHEAD_SD_MM = 50;
const YAW_SD_DEG = 1.5;
/** The tilt left when it was set on a level line across the bike, and when it was not set at all. */
const TILT_SD_DEG = { set: 0.4, unset: 1 };

/** A knee's path, a stance and a pelvis after sitting down anew, SD. */
const KNEE_RIDE_SD_MM = 2;

type Leg = 'left' | 'right';
type At = (k: FrontalLandmark) => PlanePoint;

/** A crank arm's turn, with the strokes cut on it. */
export interface OwnTurn {
  theta: Float64Array;
  strokes: Stroke[];
  strokeOf: Int32Array;
  used: Stroke[];
}

/** What a length's interval is made of, beside what is the same for all of this film. */
interface LengthParts {
  points: number;
  stickers: readonly FrontalLandmark[];
  acrossMm: number;
  strokeSdMm: number;
  pictureSdMm: number;
}

const YAW_SINE = Math.sin(YAW_SD_DEG * RAD_PER_DEG);

type Set = Record<FrontalLandmark, PlanePoint[]>;

/** What every figure of one film from ahead or behind is made with. */
interface FrontalFilm {
  options: FrontalOptions;
  motion: FrontalMotion;
  /** SD of where the tilt was left, degrees. */
  tiltSdDeg: number;
  noiseMm: number;
  /** Strokes that count. */
  strokes: number;
  length: (value: number, parts: LengthParts) => Measured;
  /** A quantity through the turn of one crank arm. */
  through: (leg: Leg, value: (at: At) => number) => CurveReading;
  /** Halfway between the toes, across the bike. */
  middleMm: number;
}

function filmOf(
  options: FrontalOptions,
  motion: FrontalMotion,
  own: Record<Leg, OwnTurn>,
  smooth: Set,
): FrontalFilm {
  const mm = motion.paths;
  const strokes = own.right.used.length;
  const noiseMm = Math.max(...FRONTAL_NEEDED.map((k) => mm.notes[k].noisePx)) * motion.mmPerPx;
  const tiltSdDeg = options.width ? TILT_SD_DEG.set : TILT_SD_DEG.unset;
  const bases = { left: new Map(), right: new Map() };
  const series = (set: Set, value: (at: At) => number): number[] =>
    Array.from(mm.tS, (_, i) => value((k) => set[k][i]));
  return {
    options,
    motion,
    tiltSdDeg,
    noiseMm,
    strokes,
    length: (value, { stickers, ...parts }) => ({
      value,
      uncertainty: combineLength({
        ...parts,
        noiseMm,
        stickerSdsMm: stickers.map(frontalStickerSdMm),
        rideSdMm: KNEE_RIDE_SD_MM,
        strokes,
        levelSdDeg: tiltSdDeg,
      }),
    }),
    through: (leg, value) =>
      curveOverStrokes({
        thetaDeg: own[leg].theta,
        strokeOf: own[leg].strokeOf,
        raw: series(mm.raw, value),
        smooth: series(smooth, value),
        used: own[leg].used,
        bases: bases[leg],
      }),
    middleMm: mean(
      (['toeR', 'toeL'] as const).map((k) => mean(mm.raw[k].map((p) => p.x).filter(Number.isFinite))),
    ),
  };
}

/** Mean over the push, the first half of the turn. */
const push = (c: CurveReading): number => mean(c.meanOnGrid.slice(0, 73));

/** A knee's path, over its foot and off the line from hip to foot. */
function legOf(film: FrontalFilm, leg: Leg): LegFrontal {
  const { options, motion, length, middleMm } = film;
  const through = (value: (at: At) => number): CurveReading => film.through(leg, value);
  const letter = leg === 'right' ? 'R' : 'L';
  const out = leg === 'right' ? 1 : -1;
  const [knee, toe, hip] = [`knee${letter}`, `toe${letter}`, `hip${letter}`] as FrontalLandmark[];
  const lateral = through((at) => out * (at(knee).x - middleMm));
  const height = through((at) => at(knee).y);
  const overFoot = through((at) => out * (at(knee).x - at(toe).x));
  const rise = through((at) => at(knee).y - at(toe).y).curve.mean;
  const offLine = motion.keys.includes(hip)
    ? through((at) => {
        const [h, k, t] = [at(hip), at(knee), at(toe)];
        return out * (k.x - (t.x + ((h.x - t.x) * (k.y - t.y)) / (h.y - t.y)));
      })
    : null;
  // Seen from off straight ahead, the knee's way to and fro goes into its way across.
  // It adds fully only where both ways are in step; three quarters are the mean over phases.
  const fore = 1.5 * KNEE_FORE_AFT * motion.crankMm;
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
      pictureSdMm: fore * YAW_SINE,
    }),
    kneeOverFootPushMm: length(push(overFoot), {
      points: 2,
      stickers: ['kneeL', 'toeL'],
      acrossMm: rise,
      strokeSdMm: overFoot.strokeSdDeg,
      pictureSdMm: Math.hypot(
        AHEAD.knee[options.view] * YAW_SINE,
        (Math.abs(lateral.curve.mean) * AHEAD_SD_MM) / motion.usedDistanceMm,
      ),
    }),
    kneeOffLinePushMm:
      offLine &&
      length(push(offLine), {
        points: 3,
        stickers: ['kneeL', 'toeL', 'hipL'],
        acrossMm: rise / 2,
        strokeSdMm: offLine.strokeSdDeg,
        pictureSdMm: AHEAD.knee[options.view] * YAW_SINE,
      }),
  };
}

/** How a pair of landmarks tips to the sides; null where one of them was not seen. */
function obliquityOf(film: FrontalFilm, of: Obliquity['of']): Obliquity | null {
  const { through, noiseMm, tiltSdDeg } = film;
  const [r, l] = [`${of}R`, `${of}L`] as FrontalLandmark[];
  if (!film.motion.keys.includes(r) || !film.motion.keys.includes(l)) return null;
  const curve = through(
    'right',
    (at) => Math.atan2(at(l).y - at(r).y, Math.abs(at(r).x - at(l).x)) * DEG_PER_RAD,
  );
  const widthMm = Math.abs(through('right', (at) => at(r).x - at(l).x).curve.mean);
  const perMm = DEG_PER_RAD / widthMm;
  const n = Math.max(1, film.strokes);
  const rideSd = RIDE_SD_DEG.pelvisAngleDeg / 2;
  const random = (curve.strokeSdDeg ** 2 + 2 * (perMm * noiseMm) ** 2) / n;
  return {
    of,
    curve,
    meanDeg: curve.curve.mean,
    swingDeg: curve.meanSwing,
    absoluteDeg:
      1.96 * Math.sqrt(random + rideSd ** 2 + 2 * (perMm * frontalStickerSdMm(r)) ** 2 + tiltSdDeg ** 2),
    changeDeg: 1.96 * Math.sqrt(2 * random + 2 * rideSd ** 2 + 2 * tiltSdDeg ** 2),
  };
}

/** How far the pelvis sits off the middle, and how far it goes from side to side, by one pair of its landmarks. */
function hipShiftOf({ options, through, length, middleMm }: FrontalFilm, of: Obliquity['of']) {
  const [right, left] = [`${of}R`, `${of}L`] as FrontalLandmark[];
  const shift = through('right', (at) => (at(right).x + at(left).x) / 2 - middleMm);
  return {
    curve: shift,
    mean: length(shift.curve.mean, {
      points: 2,
      stickers: [left, right],
      acrossMm: Math.abs(through('right', (at) => at(right).y - at('toeR').y).curve.mean),
      strokeSdMm: shift.strokeSdDeg,
      pictureSdMm: -AHEAD.hip[options.view] * YAW_SINE,
    }),
    swing: length(shift.meanSwing, {
      points: 2,
      stickers: [],
      acrossMm: 0,
      strokeSdMm: swingSd(shift),
      pictureSdMm: 0,
    }),
  };
}

/**
 * The figures of a film from ahead or behind, each with its interval.
 * @param own each crank arm's turn  @param smooth the paths after the low pass, mm
 */
export function frontalMeasures(
  options: FrontalOptions,
  motion: FrontalMotion,
  own: Record<Leg, OwnTurn>,
  smooth: Set,
) {
  const film = filmOf(options, motion, own, smooth);
  // The pair that tells most: wide apart counts more than the hips' softer skin.
  const pelvis =
    [obliquityOf(film, options.view === 'front' ? 'asis' : 'psis'), obliquityOf(film, 'hip')]
      .filter((o) => o !== null)
      .sort((a, b) => a.absoluteDeg - b.absoluteDeg)[0] ?? null;
  const stance = film.through('right', (at) => at('toeR').x - at('toeL').x);
  return {
    legs: { left: legOf(film, 'left'), right: legOf(film, 'right') },
    stanceMm: film.length(stance.curve.mean, {
      points: 2,
      stickers: ['toeL', 'toeR'],
      acrossMm: 0,
      strokeSdMm: stance.strokeSdDeg,
      pictureSdMm: (options.view === 'front' ? 0.005 : 0.015) * Math.abs(stance.curve.mean),
    }),
    pelvis,
    shoulders: obliquityOf(film, 'shoulder'),
    hipShiftMm: pelvis && hipShiftOf(film, pelvis.of),
  };
}
