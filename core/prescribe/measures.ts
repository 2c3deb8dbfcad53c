import type { FrontalReading } from '../frontal/readFrontal.ts';
import type { Reading } from '../stroke/read.ts';
import type { AngleUncertainty, LengthUncertainty, Measured } from '../stroke/uncertainty.ts';
import { judge, type Band, type Verdict } from './judge.ts';
import { MEASURE_KEYS, type MeasureKey, type Protocol } from './protocols.ts';

/** What a ± is made of, each an SD in the measure's own unit. */
export interface UncertaintyParts {
  stickers: number;
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
  verdict: Verdict;
  /** Fewer than five strokes. */
  provisional: boolean;
}

type Figure = Pick<MeasureReading, 'value' | 'uncertainty' | 'change' | 'parts'>;

/** A measure in degrees from its angle's uncertainty. */
export function inDegrees(value: number, u: AngleUncertainty): Figure {
  const parts = {
    stickers: u.stickerDeg,
    localisation: u.localisationDeg,
    level: u.levelDeg,
    picture: u.pictureDeg,
    strokes: u.strokesDeg,
  };
  return { value, uncertainty: u.absoluteDeg, change: u.changeDeg, parts };
}

const partsOf = (u: LengthUncertainty): UncertaintyParts => ({
  stickers: u.stickerMm,
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

const NOTHING: UncertaintyParts = { stickers: 0, localisation: 0, level: 0, picture: 0, strokes: 0 };

/** The measures that a reading from the side gives; those that need points which were not marked are left out. */
function fromSide({ angles, body }: Reading): Partial<Record<MeasureKey, Figure>> {
  const ankle = angles.ankleAngleDeg;
  const lengths = {
    kneeOverSpindleMm: body.kneeOverSpindleMm,
    hipVerticalTravelMm: body.hipTravelMm.vertical,
    shoulderAboveMidBackMm: body.shoulderAboveMidBackMm,
    headAboveBackMm: body.headAboveBackMm,
  };
  const seat = body.effectiveSeatAngleDeg;
  return {
    kneeFlexionMinDeg: inDegrees(angles.kneeFlexionDeg.min, angles.kneeFlexionDeg.uncertainty),
    kneeFlexionMaxDeg: inDegrees(angles.kneeFlexionDeg.max, angles.kneeFlexionDeg.uncertainty),
    hipAngleMinDeg: inDegrees(angles.hipAngleDeg.min, angles.hipAngleDeg.uncertainty),
    backAngleDeg: inDegrees(angles.backAngleDeg.curve.mean, angles.backAngleDeg.uncertainty),
    shoulderAngleDeg: inDegrees(angles.shoulderAngleDeg.curve.mean, angles.shoulderAngleDeg.uncertainty),
    elbowFlexionDeg: inDegrees(angles.elbowFlexionDeg.curve.mean, angles.elbowFlexionDeg.uncertainty),
    footPitch90Deg: inDegrees(angles.footPitchDeg.at['90'], angles.footPitchDeg.uncertainty),
    footPitch180Deg: inDegrees(angles.footPitchDeg.at['180'], angles.footPitchDeg.uncertainty),
    // A range is a difference within one film: where the sticker sits cancels.
    ankleRangeDeg: {
      value: ankle.max - ankle.min,
      uncertainty: ankle.uncertainty.changeDeg,
      change: Math.SQRT2 * ankle.uncertainty.changeDeg,
      parts: {
        ...NOTHING,
        localisation: Math.SQRT2 * ankle.uncertainty.localisationDeg,
        strokes: Math.SQRT2 * ankle.uncertainty.strokesDeg,
      },
    },
    effectiveSeatAngleDeg: inDegrees(seat.value, seat.uncertainty),
    ...Object.fromEntries(
      Object.entries(lengths).flatMap(([key, m]) => (m ? [[key, inMm(m)] as const] : [])),
    ),
  };
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
        verdict: judge(figure.value, figure.uncertainty, band),
        provisional: (key === 'kneePathWidthMm' ? frontal : reading)?.provisional ?? true,
      },
    ];
  });
}
