import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import { useCallback, useMemo } from 'react';
import { fitLegModel, modelResidualDeg, UNRELIABLE_FROM_DEG } from '../../core/prescribe/legModel.ts';
import { protocolOf } from '../components/useCase';
import {
  adviseSaddleHeight,
  KAPPA_PRIOR,
  SADDLE_STEP_MM,
  type SaddleAdvice,
} from '../../core/prescribe/saddleHeight.ts';
import { RED_FLAGS } from '../../core/intake/intake.ts';
import { BIKE_BOUNDS } from '../../core/records/stationSchemas.ts';
import type { FitSession } from '../../core/records/types.ts';
import type { Reading } from '../../core/stroke/read.ts';
import { conventionWord, degrees, quoted, type Convention } from '../components/angleText';
import { BandGauge } from '../components/BandGauge';
import { bandQuoted, bandText } from '../components/bandText';
import { NumberField } from '../components/NumberField';
import { ReadingGate } from '../components/ReadingGate';
import { signedMm } from '../components/signedMm';
import { TryHeight } from '../components/TryHeight';
import { FollowUps } from '../components/FollowUps';
import { KeepPlan } from '../components/KeepPlan';
import { useSet } from '../components/useSet';
import { useEdit } from '../components/useEdit';
import { useStudio } from '../components/useStudio';
import { useSession } from './session';

export default function Plan() {
  const { session } = useSession();
  return (
    <ReadingGate session={session}>
      {(reading) => <Prescription session={session} reading={reading} />}
    </ReadingGate>
  );
}

function Prescription({ session, reading }: { session: FitSession; reading: Reading }) {
  const { edit, refused } = useEdit();
  const { set } = useSet();
  const { jointConvention } = useStudio();
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
                  {signedMm(advice.todayMm)} in steps of{' '}
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
          <KeepPlan session={session} reading={reading} advice={advice} />
          <Typography variant="h2" sx={{ mt: 4, mb: 1 }}>
            Follow-ups
          </Typography>
          <FollowUps list={session.followUps} onChange={(list) => set('followUps', list)} />
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

function Term({ name, children }: { name: string; children: React.ReactNode }) {
  return (
    <>
      <Typography component="dt" color="textSecondary">
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
        band begins at {signedMm(advice.toEdgeMm)}.
      </Typography>
    </Box>
  );
}
