import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import { useStore } from 'zustand';
import { measuredChange } from '../../../core/kinematics/live/measuring.ts';
import { quotedWay } from '../../../core/protocol/convention.ts';
import { liveStore } from '../../jobs/live';
import { practiceStore, type PracticeChange } from '../../jobs/practice';
import { useStudio } from '../../session/useStudio';
import { MeasuredChange } from '../../ui/live/MeasuredChange';
import { settlingText } from '../../ui/live/liveWords';
import { many } from '../../ui/words/many';
import { movedText } from './practiceWords';

const WORDS = { better: '“Better.”', same: '“No different.”', worse: '“Worse.”' } as const;

/** What was moved, newest first: what was read of it beside what it truly did, and what the rider says. */
export function PracticeChanges() {
  const { changes } = useStore(practiceStore);
  if (changes.length === 0) return null;
  return (
    <Box component="section" aria-label="What it did">
      <Typography variant="h2" gutterBottom>
        What it did
      </Typography>
      <Box component="ol" sx={{ listStyle: 'none', m: 0, p: 0 }}>
        {changes.toReversed().map((c) => (
          <Box
            component="li"
            key={c.id}
            data-testid="practice-change"
            sx={{ py: 1, borderTop: 1, borderColor: 'divider' }}
          >
            <Outcome c={c} />
          </Box>
        ))}
      </Box>
    </Box>
  );
}

function Outcome({ c }: { c: PracticeChange }) {
  const { lengthUnit, jointConvention } = useStudio();
  const state = useStore(liveStore, (s) => s.measured[c.id]);
  const isMarked = useStore(liveStore, (s) => s.phase !== 'off' && s.marks.some((m) => m.id === c.id));
  const measured = state?.state === 'measured' ? measuredChange(state) : c.measured;
  const way = quotedWay('kneeFlexionMinDeg', jointConvention);
  return (
    <>
      <Typography sx={{ fontWeight: 560 }}>{movedText(c.before, c.after, lengthUnit)}</Typography>
      {!measured && !isMarked && <Typography>The rider stopped before it was measured.</Typography>}
      {!measured && isMarked && state?.state === 'settling' && (
        <Typography>{settlingText(state.more)}</Typography>
      )}
      {!measured && state?.state === 'no-before' && (
        <Typography>
          Only {many(state.turns, 'turn')} ridden before it, {state.wanted} are wanted: nothing to compare
          with.
        </Typography>
      )}
      {measured && (
        <>
          <MeasuredChange measured={measured} predicted={(key) => c.truly[key] ?? null} word="truly" />
          <Typography variant="body2">
            {c.guessDeg !== null &&
              `Your guess for the knee was ${(way * c.guessDeg).toFixed(1).replace('-', '−')}°. `}
            The rider says: {WORDS[c.word]}
          </Typography>
        </>
      )}
    </>
  );
}
