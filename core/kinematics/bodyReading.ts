import { DEG_PER_RAD } from '../math/angles.ts';
import type { PlanePoint } from '../math/vec.ts';
import { evaluateCurve } from '../math/harmonics.ts';
import type { SideKey } from './angles.ts';
import { swingSd, type CurveReading } from './curves.ts';
import {
  combineLength,
  HIP_SWING_SKIN_SD_MM,
  HIP_TRAVEL_RIDE_SD_MM,
  SITS_ELSEWHERE_MM,
  SKIN_SD_MM,
  STICKER_SD_MM,
  type AngleUncertainty,
  type Measured,
} from './uncertainty.ts';

/** One landmark's path about the bottom bracket on the crank's turn, mm. */
export interface PathReading {
  x: CurveReading;
  y: CurveReading;
  /** Stroke-to-stroke SD of the place, mm: how steadily the path is ridden. */
  steadinessMm: number;
}

/** What the side view tells in millimetres, and of the body as a whole; null where a landmark it hangs on was not seen. */
export interface BodyReading {
  /** Made-up ones for landmarks that were not seen are among them (`standIns` of the reading). */
  paths: Partial<Record<SideKey, PathReading>>;
  /** At the crank forward; minus = behind. */
  kneeOverSpindleMm: Measured | null;
  hipTravelMm: { vertical: Measured; foreAft: Measured } | null;
  /** Bottom bracket to hip above the horizontal behind, mean over the turn. */
  effectiveSeatAngleDeg: { value: number; uncertainty: AngleUncertainty } | null;
  /** The heel's highest and lowest place above the bottom bracket. */
  heelHeightMm: { least: Measured; most: Measured } | null;
  /** Height of the tragus above the line hip→shoulder carried on; minus = the head hangs. Needs `head`. */
  headDropMm: Measured | null;
  /** The head's top above the back's highest marked point. Needs `head`. */
  headAboveBackMm: Measured | null;
  /** Shoulder above the middle of the back (between c7 and sacrum). Needs both. */
  shoulderAboveMidBackMm: Measured | null;
  /** Shoulder above hip, and head above the back: what the wind sees, an indicator and no drag. */
  seenHeightMm: Measured | null;
  /** The grip ahead of the bottom bracket, and above the elbow. Needs `hand`. */
  handAheadMm: Measured | null;
  handAboveElbowMm: Measured | null;
}

/** A quantity over the counted strokes: raw values, and lightly smoothed ones for what single strokes say. */
export type OverStrokes = (raw: ArrayLike<number>, smooth: ArrayLike<number>) => CurveReading;

type Set = Partial<Record<SideKey, PlanePoint[]>>;

/** Tragus to the top of the head: 130 mm, ± 7 SD between adults (anthropometric tables; helmet not counted). */
const TRAGUS_TO_TOP_MM = 130;
const TRAGUS_TO_TOP_SD_MM = 7;
/** Off and on again: 1° of the back at a trunk's length, and 1.5° of the foot at a shoe's. */
const TRUNK_RIDE_SD_MM = 8;
const HEEL_RIDE_SD_MM = 4;

/**
 * Distances and paths of a side view. All landmarks about the bottom bracket, mm, x forward, y up.
 * @param noiseMm localisation noise of a landmark, SD  @param told whether a landmark was seen, and its path not made up
 */
export function readBody(of: {
  raw: Set;
  smooth: Set;
  spindle: readonly PlanePoint[];
  over: OverStrokes;
  noiseMm: number;
  strokes: number;
  levelSdDeg: number;
  seen: (key: SideKey) => boolean;
}): BodyReading {
  const { raw, smooth, spindle, over, noiseMm, strokes, levelSdDeg, seen } = of;
  const paths: BodyReading['paths'] = {};
  for (const key of Object.keys(raw) as SideKey[]) {
    const along = (axis: 'x' | 'y'): CurveReading =>
      over(
        raw[key]!.map((p) => p[axis]),
        smooth[key]!.map((p) => p[axis]),
      );
    const [x, y] = [along('x'), along('y')];
    paths[key] = { x, y, steadinessMm: Math.hypot(x.strokeSdDeg, y.strokeSdDeg) };
  }
  const length = (
    value: number,
    of: {
      /** Its landmarks, and those of them whose place beside the bone counts. */
      points: readonly SideKey[];
      stickers?: readonly SideKey[];
      acrossMm?: number;
      strokeSdMm: number;
      rideSdMm: number;
      skinSdMm?: number;
    },
  ): Measured => ({
    value,
    uncertainty: combineLength({
      noiseMm,
      points: of.points.length,
      stickerSdsMm: (of.stickers ?? of.points).map((k) => STICKER_SD_MM[k]),
      skinSdMm: of.skinSdMm,
      rideSdMm: of.rideSdMm,
      acrossMm: of.acrossMm ?? 0,
      strokeSdMm: of.strokeSdMm,
      strokes,
      levelSdDeg,
    }),
  });
  /** A quantity of several landmarks through the turn; null where one of them is not there. */
  const from = (
    keys: readonly SideKey[],
    value: (at: (key: SideKey) => PlanePoint, i: number) => number,
  ): CurveReading | null => {
    if (!keys.every((k) => raw[k] && seen(k))) return null;
    const series = (set: Set): number[] => raw[keys[0]]!.map((_, i) => value((k) => set[k]![i], i));
    return over(series(raw), series(smooth));
  };
  const hip = paths.hip!;
  const knee = from(['knee', 'toe'], (at, i) => at('knee').x - spindle[i].x);
  const kneeHeight = paths.knee!.y.at['90'];
  const swing = (c: CurveReading): Measured =>
    length(c.meanSwing, {
      points: ['hip', 'hip'],
      stickers: [],
      strokeSdMm: swingSd(c),
      rideSdMm: HIP_TRAVEL_RIDE_SD_MM,
      skinSdMm: HIP_SWING_SKIN_SD_MM,
    });
  const [hx, hy] = [hip.x.curve.mean, hip.y.curve.mean];
  const hipRange = Math.hypot(hx, hy);
  const perMm = DEG_PER_RAD / hipRange;
  // The bottom bracket is the middle of a fitted circle: it stands far better than a sticker.
  const seat = combineLength({
    noiseMm,
    points: 1,
    stickerSdsMm: [STICKER_SD_MM.hip],
    rideSdMm: SITS_ELSEWHERE_MM.foreAft,
    acrossMm: hipRange,
    strokeSdMm: hip.steadinessMm,
    strokes,
    levelSdDeg,
  });
  const heel = paths.heel!.y;

  const head = from(['head', 'hip', 'shoulder'], (at) => {
    const [h, p, q] = [at('head'), at('hip'), at('shoulder')];
    return h.y - (q.y + ((h.x - q.x) * (q.y - p.y)) / (q.x - p.x));
  });
  const backKeys = (['c7', 'sacrum'] as const).filter((k) => raw[k]);
  const backTop = (at: (key: SideKey) => PlanePoint): number =>
    Math.max(at('shoulder').y, ...backKeys.map((k) => at(k).y));
  const above = from(
    ['head', 'shoulder', ...backKeys],
    (at) => at('head').y + TRAGUS_TO_TOP_MM - backTop(at),
  );
  const mid = from(
    ['shoulder', 'c7', 'sacrum'],
    (at) => at('shoulder').y - (at('c7').y + at('sacrum').y) / 2,
  );
  const visible = from(
    ['head', 'shoulder', 'hip', ...backKeys],
    (at) => at('shoulder').y - at('hip').y + Math.max(0, at('head').y + TRAGUS_TO_TOP_MM - backTop(at)),
  );
  const handAhead = from(['hand'], (at) => at('hand').x);
  const handAbove = from(['hand', 'elbow'], (at) => at('hand').y - at('elbow').y);
  const meanOf = (
    c: CurveReading | null,
    points: readonly SideKey[],
    acrossMm: number,
    withTop = false,
  ): Measured | null => {
    if (!c) return null;
    const m = length(c.curve.mean, {
      points,
      acrossMm,
      strokeSdMm: c.strokeSdDeg,
      rideSdMm: TRUNK_RIDE_SD_MM,
    });
    if (!withTop) return m;
    const { uncertainty: u } = m;
    return {
      value: m.value,
      uncertainty: {
        ...u,
        pictureMm: Math.hypot(u.pictureMm, TRAGUS_TO_TOP_SD_MM),
        absoluteMm: Math.hypot(u.absoluteMm, 1.96 * TRAGUS_TO_TOP_SD_MM),
      },
    };
  };
  const gap = (a: SideKey, b: SideKey): number =>
    (paths[a]?.x.curve.mean ?? 0) - (paths[b]?.x.curve.mean ?? 0);
  return {
    paths,
    // Knee and toe carry a sticker each; the spindle's place under the toe is estimated within some millimetres more.
    kneeOverSpindleMm:
      knee &&
      length(evaluateCurve(knee.curve, 90), {
        points: ['knee', 'toe'],
        acrossMm: kneeHeight,
        strokeSdMm: knee.strokeSdDeg,
        rideSdMm: SITS_ELSEWHERE_MM.foreAft,
        skinSdMm: SKIN_SD_MM.knee,
      }),
    hipTravelMm: seen('hip') ? { vertical: swing(hip.y), foreAft: swing(hip.x) } : null,
    effectiveSeatAngleDeg: !seen('hip')
      ? null
      : {
          value: Math.atan2(hy, -hx) * DEG_PER_RAD,
          uncertainty: {
            localisationDeg: perMm * seat.localisationMm,
            stickerDeg: perMm * seat.stickerMm,
            levelDeg: perMm * seat.levelMm,
            skinDeg: 0,
            rideDeg: perMm * seat.rideMm,
            strokesDeg: perMm * seat.strokesMm,
            pictureDeg: perMm * seat.pictureMm,
            absoluteDeg: perMm * seat.absoluteMm,
            changeDeg: perMm * seat.changeMm,
          },
        },
    heelHeightMm: !seen('heel')
      ? null
      : {
          least: length(heel.min, {
            points: ['heel'],
            strokeSdMm: heel.strokeSdDeg,
            rideSdMm: HEEL_RIDE_SD_MM,
          }),
          most: length(heel.max, {
            points: ['heel'],
            strokeSdMm: heel.strokeSdDeg,
            rideSdMm: HEEL_RIDE_SD_MM,
          }),
        },
    headDropMm: meanOf(head, ['head', 'hip', 'shoulder'], gap('head', 'shoulder')),
    headAboveBackMm: meanOf(above, ['head', 'shoulder'], gap('head', 'shoulder'), true),
    shoulderAboveMidBackMm: meanOf(mid, ['shoulder', 'c7', 'sacrum'], gap('shoulder', 'sacrum') / 2),
    seenHeightMm: meanOf(visible, ['head', 'shoulder', 'hip'], gap('head', 'hip'), true),
    handAheadMm: meanOf(handAhead, ['hand'], paths.hand?.y.curve.mean ?? 0),
    handAboveElbowMm: meanOf(handAbove, ['hand', 'elbow'], gap('hand', 'elbow')),
  };
}
