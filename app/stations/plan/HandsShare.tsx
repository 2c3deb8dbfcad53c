import Typography from '@mui/material/Typography';
import { useMemo } from 'react';
import { single } from '../../../core/body/bodyTests.ts';
import { balanceAfter } from '../../../core/model/balanceAfter.ts';
import { effectsOf, type Moves } from '../../../core/plan/controls/controls.ts';
import { asItIs, forecastOf, preparedOnce } from '../../../core/model/forecast.ts';
import { bodyOf } from '../../../core/plan/terms/plan.ts';
import { ON_BIKE } from '../../../core/suspects/onBike.ts';
import type { FitSession } from '../../../core/records/types.ts';
import type { Reading } from '../../../core/kinematics/read.ts';
import { handsOf, type VisitCase } from '../../../core/visit/visitCase.ts';
import { sideTake } from '../../jobs/useTakeResults';

const percent = (v: number): string => `${Math.round(100 * v)} %`;

/** The share of the weight on the hands, before and after, beside what the complaint says. */
export function HandsShare({
  session,
  visitCase,
  reading,
  moves,
}: {
  session: FitSession;
  visitCase: VisitCase;
  reading: Reading;
  moves: Moves;
}) {
  const { case: c, near, measures } = visitCase;
  const shares = useMemo(() => {
    if (!near) return null;
    const take = sideTake(session);
    const known = { powerW: take?.effortW ?? null, massKg: single(session.body, 'mass') };
    const prepared = preparedOnce(near);
    const start = asItIs(prepared);
    const then = forecastOf(prepared, {
      measured: measures,
      fx: effectsOf(c.bike, moves),
      habits: c.habits,
      body: bodyOf(c),
      withTurn: true,
    });
    const now = handsOf(session, take, reading);
    const after =
      then.ok && then.turn && start?.turn ? balanceAfter(reading, start.turn, then.turn, known) : null;
    return now && after ? { now, after } : null;
  }, [session, near, measures, c, moves, reading]);
  if (!shares) return null;
  return (
    <Typography sx={{ mt: 1.5 }} data-testid="hands-share">
      On the hands: {percent(shares.now.handsShare)} → <strong>{percent(shares.after.handsShare)}</strong> (
      {percent(shares.after.handsLow)} to {percent(shares.after.handsHigh)}) of the weight. An indicator; the
      hands-off test decides:{' '}
      {ON_BIKE[0].options.find(([k]) => k === c.onBike?.handsOff)?.[1] ?? 'not done yet'}.
    </Typography>
  );
}
