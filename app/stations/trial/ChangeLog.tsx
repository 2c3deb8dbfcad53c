import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { Link } from 'react-router';
import type { FitSession } from '../../../core/records/types.ts';
import type { KeptLine } from '../../../core/plan/controls/keptPlan.ts';
import type { LineProgress } from '../../../core/visit/progress.ts';
import { wantsFilm } from '../../../core/visit/rounds.ts';
import { AnotherChange } from './AnotherChange';
import { DeviceLine } from './DeviceLine';
import { LoggedChanges } from './LoggedChanges';
import { lineTitle, movesText } from '../../ui/words/moveText';
import { SetupTable } from './SetupTable';
import type { Devices } from './useDevices';
import { useTrialSteps } from './useTrialSteps';
import { useStudio } from '../../session/useStudio';
import { Key } from '../../ui/Key';
import { VerdictCard } from './VerdictCard';

const sentence = (words: string): string => words.charAt(0).toUpperCase() + words.slice(1);

/** “+3 mm of +9 mm up”: the step that comes next, of what its line wants in all. */
export function StepText({ p }: { p: LineProgress }) {
  const { lengthUnit } = useStudio();
  const whole = JSON.stringify(p.next) === JSON.stringify(p.left) && Object.keys(p.done).length === 0;
  return (
    <>
      <Typography
        sx={{ fontSize: '1.9rem', fontWeight: 620, lineHeight: 1.15, textWrap: 'balance' }}
        data-testid="next-step"
      >
        {sentence(movesText(p.next, lengthUnit))}
      </Typography>
      {!whole && (
        <Typography color="textSecondary">
          of {movesText(p.line.moves, lengthUnit)}
          {Object.keys(p.done).length > 0 && `; done ${movesText(p.done, lengthUnit)}`}
        </Typography>
      )}
    </>
  );
}

/** The change log: one key starts the plan's next step, one more says what the rider says; undone as easily. */
export function ChangeLog({ session, devices }: { session: FitSession; devices: Devices }) {
  const {
    set,
    step,
    putBack,
    allBack,
    refused,
    now,
    round,
    progress,
    soured,
    next,
    left,
    last,
    awaiting,
    start,
    say,
  } = useTrialSteps(session, devices);
  const { lengthUnit } = useStudio();

  const waiting = progress.filter((p) => p.state === 'today');
  const worse = progress.filter((p) => soured.has(p.line.key) && p.state !== 'done');
  return (
    <Box
      sx={{
        display: 'grid',
        gridTemplateColumns: { xs: 'minmax(0, 1fr)', md: 'minmax(0, 1fr) 470px', xl: 'minmax(0, 1fr) 620px' },
        gap: 4,
        p: { xs: 2, md: 3 },
        maxWidth: { xs: 1280, xl: 1640 },
        mx: 'auto',
      }}
    >
      <Box sx={{ minWidth: 0 }}>
        {refused && <Alert severity="error">{refused}</Alert>}
        <Typography variant="body2" color="textSecondary">
          Round {round}
        </Typography>
        {awaiting ? (
          <VerdictCard change={awaiting} devices={devices} onWord={say} onUndo={() => putBack(awaiting.id)} />
        ) : next && !left ? (
          <Box component="section" aria-label="Next step">
            <Typography color="textSecondary">
              {lineTitle(next.line.key, next.line.moves, lengthUnit, next.line.title)}
            </Typography>
            <StepText p={next} />
            <Box sx={{ display: 'flex', gap: 1, mt: 1.5, flexWrap: 'wrap' }}>
              <Button
                variant="contained"
                size="large"
                onClick={start}
                sx={{ minHeight: 56, px: 3, fontSize: '1.05rem' }}
              >
                On the bike&nbsp;<Key>N</Key>
              </Button>
              <AnotherChange bike={now} onMake={(values) => step(values, null)} />
            </Box>
            {next.line.check && (
              <Typography variant="body2" color="textSecondary" sx={{ mt: 1 }}>
                Then check: {next.line.check}
              </Typography>
            )}
          </Box>
        ) : (
          <NothingNext
            session={session}
            waiting={waiting}
            left={left}
            open={next !== null}
            another={<AnotherChange bike={now} onMake={(values) => step(values, null)} />}
          />
        )}
        {!awaiting && last?.word === 'worse' && last.putBackIso === null && !left && (
          <Alert
            severity="warning"
            variant="outlined"
            sx={{ mt: 2 }}
            action={
              <Button color="inherit" onClick={() => putBack(last.id)}>
                Back to the last good setting&nbsp;<Key>U</Key>
              </Button>
            }
          >
            The last change was worse, and is still on the bike.
          </Alert>
        )}
        {worse.length > 0 && !left && (
          <Typography sx={{ mt: 2 }} color="textSecondary" data-testid="passed-over">
            Skipped, since its last step was worse:{' '}
            {worse.map((p) => movesText(p.left, lengthUnit)).join('; ')}. “Something else…” still moves it.
          </Typography>
        )}
        {!left && <ToAsk lines={session.plan?.lines ?? []} />}
        {progress.some((p) => p.unmeasured.length > 0) && (
          <Alert severity="info" variant="outlined" sx={{ mt: 2 }}>
            Not measured on this bike, so these steps can’t be logged:{' '}
            {progress
              .filter((p) => p.unmeasured.length > 0)
              .map((p) => lineTitle(p.line.key, p.line.moves, lengthUnit).toLowerCase())
              .join(', ')}
            . Type it on Bike, as it stands.
          </Alert>
        )}
        <DeviceLine devices={devices} />
        <LoggedChanges
          changes={session.changes}
          onWord={(id, word) => set(`changes.#${id}.word`, word)}
          onNote={(id, note) => set(`changes.#${id}.note`, note)}
          onPutBack={putBack}
        />
      </Box>
      <SetupTable session={session} progress={progress} onAllBack={allBack} />
    </Box>
  );
}

/** Lines of the plan that move nothing on the bike: what is to be tried or asked. */
function ToAsk({ lines }: { lines: readonly KeptLine[] }) {
  const asks = lines.filter((l) => Object.keys(l.moves).length === 0 && l.title);
  if (asks.length === 0) return null;
  return (
    <Box component="section" aria-label="To try and ask" sx={{ mt: 2 }}>
      <Typography variant="h3">To try and ask</Typography>
      {asks.map((l) => (
        <Box key={l.key} sx={{ mt: 0.75 }}>
          <Typography sx={{ fontWeight: 600 }}>{l.title}</Typography>
          <Typography variant="body2" color="textSecondary">
            {l.check}
          </Typography>
        </Box>
      ))}
    </Box>
  );
}

/** Why no step comes next, and what to do instead. */
function NothingNext({
  session,
  waiting,
  left,
  open,
  another,
}: {
  session: FitSession;
  waiting: readonly LineProgress[];
  /** The bike was handed over as it stands. */
  left: boolean;
  /** The plan has steps that were not done. */
  open: boolean;
  another: React.ReactNode;
}) {
  const { lengthUnit } = useStudio();
  const film = wantsFilm(session);
  const [title, text, to, action] = left
    ? [
        'Handed over as it is now',
        waiting.length || open
          ? 'What is left of the plan is for the next visit. You can still try something else.'
          : 'Nothing of the plan is left.',
        '../handover',
        'Go to Hand over',
      ]
    : !session.plan
      ? [
          session.earlierPlans.length ? 'What is still open gets a new plan' : 'No plan is kept yet',
          'Keep a plan on the Plan station: its steps then come one by one. You can also try something of your own.',
          '../plan',
          'Go to Plan',
        ]
      : waiting.length > 0
        ? [
            'All that can be done today',
            `The rest needs a new film: ${waiting.map((p) => movesText(p.left, lengthUnit)).join('; ')}.`,
            '../film',
            'Film again',
          ]
        : session.plan.lines.length === 0 && session.changes.length === 0
          ? [
              'The plan moves nothing',
              'Hand the bike over as it came, or try something of your own.',
              '../handover',
              'Go to Hand over',
            ]
          : film
            ? [
                'Every line is on the bike',
                'Film again: it shows whether it worked.',
                '../film',
                'Film again',
              ]
            : [
                'Every line is on the bike',
                'Filmed again, too: hand the bike over.',
                '../handover',
                'Go to Hand over',
              ];
  return (
    <Box component="section" aria-label="Next step">
      <Typography sx={{ fontSize: '1.6rem', fontWeight: 620 }} data-testid="nothing-next">
        {title}
      </Typography>
      <Typography sx={{ mb: 1.5 }}>{text}</Typography>
      <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap' }}>
        <Button variant="contained" component={Link} to={to} relative="path">
          {action}
        </Button>
        {another}
      </Box>
    </Box>
  );
}
