import type { Reading } from '../stroke/read.ts';
import { judge, type Band, type Verdict } from './judge.ts';
import { MEASURE_KEYS, type MeasureKey, type Protocol } from './protocols.ts';

export interface MeasureReading {
  key: MeasureKey;
  value: number;
  /** 95 %, absolute. */
  uncertainty: number;
  unit: '°' | 'mm';
  band: Band;
  verdict: Verdict;
}

/** The protocol's measures out of a reading, each judged against its band by its own uncertainty. */
export function judgeReading(reading: Reading, protocol: Protocol): MeasureReading[] {
  const { angles } = reading;
  const ankle = angles.ankleAngleDeg;
  const values: Record<MeasureKey, [number, number]> = {
    kneeFlexionMinDeg: [angles.kneeFlexionDeg.min, angles.kneeFlexionDeg.uncertainty.absoluteDeg],
    kneeFlexionMaxDeg: [angles.kneeFlexionDeg.max, angles.kneeFlexionDeg.uncertainty.absoluteDeg],
    hipAngleMinDeg: [angles.hipAngleDeg.min, angles.hipAngleDeg.uncertainty.absoluteDeg],
    backAngleDeg: [angles.backAngleDeg.curve.mean, angles.backAngleDeg.uncertainty.absoluteDeg],
    shoulderAngleDeg: [angles.shoulderAngleDeg.curve.mean, angles.shoulderAngleDeg.uncertainty.absoluteDeg],
    elbowFlexionDeg: [angles.elbowFlexionDeg.curve.mean, angles.elbowFlexionDeg.uncertainty.absoluteDeg],
    footPitch90Deg: [angles.footPitchDeg.at['90'], angles.footPitchDeg.uncertainty.absoluteDeg],
    footPitch180Deg: [angles.footPitchDeg.at['180'], angles.footPitchDeg.uncertainty.absoluteDeg],
    // A range is a difference within one film: where the sticker sits cancels.
    ankleRangeDeg: [ankle.max - ankle.min, ankle.uncertainty.changeDeg],
    kneeOverSpindleMm: [reading.kneeOverSpindleMm.value, reading.kneeOverSpindleMm.uncertaintyMm],
    // A swing of one sticker: its place on the body cancels, its noise does not.
    hipVerticalTravelMm: [
      reading.hipTravelMm.vertical,
      2 * Math.SQRT2 * reading.landmarks.hip.noisePx * reading.riderMmPerPx,
    ],
  };
  return MEASURE_KEYS.map((key) => {
    const [value, uncertainty] = values[key];
    const band = protocol.bands[key];
    return {
      key,
      value,
      uncertainty,
      unit: key.endsWith('Mm') ? 'mm' : '°',
      band,
      verdict: judge(value, uncertainty, band),
    };
  });
}
