import { DEG_PER_RAD, RAD_PER_DEG } from '../math/angles.ts';
import type { FrontalReading } from '../kinematics/frontalReading.ts';
import type { AngleReading, Reading } from '../kinematics/read.ts';
import {
  ANKLE_RANGE_RIDE_SD_DEG,
  KNEE_MAX_RIDE_SD_DEG,
  STICKER_SD_MM,
  withRideSd,
  type AngleUncertainty,
  type LengthUncertainty,
  type Measured,
} from '../kinematics/uncertainty.ts';
import type { AngleKey } from '../kinematics/angles.ts';
import { judge, outOfBand, type Band, type OutOfBand, type Verdict } from './judge.ts';
import { MEASURE_KEYS, type MeasureKey, type Protocol } from './protocols.ts';

/** What a ± is made of, each an SD in the measure's own unit. */
export interface UncertaintyParts {
  stickers: number;
  skin: number;
  ride: number;
  localisation: number;
  level: number;
  picture: number;
  strokes: number;
}

export interface MeasureReading {
  key: MeasureKey;
  value: number;
  /** 95 %, absolute. */
  uncertainty: number;
  /** 95 %, for a change with the stickers left on. */
  change: number;
  parts: UncertaintyParts;
  unit: '°' | 'mm';
  band: Band;
  /** P(the true value lies under the band), P(over). */
  pOut: OutOfBand;
  verdict: Verdict;
  /** Fewer than five strokes. */
  provisional: boolean;
  /** By the pose model, without stickers. */
  estimated: boolean;
}

type Figure = Pick<MeasureReading, 'value' | 'uncertainty' | 'change' | 'parts'>;

/** A measure in degrees from its angle's uncertainty. */
export function inDegrees(value: number, u: AngleUncertainty): Figure {
  const parts = {
    stickers: u.stickerDeg,
    skin: u.skinDeg,
    ride: u.rideDeg,
    localisation: u.localisationDeg,
    level: u.levelDeg,
    picture: u.pictureDeg,
    strokes: u.strokesDeg,
  };
  return { value, uncertainty: u.absoluteDeg, change: u.changeDeg, parts };
}

const partsOf = (u: LengthUncertainty): UncertaintyParts => ({
  stickers: u.stickerMm,
  skin: u.skinMm,
  ride: u.rideMm,
  localisation: u.localisationMm,
  level: u.levelMm,
  picture: u.pictureMm,
  strokes: u.strokesMm,
});

/** A measured length as a figure. */
export const inMm = ({ value, uncertainty: u }: Measured): Figure => ({
  value,
  uncertainty: u.absoluteMm,
  change: u.changeMm,
  parts: partsOf(u),
});

const NOTHING: UncertaintyParts = {
  stickers: 0,
  skin: 0,
  ride: 0,
  localisation: 0,
  level: 0,
  picture: 0,
  strokes: 0,
};

/** What the knee usually goes through, where the hip was not seen (handbook: how people pedal). */
const USUAL_KNEE_RANGE_DEG = 73;

/**
 * What stickers beside the bone leave of a range of the ankle's angle, SD in degrees. The knee's sticker turns with the thigh against
 * the shank, the ankle's with the shank against the foot: between two ends that turn by α an offset e over a length l errs by
 * (e/l)·2 sin(α/2), the rest cancels (own derivation).
 */
function rangeStickerDeg(
  { segmentsMm, estimatedSdMm }: Reading,
  knee: AngleReading | undefined,
  ankle: AngleReading,
): number {
  const part = (offMm: number, lengthMm: number, turnDeg: number): number =>
    (offMm / lengthMm) * 2 * Math.sin((turnDeg * RAD_PER_DEG) / 2) * DEG_PER_RAD;
  const sdMm = estimatedSdMm ?? STICKER_SD_MM;
  const foot = Math.hypot(segmentsMm.ankleBehind, segmentsMm.ankleAbove);
  return Math.hypot(
    part(sdMm.knee, segmentsMm.shank, knee ? knee.max - knee.min : USUAL_KNEE_RANGE_DEG),
    part(sdMm.ankle, foot, ankle.max - ankle.min),
  );
}

/** The range of the ankle's angle: its two ends err each by itself, but for how a ride holds the foot. */
function ankleRange(reading: Reading, ankle: AngleReading): Figure {
  const stickers = rangeStickerDeg(reading, reading.angles.kneeFlexionDeg, ankle);
  const { localisationDeg, strokesDeg } = ankle.uncertainty;
  const ride = ANKLE_RANGE_RIDE_SD_DEG;
  const [localisation, strokes] = [Math.SQRT2 * localisationDeg, Math.SQRT2 * strokesDeg];
  const passing = Math.hypot(ride, localisation, strokes);
  return {
    value: ankle.max - ankle.min,
    uncertainty: 1.96 * Math.hypot(passing, stickers),
    change: 1.96 * Math.SQRT2 * passing,
    parts: { ...NOTHING, stickers, ride, localisation, strokes },
  };
}

/** The measures that a reading from the side gives; those that need points which were not seen are left out. */
function fromSide(reading: Reading): Partial<Record<MeasureKey, Figure>> {
  const { angles, body } = reading;
  const angle = (key: AngleKey, value: (a: AngleReading) => number): Figure | null => {
    const a = angles[key];
    return a ? inDegrees(value(a), a.uncertainty) : null;
  };
  const length = (m: Measured | null | undefined): Figure | null => (m ? inMm(m) : null);
  const mean = (a: AngleReading): number => a.curve.mean;
  const { effectiveSeatAngleDeg: seat } = body;
  const { kneeFlexionDeg: knee } = angles;
  const figures: Partial<Record<MeasureKey, Figure | null>> = {
    kneeFlexionMinDeg: angle('kneeFlexionDeg', (a) => a.min),
    kneeFlexionMaxDeg: knee && inDegrees(knee.max, withRideSd(knee.uncertainty, KNEE_MAX_RIDE_SD_DEG)),
    hipAngleMinDeg: angle('hipAngleDeg', (a) => a.min),
    backAngleDeg: angle('backAngleDeg', mean),
    shoulderAngleDeg: angle('shoulderAngleDeg', mean),
    elbowFlexionDeg: angle('elbowFlexionDeg', mean),
    footPitch90Deg: angle('footPitchDeg', (a) => a.at['90']),
    footPitch180Deg: angle('footPitchDeg', (a) => a.at['180']),
    ankleRangeDeg: angles.ankleAngleDeg ? ankleRange(reading, angles.ankleAngleDeg) : null,
    effectiveSeatAngleDeg: seat && inDegrees(seat.value, seat.uncertainty),
    kneeOverSpindleMm: length(body.kneeOverSpindleMm),
    hipVerticalTravelMm: length(body.hipTravelMm?.vertical),
    shoulderAboveMidBackMm: length(body.shoulderAboveMidBackMm),
    headAboveBackMm: length(body.headAboveBackMm),
  };
  return Object.fromEntries(Object.entries(figures).filter(([, f]) => f !== null));
}

/** The knee whose path is wider, from the front or the rear. */
function fromAhead({ legs }: FrontalReading): Partial<Record<MeasureKey, Figure>> {
  const [l, r] = [legs.left.pathWidthMm, legs.right.pathWidthMm];
  return { kneePathWidthMm: inMm(l.value > r.value ? l : r) };
}

/**
 * The protocol's measures out of what was read, each judged against its band by its own uncertainty. What was not measured is not
 * there; where the protocol asks nothing of a measure its band is open on both sides.
 * @param frontal the film from the front or the rear that goes with it, where there is one
 */
export function judgeReading(
  reading: Reading | null,
  protocol: Protocol,
  frontal: FrontalReading | null = null,
): MeasureReading[] {
  const figures = { ...(reading && fromSide(reading)), ...(frontal && fromAhead(frontal)) };
  return MEASURE_KEYS.flatMap((key) => {
    const figure = figures[key];
    if (!figure || !Number.isFinite(figure.value)) return [];
    const band = protocol.bands[key];
    return [
      {
        key,
        ...figure,
        unit: key.endsWith('Mm') ? ('mm' as const) : ('°' as const),
        band,
        pOut: outOfBand(figure.value, figure.uncertainty, band),
        verdict: judge(figure.value, figure.uncertainty, band),
        provisional: (key === 'kneePathWidthMm' ? frontal : reading)?.provisional ?? true,
        estimated: key !== 'kneePathWidthMm' && (reading?.estimatedSdMm ?? null) !== null,
      },
    ];
  });
}

/**
 * Takes of one set-up as one: the middle of their values; what is anew with each ride (sitting, strokes, finding the stickers) counts by
 * their number, what stays (sticker, skin, level, picture) counts whole.
 */
export function pooled(takes: readonly (readonly MeasureReading[])[]): MeasureReading[] {
  const [first = [], ...more] = takes;
  if (more.length === 0) return [...first];
  return first.map((m) => {
    const all = [m, ...more.flatMap((t) => t.filter((q) => q.key === m.key))];
    const n = all.length;
    const value = all.reduce((s, q) => s + q.value, 0) / n;
    const passing = m.parts.ride ** 2 + m.parts.strokes ** 2 + m.parts.localisation ** 2;
    const uncertainty = 1.96 * Math.sqrt(Math.max(0, (m.uncertainty / 1.96) ** 2 - passing + passing / n));
    return {
      ...m,
      value,
      uncertainty,
      pOut: outOfBand(value, uncertainty, m.band),
      verdict: judge(value, uncertainty, m.band),
    };
  });
}
