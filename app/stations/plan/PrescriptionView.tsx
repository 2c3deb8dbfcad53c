import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import Typography from '@mui/material/Typography';
import type { ComponentProps } from 'react';
import { measureName } from '../../../core/protocol/convention.ts';
import { RED_FLAGS } from '../../../core/intake/intake.ts';
import { adviceFor, cautionsFor, type Caution } from '../../../core/plan/cautions.ts';
import { CONTROLS, type ControlKey } from '../../../core/plan/controls/controlTable.ts';

import type { Decision, PlanLine, Prescription } from '../../../core/plan/terms/plan.ts';
import { setupNow } from '../../../core/visit/setups.ts';
import { valuesOf } from '../../../core/visit/progress.ts';
import type { FitSession } from '../../../core/records/types.ts';
import type { Reading } from '../../../core/kinematics/read.ts';
import { FollowUps } from '../../ui/FollowUps';
import { ForecastTable } from './ForecastTable';
import { KeepPlan } from './KeepPlan';
import { lineTitle } from '../../ui/words/moveText';
import { PlanLines, QuietLines } from './PlanLines';
import { SchoolsChoice } from './SchoolsChoice';
import type { VisitCase } from '../../../core/visit/visitCase.ts';
import { roundNow } from '../../../core/visit/setups.ts';
import type { LengthUnit } from '../../../core/units/length.ts';
import { AskFirst } from './AskFirst';
import { useSet } from '../../session/useSet';
import { useInUnits } from '../../ui/useInUnits';
import { useStudio } from '../../session/useStudio';
import { HandsShare } from './HandsShare';
import { Working } from '../../ui/Working';

/** What can be done with a line of the plan. */
function planActs(session: FitSession, { set, move }: Pick<ReturnType<typeof useSet>, 'set' | 'move'>) {
  const { decisions } = session.planning;
  const round = roundNow(session);
  return {
    decide: (key: string, decision: Decision | null): void =>
      set('planning.decisions', [...decisions.filter((d) => d.key !== key), ...(decision ? [decision] : [])]),
    onDone: (line: PlanLine): void => {
      const values = valuesOf(setupNow(session), line.moves);
      if (values.length) move(values, line.key);
    },
    // Only what was moved in this round is on the bike for a line of this round.
    done: (line: PlanLine): boolean =>
      Object.keys(line.moves).length > 0 &&
      Object.keys(line.moves).every((key) =>
        session.changes.some(
          (ch) =>
            !ch.putBackIso &&
            ch.round === round &&
            (ch.lineKey === null || ch.lineKey === line.key) &&
            ch.values.some((v) => v.at === CONTROLS[key as ControlKey].at),
        ),
      ),
  };
}

/** What to move, how far, in which order, and what it will do; with everything that speaks against it in sight. */
export function PrescriptionView({
  session,
  visitCase,
  reading,
  plan,
}: {
  session: FitSession;
  visitCase: VisitCase;
  /** Null where only a film from ahead is there. */
  reading: Reading | null;
  plan: Prescription | null;
}) {
  const { set, move, refused } = useSet();
  const { lengthUnit, jointConvention } = useStudio();
  const inUnits = useInUnits();
  const { planning, intake } = session;
  const { case: c, measures } = visitCase;
  if (!plan) return <Working words="Working out the prescription" sx={{ m: 4 }} />;

  const { decide, onDone, done } = planActs(session, { set, move });
  const shared = { planned: c, plan, done, onDecide: decide, onDone };
  const cautions = inUnits(cautionsFor(c, plan));
  const words = inUnits({
    heldBack: plan.heldBack,
    conflicts: plan.conflicts,
    seenThrough: plan.seenThrough,
    noted: plan.noted,
    open: plan.open,
  });
  const advice = inUnits(adviceFor(c).map((a) => a.words));
  return (
    <Box
      sx={{
        display: 'grid',
        gridTemplateColumns: { xs: '1fr', md: 'minmax(0, 1fr) 440px', xl: 'minmax(0, 1fr) 620px' },
        gap: 4,
        p: { xs: 2, md: 3 },
        maxWidth: { xs: 1280, xl: 1640 },
        mx: 'auto',
      }}
    >
      <Box sx={{ minWidth: 0 }}>
        {intake.redFlags.length > 0 && (
          <Alert severity="error" sx={{ mb: 2 }}>
            Intake holds a reason to refer first:{' '}
            {intake.redFlags
              .map((f) => RED_FLAGS.find((r) => r.key === f.key)!.text.toLowerCase())
              .join('; ')}
            .
          </Alert>
        )}
        <Typography variant="h1" sx={{ fontSize: '1.8rem', mb: 1, textWrap: 'balance' }} data-testid="advice">
          {headline(plan, lengthUnit)}
        </Typography>
        {plan.leaveAlone && <LeaveAlone />}
        <Remarks words={words.heldBack} severity="warning" />
        <Remarks words={words.conflicts} severity="warning" />
        <Remarks words={words.seenThrough} severity="info" />
        {plan.forecast?.ok && plan.forecast.rounds && (
          <Alert severity="warning" variant="outlined" sx={{ mb: 1 }}>
            With this the back is at its limit and rounds.
          </Alert>
        )}
        {refused && <Alert severity="error">{refused}</Alert>}
        <Lines
          {...shared}
          label="Now"
          lines={plan.now}
          first={1}
          onOrder={(keys) => set('planning.order', [...keys, ...plan.try.map((l) => l.key)])}
        />
        {(plan.ask.length > 0 || Object.keys(planning.answers).length > 0) && (
          <Part title="Ask first">
            <AskFirst
              asks={inUnits(plan.ask)}
              answers={planning.answers}
              onAnswer={(answers) => set('planning.answers', answers)}
            />
          </Part>
        )}
        <Lines
          {...shared}
          label="Try and ask"
          lines={plan.try}
          first={plan.now.length + 1}
          onOrder={(keys) => set('planning.order', [...plan.now.map((l) => l.key), ...keys])}
        />
        {plan.later.length > 0 && (
          <Part title="After the next film">
            <QuietLines
              label="After the next film"
              lines={plan.later}
              note={(l) => inUnits([l.probability, l.why[l.why.length - 1]].filter(Boolean))}
            />
          </Part>
        )}
        {plan.rejected.length > 0 && (
          <Part title="Left out">
            <QuietLines
              label="Left out"
              lines={plan.rejected}
              note={(l) =>
                [l.decision ? `left out: ${l.decision.reason}` : '', l.changed ?? ''].filter(Boolean)
              }
              action={{ words: 'Put it back on the plan', does: (l) => decide(l.key, null) }}
            />
          </Part>
        )}
        {plan.open.length > 0 && (
          <Part title="Still out, and what to do">
            {words.open.map((o) => (
              <Typography key={o.key}>
                <strong>{measureName(o.key, jointConvention)}</strong>: {o.words}
              </Typography>
            ))}
          </Part>
        )}
        <Notes title="Noted" words={words.noted} />
        <Notes title="Off the bike" words={advice} />
      </Box>
      <Box sx={{ minWidth: 0 }}>
        <ForecastTable
          measures={measures}
          predicted={plan.forecast?.ok ? plan.forecast.measures : null}
          convention={jointConvention}
        />
        {reading && (
          <HandsShare session={session} visitCase={visitCase} reading={reading} moves={plan.total} />
        )}
        <Cautions
          cautions={cautions}
          acknowledged={planning.acknowledged}
          onAcknowledge={(keys) => set('planning.acknowledged', keys)}
        />
        <Part title="Schools">
          <SchoolsChoice schools={planning.schools} onChange={(s) => set('planning.schools', s)} />
        </Part>
        <Part title="On record">
          <KeepPlan session={session} visitCase={visitCase} />
        </Part>
        <Part title="Follow-ups">
          <FollowUps list={session.followUps} onChange={(list) => set('followUps', list)} />
        </Part>
        {planning.decisions.length > 0 && (
          <Button onClick={() => set('planning.decisions', [])}>Reset all decisions</Button>
        )}
      </Box>
    </Box>
  );
}

function Part({ title, children }: { title: string; children: React.ReactNode }) {
  return (
    <Box component="section" aria-label={title} sx={{ mt: 3 }}>
      <Typography variant="h2" sx={{ borderBottom: 1, borderColor: 'text.primary', mb: 1 }}>
        {title}
      </Typography>
      {children}
    </Box>
  );
}

/** What to do in one line: the changes of this round, or that there is none. */
function headline(plan: Prescription, unit: LengthUnit): string {
  const title = (l: PlanLine): string => lineTitle(l.key, l.moves, unit, l.title);
  if (plan.leaveAlone) return 'Leave it alone';
  if (plan.now.length > 0) {
    const [first, ...rest] = plan.now.map(title);
    return [first, ...rest.map((t) => t[0].toLowerCase() + t.slice(1))].join('; ');
  }
  if (plan.try.length > 0) return `Try and ask: ${title(plan.try[0])}`;
  return plan.ask.length > 0 ? 'Ask first' : 'Nothing to move now';
}

/** Nothing to do is an answer. */
function LeaveAlone() {
  return (
    <Alert severity="info" variant="outlined" sx={{ fontSize: '1.1rem' }}>
      Nothing is surely out of its band and nothing hurts: leave the bike alone.
    </Alert>
  );
}

/** The lines of one part of the plan, under its heading. */
function Lines(lines: ComponentProps<typeof PlanLines>) {
  if (lines.lines.length === 0) return null;
  return (
    <Part title={lines.label}>
      <PlanLines {...lines} />
    </Part>
  );
}

/** What speaks for or against the plan as a whole, a sentence each. */
function Remarks({ words, severity }: { words: readonly string[]; severity: 'warning' | 'info' }) {
  return words.map((w) => (
    <Alert key={w} severity={severity} variant="outlined" sx={{ mb: 1 }}>
      {w}
    </Alert>
  ));
}

function Notes({ title, words }: { title: string; words: readonly string[] }) {
  if (words.length === 0) return null;
  return (
    <Part title={title}>
      {words.map((w) => (
        <Typography key={w}>{w}</Typography>
      ))}
    </Part>
  );
}

/** The cautions of this plan; a serious one is ticked by the fitter. */
function Cautions({
  cautions,
  acknowledged,
  onAcknowledge,
}: {
  cautions: readonly Caution[];
  acknowledged: readonly string[];
  onAcknowledge: (keys: string[]) => void;
}) {
  const open = cautions.filter((q) => q.serious && !acknowledged.includes(q.key));
  if (cautions.length === 0) return null;
  return (
    <Part title="Cautions">
      {cautions.map((q) =>
        q.serious ? (
          <FormControlLabel
            key={q.key}
            sx={{ display: 'flex', alignItems: 'flex-start', mr: 0 }}
            control={
              <Checkbox
                checked={acknowledged.includes(q.key)}
                onChange={(e) =>
                  onAcknowledge(
                    e.target.checked ? [...acknowledged, q.key] : acknowledged.filter((k) => k !== q.key),
                  )
                }
              />
            }
            label={<Typography sx={{ pt: 1 }}>{q.words}</Typography>}
          />
        ) : (
          <Typography key={q.key} sx={{ pl: 5.25, py: 0.25 }} color="textSecondary">
            {q.words}
          </Typography>
        ),
      )}
      {open.length > 0 && (
        <Typography variant="body2" color="textSecondary">
          {open.length === 1 ? 'One is' : `${open.length} are`} not acknowledged yet.
        </Typography>
      )}
    </Part>
  );
}
