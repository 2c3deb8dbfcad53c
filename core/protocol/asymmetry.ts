import type { FrontalReading } from '../kinematics/frontalReading.ts';
import type { AngleKey } from '../kinematics/angles.ts';
import type { AngleReading, Reading } from '../kinematics/read.ts';
import type { Measured } from '../kinematics/uncertainty.ts';

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
  /** A true difference smaller than this may have gone unseen. */
  missedUnder: number;
  /** Worth a look from here on (handbook: targets, left against right). */
  from: number;
  verdict: 'alike' | 'within-noise' | 'worth-a-look';
}

/** A difference is seen in four of five films from 1.96 + 0.84 SD on: the least that a test at 95 % finds with a power of 80 %. */
const SEEN_FROM_SD = 2.8;

const judged = (
  d: Omit<SideDifference, 'by' | 'verdict' | 'missedUnder'> & { by?: number },
): SideDifference => {
  const by = d.by ?? d.left - d.right;
  const large = Math.abs(by) >= d.from;
  return {
    ...d,
    by,
    missedUnder: (SEEN_FROM_SD / 1.96) * d.uncertainty,
    verdict: !large ? 'alike' : Math.abs(by) > d.uncertainty ? 'worth-a-look' : 'within-noise',
  };
};

/** A length of both sides. */
const measured = ({
  key,
  name,
  left,
  right,
  from,
}: {
  key: string;
  name: string;
  left: Measured;
  right: Measured;
  from: number;
}): SideDifference =>
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
 * Left against right from the films of both sides. Each side wears its own stickers, so their places count fully. A figure that one of the
 * films does not tell is left out.
 */
export function sidesCompared(left: Reading, right: Reading): SideDifference[] {
  const angle = (
    key: string,
    name: string,
    { of, value, from }: { of: AngleKey; value: (a: AngleReading) => number; from: number },
  ): SideDifference[] => {
    const [l, r] = [left.angles[of], right.angles[of]];
    if (!l || !r) return [];
    const uncertainty = Math.hypot(l.uncertainty.absoluteDeg, r.uncertainty.absoluteDeg);
    return [judged({ key, name, unit: '°', left: value(l), right: value(r), uncertainty, from })];
  };
  const [l, r] = [left.body.kneeOverSpindleMm, right.body.kneeOverSpindleMm];
  return [
    ...angle('kneeFlexionMinDeg', 'Knee at its straightest', {
      of: 'kneeFlexionDeg',
      value: (a) => a.min,
      from: 3,
    }),
    ...angle('footPitch180Deg', 'Foot pitch, crank at bottom', {
      of: 'footPitchDeg',
      value: (a) => a.at['180'],
      from: 5,
    }),
    ...(l && r
      ? [measured({ key: 'kneeOverSpindleMm', name: 'Knee over spindle', left: l, right: r, from: 8 })]
      : []),
  ];
}

/** Left against right from the front or the rear: both legs are on one film. */
export function legsCompared(r: FrontalReading): SideDifference[] {
  const { left, right } = r.legs;
  const { pelvis } = r;
  return [
    measured({
      key: 'kneePathWidthMm',
      name: 'Knee path width',
      left: left.pathWidthMm,
      right: right.pathWidthMm,
      from: 10,
    }),
    measured({
      key: 'kneeOverFootMm',
      name: 'Knee over foot, pushing',
      left: left.kneeOverFootPushMm,
      right: right.kneeOverFootPushMm,
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
