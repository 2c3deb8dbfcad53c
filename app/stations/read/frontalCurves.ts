import type { FrontalColumn } from '../../../core/formats/angles.ts';
import type { FrontalReading, Obliquity } from '../../../core/kinematics/frontalReading.ts';
import type { CurveReading } from '../../../core/kinematics/curves.ts';

interface Drawn {
  key: string;
  name: string;
  unit: '°' | 'mm';
  hint: string;
  /** One curve on the right arm's turn, or both legs' each on its own. */
  curves: readonly { name: string; curve: CurveReading }[];
  /** The columns of a table that go beside it. */
  columns: readonly FrontalColumn[];
}

const PELVIS: Record<Obliquity['of'], string> = {
  asis: 'ASIS',
  psis: 'PSIS',
  hip: 'hips',
  shoulder: 'shoulders',
};

/** Everything that a reading from the front or the rear has through the stroke. */
// eslint-disable-next-line max-lines-per-function -- one drawing of each kind
export function drawnOf(r: FrontalReading): Drawn[] {
  const legs = (pick: (leg: FrontalReading['legs']['left']) => CurveReading | null): Drawn['curves'] =>
    (['right', 'left'] as const).flatMap((side) => {
      const curve = pick(r.legs[side]);
      return curve ? [{ name: side, curve }] : [];
    });
  const offLine = legs((l) => l.kneeOffLineMm);
  return [
    {
      key: 'kneeLateral',
      columns: ['knee_right_mm', 'knee_left_mm'] as const,
      name: 'Knee across',
      unit: 'mm',
      hint: 'from the bike’s middle, outward +, each leg on its own crank arm',
      curves: legs((l) => l.kneeLateralMm),
    },
    {
      key: 'kneeOverFoot',
      columns: ['knee_over_foot_right_mm', 'knee_over_foot_left_mm'] as const,
      name: 'Knee over foot',
      unit: 'mm',
      hint: 'outward +, each leg on its own crank arm',
      curves: legs((l) => l.kneeOverFootMm),
    },
    ...(offLine.length === 2
      ? [
          {
            key: 'kneeOffLine',
            columns: [],
            name: 'Knee off the line',
            unit: 'mm' as const,
            hint: 'against the line from hip to foot, outward +',
            curves: offLine,
          },
        ]
      : []),
    ...(r.pelvis
      ? [
          {
            key: 'pelvis',
            columns: ['pelvis_deg'] as const,
            name: 'Pelvis',
            unit: '°' as const,
            hint: `${PELVIS[r.pelvis.of]}, left higher +, on the right arm’s turn`,
            curves: [{ name: 'pelvis', curve: r.pelvis.curve }],
          },
        ]
      : []),
    ...(r.shoulders
      ? [
          {
            key: 'shoulders',
            columns: ['shoulders_deg'] as const,
            name: 'Shoulders',
            unit: '°' as const,
            hint: 'left higher +, on the right arm’s turn',
            curves: [{ name: 'shoulders', curve: r.shoulders.curve }],
          },
        ]
      : []),
    ...(r.hipShiftMm
      ? [
          {
            key: 'hipShift',
            columns: ['hip_shift_mm'] as const,
            name: 'Hips across',
            unit: 'mm' as const,
            hint: 'pelvis from the bike’s middle, rider’s right +',
            curves: [{ name: 'hips', curve: r.hipShiftMm.curve }],
          },
        ]
      : []),
  ];
}
