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

/**
 * The figures of a film from ahead or behind, each with its interval.
 * @param own each crank arm's turn  @param smooth the paths after the low pass, mm
 */
export function frontalMeasures(
  options: FrontalOptions,
  motion: FrontalMotion,
  own: Record<Leg, OwnTurn>,
  smooth: Record<FrontalLandmark, PlanePoint[]>,
) {
  const { keys, paths: mm, crankMm, usedDistanceMm: usedDistance, mmPerPx } = motion;
  const { used } = own.right;
  const noiseMm = Math.max(...FRONTAL_NEEDED.map((k) => mm.notes[k].noisePx)) * mmPerPx;
  const tiltSd = options.width ? TILT_SD_DEG.set : TILT_SD_DEG.unset;
  const bases = { left: new Map(), right: new Map() };
  const length = (
    value: number,
    { points, stickers, acrossMm, strokeSdMm, pictureSdMm }: LengthParts,
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
  const series = (set: Record<FrontalLandmark, PlanePoint[]>, value: (at: At) => number): number[] =>
    Array.from(mm.tS, (_, i) => value((k) => set[k][i]));
  const through = (leg: Leg, value: (at: At) => number): CurveReading =>
    curveOverStrokes({
      thetaDeg: own[leg].theta,
      strokeOf: own[leg].strokeOf,
      raw: series(mm.raw, value),
      smooth: series(smooth, value),
      used: own[leg].used,
      bases: bases[leg],
    });
  const middle = mean(
    (['toeR', 'toeL'] as const).map((k) => mean(mm.raw[k].map((p) => p.x).filter(Number.isFinite))),
  );
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
        pictureSdMm: fore * YAW_SINE,
      }),
      kneeOverFootPushMm: length(push(overFoot), {
        points: 2,
        stickers: ['kneeL', 'toeL'],
        acrossMm: rise,
        strokeSdMm: overFoot.strokeSdDeg,
        pictureSdMm: Math.hypot(
          AHEAD.knee[options.view] * YAW_SINE,
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
          pictureSdMm: AHEAD.knee[options.view] * YAW_SINE,
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
        pictureSdMm: -AHEAD.hip[options.view] * YAW_SINE,
      }),
      swing: length(shift.meanSwing, {
        points: 2,
        stickers: [],
        acrossMm: 0,
        strokeSdMm: swingSd(shift),
        pictureSdMm: 0,
      }),
    },
  };
}
