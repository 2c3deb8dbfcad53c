import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Slider from '@mui/material/Slider';
import Typography from '@mui/material/Typography';
import { memo, useCallback, useMemo, useState } from 'react';
import { judge, type Band } from '../../core/prescribe/judge.ts';
import type { LegModel } from '../../core/prescribe/legModel.ts';
import { predictKnee, type PredictedKnee, type SaddleAdvice } from '../../core/prescribe/saddleHeight.ts';
import type { Reading } from '../../core/stroke/read.ts';
import { conventionWord, degrees, quoted, type Convention } from './angleText';
import { VERDICT_WORDS } from './BandGauge';
import { bandQuoted } from './bandText';
import { Figure } from './Figure';
import { signedMm } from './signedMm';
import { StrokeChart } from './StrokeChart';

const SPAN_MM = 50;

const SLIDER_MARKS = [-50, -25, 0, 25, 50].map((v) => ({ value: v, label: signedMm(v) }));
const SLIDER_SX = {
  mt: 1,
  mb: 3,
  width: 'calc(100% - 48px)',
  mx: 3,
  '& .MuiSlider-thumb, & .MuiSlider-track': { transition: 'none' },
};

interface TryProps {
  model: LegModel;
  reading: Reading;
  band: Band;
  advice: SaddleAdvice;
  stored: number | null;
  convention: Convention;
  /** Null: the advised height, whatever it comes to be. */
  onSettle: (mm: number | null) => void;
}

/** Any other height at once: only this part is drawn anew while the slider moves. */
export function TryHeight({ model, reading, band, advice, stored, convention, onSettle }: TryProps) {
  const knee = reading.angles.kneeFlexionDeg;
  const advised = advice.kind === 'move' ? advice.changeMm : 0;
  const [tried, setTried] = useState(stored ?? Math.max(-SPAN_MM, Math.min(SPAN_MM, advised)));
  const predicted = useMemo(() => predictKnee(model, tried), [model, tried]);
  const today = advice.kind === 'move' ? advice.todayMm : 0;
  const tryAt = useCallback(
    (mm: number) => {
      setTried(mm);
      onSettle(mm === advised ? null : mm);
    },
    [advised, onSettle],
  );
  const start = useMemo(() => predictKnee(model, 0), [model]);
  // What the model says of a change is added to what was measured, so that its own residual does not count as an effect.
  const shift = knee.min - start.minDeg;
  const flip = useCallback((v: number): number => quoted('knee', v, convention), [convention]);
  const curveOf = useCallback(
    (p: PredictedKnee): number[] | null => {
      const { curve } = p;
      if (!curve.ok) return null;
      const from = start.curve.ok ? start.curve.flexionDeg : curve.flexionDeg;
      return curve.flexionDeg.map((v, k) => flip(knee.meanOnGrid[k] + v - from[k]));
    },
    [start, knee, flip],
  );
  const ground = useMemo(
    () => ({
      measured: knee.meanOnGrid.map(flip),
      spread: knee.sdOnGrid,
      target: { band: bandQuoted('knee', band, convention), text: 'target, straightest' },
      // The axis stands still while the slider moves: it holds both ends, or the straightest leg where an end is out of reach.
      hold: [-SPAN_MM, SPAN_MM].flatMap((mm) => curveOf(predictKnee(model, mm)) ?? [flip(0)]),
    }),
    [knee, flip, band, convention, curveOf, model],
  );
  return (
    <Box>
      <Typography variant="h2">Try a height</Typography>
      <Box sx={{ display: 'flex', gap: 4, flexWrap: 'wrap', my: 1 }}>
        <Figure name="Saddle along the tube" value={signedMm(tried)} plusMinus="" testId="tried" />
        {predicted.curve.ok ? (
          <Figure
            name={`Knee, straightest (${conventionWord('knee', convention)})`}
            value={degrees(flip(predicted.minDeg + shift), 0)}
            plusMinus={
              tried === 0
                ? 'as filmed'
                : `${range(flip(predicted.minLowDeg + shift), flip(predicted.minHighDeg + shift))} foretold`
            }
            testId="predicted-min"
          />
        ) : (
          <Alert severity="error" variant="outlined">
            The leg can’t reach: {predicted.curve.missMm.toFixed(0)} mm too short at{' '}
            {predicted.curve.atThetaDeg.toFixed(0)}° of the crank.
          </Alert>
        )}
      </Box>
      <Slider
        aria-label="Saddle height change"
        value={tried}
        min={-SPAN_MM}
        max={SPAN_MM}
        step={1}
        marks={SLIDER_MARKS}
        onChange={(_, v) => setTried(v as number)}
        onChangeCommitted={(_, v) => onSettle(v === advised ? null : (v as number))}
        valueLabelDisplay="off"
        sx={SLIDER_SX}
      />
      <HeightButtons
        tried={[0, today, advised].includes(tried) ? tried : null}
        today={today}
        advised={advised}
        onTry={tryAt}
      />
      <StrokeChart
        label="Knee"
        unit="°"
        height={300}
        {...ground}
        predicted={tried === 0 ? null : curveOf(predicted)}
        cursorDeg={null}
      />
      <Typography variant="body2" color="textSecondary" sx={{ display: 'flex', gap: 3, mt: 1 }}>
        <span>solid: as filmed</span>
        <span>dashed: foretold for {signedMm(tried)}</span>
        {predicted.curve.ok && (
          <span>
            then {VERDICT_WORDS[judge(predicted.minDeg + shift, knee.uncertainty.absoluteDeg, band)]}
          </span>
        )}
      </Typography>
    </Box>
  );
}

/** The heights one comes back to. Drawn anew only when another of them is chosen. */
const HeightButtons = memo(function HeightButtons({
  tried,
  today,
  advised,
  onTry,
}: {
  tried: number | null;
  today: number;
  advised: number;
  onTry: (mm: number) => void;
}) {
  return (
    <Box sx={{ display: 'flex', gap: 1, mb: 2, flexWrap: 'wrap' }}>
      {[...new Set([0, today, advised])].map((mm) => (
        <Button key={mm} variant={mm === tried ? 'contained' : 'outlined'} onClick={() => onTry(mm)}>
          {mm === 0 ? 'As filmed' : mm === advised ? `Advised ${signedMm(mm)}` : `Today ${signedMm(mm)}`}
        </Button>
      ))}
    </Box>
  );
});

function range(a: number, b: number): string {
  const [low, high] = a < b ? [a, b] : [b, a];
  return Number.isFinite(low) && Number.isFinite(high) ? `${low.toFixed(0)} to ${high.toFixed(0)}°` : '';
}
