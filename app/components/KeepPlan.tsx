import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import dayjs from 'dayjs';
import { fieldName } from '../../core/bike/fields.ts';
import type { FrontalReading } from '../../core/frontal/readFrontal.ts';
import { judgeReading } from '../../core/prescribe/measures.ts';
import type { SaddleAdvice } from '../../core/prescribe/saddleHeight.ts';
import { setupNow } from '../../core/records/setups.ts';
import type { FitSession } from '../../core/records/types.ts';
import type { Plan } from '../../core/records/work.ts';
import type { Reading } from '../../core/stroke/read.ts';
import { signedMm } from './signedMm';
import { protocolOf } from './useCase';
import { useFrontal } from './useTakeResults';
import { useSet } from './useSet';

const HEIGHT = 'saddle.heightMm';

function planOf(
  session: FitSession,
  reading: Reading,
  frontal: FrontalReading | null,
  advice: SaddleAdvice,
  keptIso: string,
): Plan {
  const findings = judgeReading(reading, protocolOf(session), frontal).map(
    ({ key, value, uncertainty, unit, band, verdict }) => ({ key, value, uncertainty, unit, band, verdict }),
  );
  const steps =
    advice.kind === 'move'
      ? [
          {
            at: HEIGHT,
            byMm: advice.changeMm,
            lowMm: Math.min(...advice.intervalMm),
            highMm: Math.max(...advice.intervalMm),
            todayMm: advice.todayMm,
          },
        ]
      : [];
  return { keptIso, protocolId: session.protocolId, findings, steps };
}

/** Keeps the plan as it stands, with what it was made from, and writes today's step to the bike when it is done. */
export function KeepPlan({
  session,
  reading,
  advice,
}: {
  session: FitSession;
  reading: Reading;
  advice: SaddleAdvice;
}) {
  const frontal = useFrontal(session);
  const { set, move, refused } = useSet();
  const { plan } = session;
  const height = setupNow(session).saddle.heightMm;
  const today = advice.kind === 'move' ? advice.todayMm : 0;
  const outside = plan?.findings.filter((f) => f.verdict !== 'in').length ?? 0;
  const moved = session.changes.some((c) => !c.putBackIso && c.values.some((v) => v.at === HEIGHT));
  return (
    <Box component="section" aria-label="The plan on record" sx={{ mt: 3, borderTop: 1, pt: 2 }}>
      <Box sx={{ display: 'flex', gap: 1.5, flexWrap: 'wrap' }}>
        <Button
          variant={plan ? 'outlined' : 'contained'}
          onClick={() => set('plan', planOf(session, reading, frontal, advice, new Date().toISOString()))}
        >
          {plan ? 'Keep it anew' : 'Keep this plan'}
        </Button>
        {today !== 0 && height !== null && !moved && (
          <Button
            variant="outlined"
            onClick={() => move([{ at: HEIGHT, value: Math.round(10 * (height + today)) / 10 }])}
          >
            Done on the bike: {signedMm(today)}
          </Button>
        )}
      </Box>
      {plan && (
        <Typography sx={{ mt: 1 }} data-testid="kept-plan">
          Kept {dayjs(plan.keptIso).format('D MMMM YYYY, HH:mm')}:{' '}
          {plan.steps
            .map((s) => `${fieldName(s.at).toLowerCase()} ${signedMm(s.byMm)}, today ${signedMm(s.todayMm)}`)
            .join('; ') || 'nothing to move'}
          . {outside} of {plan.findings.length} measures were outside their band or at its edge.
        </Typography>
      )}
      {moved && (
        <Typography sx={{ mt: 1 }} color="textSecondary">
          The saddle’s height was moved on this bike: see Bike, as it stands. Film again before the next step.
        </Typography>
      )}
      {refused && <Alert severity="error">{refused}</Alert>}
    </Box>
  );
}
