import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { measuredChange } from '../../../core/kinematics/live/measuring.ts';
import type { Reading } from '../../../core/kinematics/read.ts';
import type { FitSession } from '../../../core/records/types.ts';
import type { LiveNow } from '../../jobs/live';
import { Key } from '../../ui/Key';
import { ChangeMoves } from '../../ui/Moves';
import { many } from '../../ui/words/many';
import { StepText } from './ChangeLog';
import { settlingText } from '../../ui/live/liveWords';
import { MeasuredChange } from '../../ui/live/MeasuredChange';
import { predictedBy, useTrialModel } from './useTrialModel';
import type { useTrialSteps } from './useTrialSteps';
import { WordButtons } from './WordButtons';

/** The plan’s next step, or the change that is being ridden with what it did. */
export function LiveStep({
  session,
  live,
  reading,
  steps,
}: {
  session: FitSession;
  live: LiveNow;
  reading: Reading | null;
  steps: ReturnType<typeof useTrialSteps>;
}) {
  const model = useTrialModel(session, reading);
  const { awaiting, next, left, last, start, say, putBack } = steps;
  const change = awaiting ?? (last && live.marks.some((m) => m.id === last.id) ? last : null);
  const state = change ? live.measured[change.id] : undefined;
  // Both hands can’t be seen from one side: it is proposed, and the fitter says so.
  const since = live.marks.find((m) => m.id === awaiting?.id)?.atS ?? Infinity;
  const hands = live.events.findLast(
    (e) => e.kind === 'hand-off' && e.fromS > since && e.toS - e.fromS > 1.5,
  );
  return (
    <Box
      component="section"
      aria-label="The change"
      sx={{ borderTop: 1, borderColor: 'text.primary', pt: 1.5 }}
    >
      {change && (
        <Box sx={{ mb: 1.5 }} data-testid="live-change">
          <Typography color="textSecondary">
            {change.putBackIso ? 'Undone' : awaiting ? 'On the bike now' : 'Last change'}
          </Typography>
          <ChangeMoves values={change.values} />
          {state?.state === 'settling' && (
            <Typography sx={{ fontSize: '1.25rem', fontWeight: 600 }}>{settlingText(state.more)}</Typography>
          )}
          {state?.state === 'no-before' && (
            <Typography>
              Only {many(state.turns, 'turn')} ridden before it: {state.wanted} are wanted to compare with.
            </Typography>
          )}
          {state?.state === 'measured' && (
            <MeasuredChange
              measured={measuredChange(state)}
              predicted={(key) => predictedBy(model, change.values, key)}
            />
          )}
          {hands?.trunk && awaiting && awaiting.tests.handsOff !== hands.trunk && (
            <Button
              size="small"
              variant="outlined"
              sx={{ mt: 1 }}
              onClick={() =>
                steps.set(`changes.#${awaiting.id}.tests`, { ...awaiting.tests, handsOff: hands.trunk })
              }
            >
              Hands off for {(hands.toS - hands.fromS).toFixed(0)} s: {TRUNK_WORDS[hands.trunk]}. Note it
            </Button>
          )}
          {awaiting && <WordButtons onWord={say} onUndo={() => putBack(awaiting.id)} />}
        </Box>
      )}
      {!awaiting &&
        (next && !left ? (
          <>
            <Typography color="textSecondary">Next step</Typography>
            <StepText p={next} />
            <Button variant="contained" size="large" onClick={start} sx={{ mt: 1, minHeight: 48 }}>
              On the bike&nbsp;<Key>N</Key>
            </Button>
          </>
        ) : (
          <Typography color="textSecondary">
            No step of a plan is open. Changes made under “Changes” are measured too while the camera runs.
          </Typography>
        ))}
    </Box>
  );
}

const TRUNK_WORDS = {
  holds: 'the trunk holds',
  wobbles: 'the trunk wobbles',
  falls: 'the trunk falls forward',
};

const LATELY_S = 300;
const times = (n: number): string => `${n} ×`;

/** What was seen of hands and seat in the last minutes. */
export function LivePosture({ live: { events, hands, nowS } }: { live: LiveNow }) {
  const lately = events.filter((e) => e.toS > nowS - LATELY_S);
  const count = (kind: (typeof events)[number]['kind']): string =>
    times(lately.filter((e) => e.kind === kind).length);
  const last = events.findLast((e) => e.kind === 'hand-off');
  return (
    <Typography variant="body2" color="textSecondary" data-testid="live-posture">
      In the last five minutes: near hand off the bar {count('hand-off')}, sat up {count('sat-up')}, rose from
      the saddle {count('rose')}
      {hands && hands.overS > 0 && (
        <>
          , hand resting 10 mm or more behind the hoods {times(hands.timesBehind)}
          {hands.timesBehind > 0 && `, ${hands.behindS.toFixed(0)} s in all`}
        </>
      )}
      .
      {last?.trunk &&
        ` Hand off the last time for ${(last.toS - last.fromS).toFixed(0)} s: ${TRUNK_WORDS[last.trunk]}.`}
    </Typography>
  );
}
