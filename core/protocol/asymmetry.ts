import type { FrontalReading } from '../frontal/readFrontal.ts';
import type { Reading } from '../stroke/read.ts';
import type { Measured } from '../stroke/uncertainty.ts';

/** A figure of the left and of the right side, and whether it is worth a look. */
export interface SideDifference {
  key: string;
  name: string;
  unit: '°' | 'mm';
  left: number;
  right: number;
  /** Left less right; of a line across the body its own mean or swing. */
  by: number;
  uncertainty: number;
  /** Worth a look from here on (handbook: targets, left against right). */
  from: number;
  verdict: 'alike' | 'within-noise' | 'worth-a-look';
}

const judged = (d: Omit<SideDifference, 'by' | 'verdict'> & { by?: number }): SideDifference => {
  const by = d.by ?? d.left - d.right;
  const large = Math.abs(by) >= d.from;
  return {
    ...d,
    by,
    verdict: !large ? 'alike' : Math.abs(by) > d.uncertainty ? 'worth-a-look' : 'within-noise',
  };
};

/** A length of both sides. */
const measured = (key: string, name: string, left: Measured, right: Measured, from: number): SideDifference =>
  judged({
    key,
    name,
    unit: 'mm',
    left: left.value,
    right: right.value,
    uncertainty: Math.hypot(left.uncertainty.absoluteMm, right.uncertainty.absoluteMm),
    from,
  });

/**
 * Left against right from the films of both sides. Each side wears its own stickers, so their places count fully.
 */
export function sidesCompared(left: Reading, right: Reading): SideDifference[] {
  const [l, r] = [left.angles, right.angles];
  return [
    judged({
      key: 'kneeFlexionMinDeg',
      name: 'Knee at its straightest',
      unit: '°',
      left: l.kneeFlexionDeg.min,
      right: r.kneeFlexionDeg.min,
      uncertainty: Math.hypot(
        l.kneeFlexionDeg.uncertainty.absoluteDeg,
        r.kneeFlexionDeg.uncertainty.absoluteDeg,
      ),
      from: 3,
    }),
    judged({
      key: 'footPitch180Deg',
      name: 'Foot pitch, crank at bottom',
      unit: '°',
      left: l.footPitchDeg.at['180'],
      right: r.footPitchDeg.at['180'],
      uncertainty: Math.hypot(l.footPitchDeg.uncertainty.absoluteDeg, r.footPitchDeg.uncertainty.absoluteDeg),
      from: 5,
    }),
    measured(
      'kneeOverSpindleMm',
      'Knee over spindle',
      left.body.kneeOverSpindleMm,
      right.body.kneeOverSpindleMm,
      8,
    ),
  ];
}

/** Left against right from the front or the rear: both legs are on one film. */
export function legsCompared(r: FrontalReading): SideDifference[] {
  const { left, right } = r.legs;
  const { pelvis } = r;
  return [
    measured('kneePathWidthMm', 'Knee path width', left.pathWidthMm, right.pathWidthMm, 10),
    measured(
      'kneeOverFootMm',
      'Knee over foot, pushing',
      left.kneeOverFootPushMm,
      right.kneeOverFootPushMm,
      10,
    ),
    ...(pelvis
      ? [
          judged({
            key: 'pelvisMeanDeg',
            name: 'Pelvis, left higher by',
            unit: '°',
            left: pelvis.meanDeg,
            right: 0,
            by: pelvis.meanDeg,
            uncertainty: pelvis.absoluteDeg,
            from: 2,
          }),
          judged({
            key: 'pelvisSwingDeg',
            name: 'Pelvis, rocking by',
            unit: '°',
            left: pelvis.swingDeg,
            right: 0,
            by: pelvis.swingDeg,
            uncertainty: pelvis.changeDeg,
            from: 5,
          }),
        ]
      : []),
  ];
}
