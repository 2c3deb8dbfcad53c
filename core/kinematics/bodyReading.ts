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

/** All landmarks of a side view about the bottom bracket, mm, x forward, y up, and what is known of how they were seen. */
interface SideFilm {
  raw: Set;
  smooth: Set;
  spindle: readonly PlanePoint[];
  over: OverStrokes;
  /** Localisation noise of a landmark, SD. */
  noiseMm: number;
  strokes: number;
  levelSdDeg: number;
  /** How far the joints may stand from the bone where they are estimates, without stickers; null with stickers. */
  estimatedSdMm: Record<SideKey, number> | null;
  /** Whether a landmark was seen, and its path not made up. */
  seen: (key: SideKey) => boolean;
}

/** What the ± of a length is made of. */
interface LengthOf {
  /** Its landmarks, and those of them whose place beside the bone counts. */
  points: readonly SideKey[];
  stickers?: readonly SideKey[];
  acrossMm?: number;
  strokeSdMm: number;
  rideSdMm: number;
  skinSdMm?: number;
}

function length(
  { noiseMm, strokes, levelSdDeg, estimatedSdMm }: SideFilm,
  value: number,
  of: LengthOf,
): Measured {
  return {
    value,
    uncertainty: combineLength({
      noiseMm,
      points: of.points.length,
      stickerSdsMm: (of.stickers ?? of.points).map((k) => (estimatedSdMm ?? STICKER_SD_MM)[k]),
      estimated: estimatedSdMm !== null,
      skinSdMm: of.skinSdMm,
      rideSdMm: of.rideSdMm,
      acrossMm: of.acrossMm ?? 0,
      strokeSdMm: of.strokeSdMm,
      strokes,
      levelSdDeg,
    }),
  };
}

/** A quantity of several landmarks through the turn; null where one of them is not there. */
function through(
  { raw, smooth, over, seen }: SideFilm,
  keys: readonly SideKey[],
  value: (at: (key: SideKey) => PlanePoint, i: number) => number,
): CurveReading | null {
  if (!keys.every((k) => raw[k] && seen(k))) return null;
  const series = (set: Set): number[] => raw[keys[0]]!.map((_, i) => value((k) => set[k]![i], i));
  return over(series(raw), series(smooth));
}

function pathsOf({ raw, smooth, over }: SideFilm): BodyReading['paths'] {
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
  return paths;
}

/** Knee and toe carry a sticker each; the spindle's place under the toe is estimated within some millimetres more. */
function kneeOverSpindle(film: SideFilm, paths: BodyReading['paths']): Measured | null {
  const knee = through(film, ['knee', 'toe'], (at, i) => at('knee').x - film.spindle[i].x);
  return (
    knee &&
    length(film, evaluateCurve(knee.curve, 90), {
      points: ['knee', 'toe'],
      acrossMm: paths.knee!.y.at['90'],
      strokeSdMm: knee.strokeSdDeg,
      rideSdMm: SITS_ELSEWHERE_MM.foreAft,
      skinSdMm: SKIN_SD_MM.knee,
    })
  );
}

function hipTravel(film: SideFilm, hip: PathReading): BodyReading['hipTravelMm'] {
  if (!film.seen('hip')) return null;
  const swing = (c: CurveReading): Measured =>
    length(film, c.meanSwing, {
      points: ['hip', 'hip'],
      stickers: [],
      strokeSdMm: swingSd(c),
      rideSdMm: HIP_TRAVEL_RIDE_SD_MM,
      skinSdMm: HIP_SWING_SKIN_SD_MM,
    });
  return { vertical: swing(hip.y), foreAft: swing(hip.x) };
}

function effectiveSeatAngle(film: SideFilm, hip: PathReading): BodyReading['effectiveSeatAngleDeg'] {
  if (!film.seen('hip')) return null;
  const [hx, hy] = [hip.x.curve.mean, hip.y.curve.mean];
  const hipRange = Math.hypot(hx, hy);
  const perMm = DEG_PER_RAD / hipRange;
  // The bottom bracket is the middle of a fitted circle: it stands far better than a sticker.
  const { uncertainty: u } = length(film, hipRange, {
    points: ['hip'],
    acrossMm: hipRange,
    strokeSdMm: hip.steadinessMm,
    rideSdMm: SITS_ELSEWHERE_MM.foreAft,
  });
  return {
    value: Math.atan2(hy, -hx) * DEG_PER_RAD,
    uncertainty: {
      localisationDeg: perMm * u.localisationMm,
      stickerDeg: perMm * u.stickerMm,
      levelDeg: perMm * u.levelMm,
      skinDeg: 0,
      rideDeg: perMm * u.rideMm,
      strokesDeg: perMm * u.strokesMm,
      pictureDeg: perMm * u.pictureMm,
      absoluteDeg: perMm * u.absoluteMm,
      changeDeg: perMm * u.changeMm,
    },
  };
}

function heelHeight(film: SideFilm, heel: CurveReading): BodyReading['heelHeightMm'] {
  if (!film.seen('heel')) return null;
  const at = (value: number): Measured =>
    length(film, value, { points: ['heel'], strokeSdMm: heel.strokeSdDeg, rideSdMm: HEEL_RIDE_SD_MM });
  return { least: at(heel.min), most: at(heel.max) };
}

/** A length that ends at the top of the head is as uncertain as the way there from the tragus, too. */
const withTop = ({ value, uncertainty: u }: Measured): Measured => ({
  value,
  uncertainty: {
    ...u,
    pictureMm: Math.hypot(u.pictureMm, TRAGUS_TO_TOP_SD_MM),
    absoluteMm: Math.hypot(u.absoluteMm, 1.96 * TRAGUS_TO_TOP_SD_MM),
  },
});

type Trunk = Pick<
  BodyReading,
  | 'headDropMm'
  | 'headAboveBackMm'
  | 'shoulderAboveMidBackMm'
  | 'seenHeightMm'
  | 'handAheadMm'
  | 'handAboveElbowMm'
>;

/** How head, back and hands are held: means over the turn. */
function trunkOf(film: SideFilm, paths: BodyReading['paths']): Trunk {
  const backKeys = (['c7', 'sacrum'] as const).filter((k) => film.raw[k]);
  const backTop = (at: (key: SideKey) => PlanePoint): number =>
    Math.max(at('shoulder').y, ...backKeys.map((k) => at(k).y));
  const gap = (a: SideKey, b: SideKey): number =>
    (paths[a]?.x.curve.mean ?? 0) - (paths[b]?.x.curve.mean ?? 0);
  const meanOf = (
    points: readonly SideKey[],
    acrossMm: number,
    value: (at: (key: SideKey) => PlanePoint) => number,
    alsoNeeded: readonly SideKey[] = [],
  ): Measured | null => {
    const c = through(film, [...points, ...alsoNeeded], value);
    return (
      c &&
      length(film, c.curve.mean, {
        points,
        acrossMm,
        strokeSdMm: c.strokeSdDeg,
        rideSdMm: TRUNK_RIDE_SD_MM,
      })
    );
  };
  const above = meanOf(
    ['head', 'shoulder'],
    gap('head', 'shoulder'),
    (at) => at('head').y + TRAGUS_TO_TOP_MM - backTop(at),
    backKeys,
  );
  const visible = meanOf(
    ['head', 'shoulder', 'hip'],
    gap('head', 'hip'),
    (at) => at('shoulder').y - at('hip').y + Math.max(0, at('head').y + TRAGUS_TO_TOP_MM - backTop(at)),
    backKeys,
  );
  return {
    headDropMm: meanOf(['head', 'hip', 'shoulder'], gap('head', 'shoulder'), (at) => {
      const [h, p, q] = [at('head'), at('hip'), at('shoulder')];
      return h.y - (q.y + ((h.x - q.x) * (q.y - p.y)) / (q.x - p.x));
    }),
    headAboveBackMm: above && withTop(above),
    shoulderAboveMidBackMm: meanOf(
      ['shoulder', 'c7', 'sacrum'],
      gap('shoulder', 'sacrum') / 2,
      (at) => at('shoulder').y - (at('c7').y + at('sacrum').y) / 2,
    ),
    seenHeightMm: visible && withTop(visible),
    handAheadMm: meanOf(['hand'], paths.hand?.y.curve.mean ?? 0, (at) => at('hand').x),
    handAboveElbowMm: meanOf(['hand', 'elbow'], gap('hand', 'elbow'), (at) => at('hand').y - at('elbow').y),
  };
}

/** Distances and paths of a side view. */
export function readBody(film: SideFilm): BodyReading {
  const paths = pathsOf(film);
  return {
    paths,
    kneeOverSpindleMm: kneeOverSpindle(film, paths),
    hipTravelMm: hipTravel(film, paths.hip!),
    effectiveSeatAngleDeg: effectiveSeatAngle(film, paths.hip!),
    heelHeightMm: heelHeight(film, paths.heel!.y),
    ...trunkOf(film, paths),
  };
}
