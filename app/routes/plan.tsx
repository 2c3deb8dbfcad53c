import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Slider from '@mui/material/Slider';
import Typography from '@mui/material/Typography';
import { memo, useCallback, useMemo, useState } from 'react';
import {
  fitLegModel,
  modelResidualDeg,
  UNRELIABLE_FROM_DEG,
  type LegModel,
} from '../../core/prescribe/legModel.ts';
import { protocolOf } from '../components/useCase';
import {
  adviseSaddleHeight,
  KAPPA_PRIOR,
  predictKnee,
  SADDLE_STEP_MM,
  type PredictedKnee,
  type SaddleAdvice,
} from '../../core/prescribe/saddleHeight.ts';
import { RED_FLAGS } from '../../core/intake/intake.ts';
import { BIKE_BOUNDS } from '../../core/records/stationSchemas.ts';
import type { FitSession } from '../../core/records/types.ts';
import type { Reading } from '../../core/stroke/read.ts';
import { conventionWord, degrees, quoted, type Convention } from '../components/angleText';
import { BandGauge, VERDICT_WORDS } from '../components/BandGauge';
import { bandQuoted, bandText } from '../components/bandText';
import { Figure } from '../components/Figure';
import { NumberField } from '../components/NumberField';
import { ReadingGate } from '../components/ReadingGate';
import { StrokeChart } from '../components/StrokeChart';
import { useEdit } from '../components/useEdit';
import { useSettings } from '../components/useSettings';
import { judge, type Band } from '../../core/prescribe/judge.ts';
import { useSession } from './session';

const SPAN_MM = 50;

export default function Plan() {
  const { session } = useSession();
  return (
    <ReadingGate session={session}>
      {(reading) => <Prescription session={session} reading={reading} />}
    </ReadingGate>
  );
}

const signed = (mm: number): string => `${mm > 0 ? '+' : mm < 0 ? '−' : ''}${Math.abs(mm)} mm`;

function Prescription({ session, reading }: { session: FitSession; reading: Reading }) {
  const { edit, refused } = useEdit();
  const { jointConvention } = useSettings();
  const protocol = useMemo(() => protocolOf(session), [session]);
  const band = protocol.bands.kneeFlexionMinDeg;
  const knee = reading.angles.kneeFlexionDeg;
  const model = useMemo(
    () => fitLegModel(reading, session.asFound.frame.seatAngleDeg),
    [reading, session.asFound.frame.seatAngleDeg],
  );
  const residualDeg = useMemo(() => modelResidualDeg(model, knee.meanOnGrid), [model, knee]);
  const advice = useMemo(
    () =>
      adviseSaddleHeight(
        model,
        { minDeg: knee.min, uncertaintyDeg: knee.uncertainty.absoluteDeg },
        band,
        KAPPA_PRIOR,
        protocol.halfSteps,
      ),
    [model, knee, band, protocol.halfSteps],
  );
  const unreliable = residualDeg > UNRELIABLE_FROM_DEG;
  const flip = (v: number): number => quoted('knee', v, jointConvention);
  const settle = useCallback((saddleMm: number | null) => void edit({ kind: 'tried', saddleMm }), [edit]);
  return (
    <Box sx={{ flex: 1, minHeight: 0, overflowY: 'auto' }}>
      <Box
        sx={{
          maxWidth: 1180,
          mx: 'auto',
          p: { xs: 2, md: 3 },
          display: 'grid',
          gridTemplateColumns: { xs: '1fr', md: '420px 1fr' },
          gap: 4,
        }}
      >
        <Box>
          {session.intake.redFlags.length > 0 && (
            <Alert severity="error" sx={{ mb: 2 }}>
              Intake holds a reason to refer first:{' '}
              {session.intake.redFlags
                .map((f) => RED_FLAGS.find((r) => r.key === f.key)!.text.toLowerCase())
                .join('; ')}
              .
            </Alert>
          )}
          <Advice advice={advice} convention={jointConvention} />
          {unreliable && (
            <Alert severity="warning" variant="outlined" sx={{ my: 2 }}>
              The leg rebuilt from this film misses the measured knee by {degrees(residualDeg)}: what is
              foretold here is unreliable. Check the marks of hip, knee and ankle.
            </Alert>
          )}
          <Box
            component="dl"
            sx={{ m: 0, mt: 3, display: 'grid', gridTemplateColumns: 'auto 1fr', columnGap: 2, rowGap: 1 }}
          >
            <Term name="Why">
              Knee at its straightest {degrees(flip(knee.min))} ± {degrees(knee.uncertainty.absoluteDeg)}{' '}
              {conventionWord('knee', jointConvention)}; {protocol.name.toLowerCase()} wants{' '}
              {bandText(bandQuoted('knee', band, jointConvention), '°')}.
              <BandGauge
                value={knee.min}
                uncertainty={knee.uncertainty.absoluteDeg}
                band={band}
                verdict={advice.verdict}
              />
            </Term>
            {advice.kind === 'move' && (
              <>
                <Term name="Today">
                  {signed(advice.todayMm)} in steps of{' '}
                  {protocol.halfSteps ? SADDLE_STEP_MM / 2 : SADDLE_STEP_MM} mm: ride, ask, and go on while it
                  gets better. Then film again before more.
                  {protocol.halfSteps && ' Half steps for this rider (see Body).'}
                </Term>
                <Term name="Carries over">
                  The saddle moves along the seat tube, so {Math.abs(advice.changeMm)} mm{' '}
                  {advice.changeMm > 0 ? 'up' : 'down'} also moves it{' '}
                  {Math.round(
                    Math.abs(advice.changeMm) *
                      Math.cos((session.asFound.frame.seatAngleDeg * Math.PI) / 180),
                  )}{' '}
                  mm {advice.changeMm > 0 ? 'back' : 'forward'}, and the drop to the bar changes with it.
                </Term>
                <Term name="Mind">
                  Stay under the seatpost’s maximum-extension mark, and clamp to the maker’s torque.
                </Term>
              </>
            )}
            <Term name="Model">
              Thigh {reading.segmentsMm.thigh.toFixed(0)} mm, shank {reading.segmentsMm.shank.toFixed(0)} mm,
              crank {reading.segmentsMm.crank.toFixed(1)} mm, from this film; it rebuilds the measured knee to{' '}
              {degrees(residualDeg, 2)}. The foot is taken to answer {Math.round(100 * KAPPA_PRIOR.mean)} % of
              a change until a second film tells this rider’s share.
            </Term>
          </Box>
          <Box sx={{ mt: 3, maxWidth: 240 }}>
            <NumberField
              label="Seat tube angle"
              unit="°"
              value={session.asFound.frame.seatAngleDeg}
              schema={BIKE_BOUNDS['frame.seatAngleDeg']}
              onChange={(v) => void edit({ kind: 'set', at: 'asFound.frame.seatAngleDeg', value: v })}
            />
          </Box>
          {refused && <Alert severity="error">{refused}</Alert>}
        </Box>
        <TryHeight
          model={model}
          reading={reading}
          band={band}
          advice={advice}
          stored={session.triedSaddleMm}
          convention={jointConvention}
          onSettle={settle}
        />
      </Box>
    </Box>
  );
}

const SLIDER_MARKS = [-50, -25, 0, 25, 50].map((v) => ({ value: v, label: signed(v) }));
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
function TryHeight({ model, reading, band, advice, stored, convention, onSettle }: TryProps) {
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
        <Figure name="Saddle along the tube" value={signed(tried)} plusMinus="" testId="tried" />
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
      <Typography variant="body2" color="text.secondary" sx={{ display: 'flex', gap: 3, mt: 1 }}>
        <span>solid: as filmed</span>
        <span>dashed: foretold for {signed(tried)}</span>
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
          {mm === 0 ? 'As filmed' : mm === advised ? `Advised ${signed(mm)}` : `Today ${signed(mm)}`}
        </Button>
      ))}
    </Box>
  );
});

function range(a: number, b: number): string {
  const [low, high] = a < b ? [a, b] : [b, a];
  return Number.isFinite(low) && Number.isFinite(high) ? `${low.toFixed(0)} to ${high.toFixed(0)}°` : '';
}

function Term({ name, children }: { name: string; children: React.ReactNode }) {
  return (
    <>
      <Typography component="dt" color="text.secondary">
        {name}
      </Typography>
      <Typography component="dd" sx={{ m: 0 }}>
        {children}
      </Typography>
    </>
  );
}

function Advice({ advice, convention }: { advice: SaddleAdvice; convention: Convention }) {
  if (advice.kind === 'impossible') {
    return (
      <Alert severity="warning" variant="outlined">
        {advice.reason}
      </Alert>
    );
  }
  if (advice.kind === 'leave') {
    return (
      <Box data-testid="advice">
        <Typography variant="h1" sx={{ fontSize: '2.3rem' }}>
          Leave the saddle height
        </Typography>
        <Typography sx={{ mt: 1 }}>
          {advice.verdict === 'in'
            ? 'The knee is in its band.'
            : 'The knee is at the edge of its band, closer than the measurement can tell.'}
        </Typography>
      </Box>
    );
  }
  const up = advice.changeMm > 0;
  return (
    <Box data-testid="advice">
      <Typography variant="h1" sx={{ fontSize: '2.3rem' }}>
        {up ? 'Raise' : 'Lower'} the saddle {Math.abs(advice.changeMm)} mm
      </Typography>
      <Typography sx={{ mt: 1, fontSize: '1.1rem' }}>
        Between {Math.min(...advice.intervalMm.map(Math.abs))} and{' '}
        {Math.max(...advice.intervalMm.map(Math.abs))} mm (95 %), to bring the knee to{' '}
        {degrees(quoted('knee', advice.targetDeg, convention), 0)} {conventionWord('knee', convention)}. The
        band begins at {signed(advice.toEdgeMm)}.
      </Typography>
    </Box>
  );
}
