import type { FrontalReading } from '../frontal/readFrontal.ts';
import type { Reading } from '../stroke/read.ts';

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

/**
 * Left against right from the films of both sides. Each side wears its own stickers, so their places count fully.
 */
export function sidesCompared(left: Reading, right: Reading): SideDifference[] {
  const [l, r] = [left.angles, right.angles];
  const spindle = [left.body.kneeOverSpindleMm, right.body.kneeOverSpindleMm] as const;
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
    judged({
      key: 'kneeOverSpindleMm',
      name: 'Knee over spindle',
      unit: 'mm',
      left: spindle[0].value,
      right: spindle[1].value,
      uncertainty: Math.hypot(spindle[0].uncertainty.absoluteMm, spindle[1].uncertainty.absoluteMm),
      from: 8,
    }),
  ];
}

/** Left against right from the front or the rear: both legs are on one film. */
export function legsCompared(r: FrontalReading): SideDifference[] {
  const { left, right } = r.legs;
  const path = [left.pathWidthMm, right.pathWidthMm] as const;
  const foot = [left.kneeOverFootPushMm, right.kneeOverFootPushMm] as const;
  const { pelvis } = r;
  return [
    judged({
      key: 'kneePathWidthMm',
      name: 'Knee path width',
      unit: 'mm',
      left: path[0].value,
      right: path[1].value,
      uncertainty: Math.hypot(path[0].uncertainty.absoluteMm, path[1].uncertainty.absoluteMm),
      from: 10,
    }),
    judged({
      key: 'kneeOverFootMm',
      name: 'Knee over foot, pushing',
      unit: 'mm',
      left: foot[0].value,
      right: foot[1].value,
      uncertainty: Math.hypot(foot[0].uncertainty.absoluteMm, foot[1].uncertainty.absoluteMm),
      from: 10,
    }),
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
