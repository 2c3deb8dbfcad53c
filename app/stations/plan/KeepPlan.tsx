import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { asFindings } from '../../../core/protocol/findings.ts';
import type { MeasureReading } from '../../../core/protocol/measures.ts';
import { keptLines, type Prescription } from '../../../core/plan/terms/plan.ts';
import type { FitSession } from '../../../core/records/types.ts';
import { roundNow } from '../../../core/visit/setups.ts';
import type { Plan } from '../../../core/plan/controls/keptPlan.ts';
import { movesText } from '../../ui/words/moveText';
import { NextAction } from '../../ui/NextAction';
import { useSet } from '../../session/useSet';
import { useStudio } from '../../session/useStudio';
import { momentText } from '../../ui/words/dates';
import { planOf } from '../../jobs/plans';
import type { VisitCase } from '../../../core/visit/visitCase.ts';

/** The plan as it goes on record: what was found, and the lines that stand. */
function onRecord(
  session: FitSession,
  measures: readonly MeasureReading[],
  plan: Prescription,
  keptIso: string,
): Plan {
  return {
    keptIso,
    round: roundNow(session),
    protocolId: session.protocolId,
    findings: asFindings(measures),
    lines: keptLines(plan),
  };
}

/** Keeps the plan as it stands, with what it was made from; later readings never change it. */
export function KeepPlan({
  session,
  visitCase: { case: planned, measures },
}: {
  session: FitSession;
  visitCase: VisitCase;
}) {
  const { set } = useSet();
  const { lengthUnit } = useStudio();
  const { plan } = session;
  // After an edit the plan in sight is the last one for a moment: what is kept is the one of what stands now.
  const keep = async (): Promise<void> => {
    // What fails is shown by the page, which asks for the same one.
    const made = await planOf(planned).catch(() => null);
    if (made) set('plan', onRecord(session, measures, made, new Date().toISOString()));
  };
  const outside = plan?.findings.filter((f) => f.verdict !== 'in').length ?? 0;
  return (
    <Box component="section" aria-label="The plan on record">
      <NextAction>
        <Button variant={plan ? 'outlined' : 'contained'} onClick={() => void keep()}>
          {plan ? 'Keep the new plan' : 'Keep this plan'}
        </Button>
      </NextAction>
      {!plan && <Typography>Not kept yet: “Keep this plan” below puts it on record.</Typography>}
      {plan && (
        <Typography data-testid="kept-plan">
          Kept {momentText(plan.keptIso)}:{' '}
          {plan.lines.map((l) => l.title ?? movesText(l.moves, lengthUnit)).join('; ') || 'nothing to move'}.{' '}
          {outside} of {plan.findings.length} measures were outside their band or at its edge.
        </Typography>
      )}
    </Box>
  );
}
