import { memo, useMemo, useState } from 'react';
import { GRID_DEG } from '../../../../core/kinematics/curves.ts';
import type { Reading } from '../../../../core/kinematics/read.ts';
import type { Turn } from '../../../../core/model/predict.ts';
import { quotedBand } from '../../../../core/protocol/convention.ts';
import type { MeasureReading } from '../../../../core/protocol/measures.ts';
import { StrokeChart } from '../../../charts/StrokeChart';
import { useStudio } from '../../../session/useStudio';
import { Choice } from '../../../ui/fields/Choice';
import { quoted } from '../../../ui/words/angleText';

const CURVES = [
  ['kneeFlexionDeg', 'Knee'],
  ['hipAngleDeg', 'Hip'],
  ['ankleAngleDeg', 'Ankle'],
  ['footPitchDeg', 'Foot pitch'],
] as const;
type CurveKey = (typeof CURVES)[number][0];
const FROM_TURN = {
  kneeFlexionDeg: 'kneeDeg',
  hipAngleDeg: 'hipDeg',
  ankleAngleDeg: 'ankleDeg',
  footPitchDeg: 'pitchDeg',
} as const;

/** One curve over the stroke, measured and as predicted. */
export const BenchCurve = memo(function BenchCurve({
  angles,
  measures,
  start,
  turn,
  gridIndex,
  onCursor,
}: {
  angles: Reading['angles'];
  measures: readonly MeasureReading[];
  /** The model’s turn as filmed. */
  start: Turn | null;
  /** The model’s turn as tried; null where nothing is. */
  turn: Turn | null;
  gridIndex: number;
  onCursor: (thetaDeg: number) => void;
}) {
  const { jointConvention } = useStudio();
  const [chosen, setChosen] = useState<CurveKey>('kneeFlexionDeg');
  const shown = angles[chosen] ? chosen : (CURVES.find(([key]) => angles[key])?.[0] ?? chosen);
  const curve = angles[shown];
  const knee = measures.find((m) => m.key === 'kneeFlexionMinDeg');
  const predicted = useMemo(() => {
    if (!turn || !start || !curve) return null;
    const key = FROM_TURN[shown];
    return curve.meanOnGrid.map((v, k) => quoted(shown, v + turn[key][k] - start[key][k], jointConvention));
  }, [turn, start, curve, shown, jointConvention]);
  // What stands still while something is dragged is not worked out anew.
  const drawn = useMemo(
    () => ({
      measured: curve?.meanOnGrid.map((v) => quoted(shown, v, jointConvention)) ?? [],
      spread: curve?.sdOnGrid,
      target:
        shown === 'kneeFlexionDeg' && knee
          ? { band: quotedBand('knee', knee.band, jointConvention), text: 'target, straightest' }
          : null,
    }),
    [curve, shown, jointConvention, knee],
  );
  return (
    <>
      <Choice label="Curve" hideLabel options={CURVES} value={shown} onChange={(v) => v && setChosen(v)} />
      <StrokeChart
        label={CURVES.find(([key]) => key === shown)![1]}
        unit="°"
        height={240}
        {...drawn}
        predicted={predicted}
        cursorDeg={GRID_DEG[gridIndex]}
        onCursor={onCursor}
      />
    </>
  );
});
