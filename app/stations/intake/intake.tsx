import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import Typography from '@mui/material/Typography';
import Joi from 'joi';
import { DISCIPLINES, GOALS, type Goal, type Intake as IntakeRecord } from '../../../core/intake/intake.ts';
import { protocolById } from '../../../core/protocol/protocols.ts';
import { asKept, protocolUsed } from '../../../core/protocol/shelf.ts';
import { Choice } from '../../ui/fields/Choice';
import { Complaints } from './Complaints';
import { Desk, Fields, Sheet } from '../../ui/Desk';
import { RedFlags } from './IntakeCards';
import { Consent } from '../../ui/Consent';
import { NumberField } from '../../ui/fields/NumberField';
import { SuspectList } from '../../ui/SuspectList';
import { SinceLast } from '../../ui/SinceLast';
import { useSuspects } from './useCase';
import { useEarlierVisit } from '../../session/useEarlierVisit';
import { useEdit } from '../../session/useEdit';
import { useSet } from '../../session/useSet';
import { DayField } from '../../ui/fields/DayField';
import { WordsField } from '../../ui/fields/WordsField';
import { useSession } from '../session';

const bounds = (min: number, max: number, unit: string): Joi.NumberSchema =>
  Joi.number()
    .min(min)
    .max(max)
    .messages({
      'number.min': `From ${min} to ${max} ${unit}.`,
      'number.max': `From ${min} to ${max} ${unit}.`,
    });
const AGE = bounds(4, 110, 'years').integer().messages({ 'number.integer': 'Whole years, please.' });
const HOURS = bounds(0, 60, 'hours');
const KM = bounds(0, 2000, 'km');

/** A way to change one value of the intake. */
type Put = <K extends keyof IntakeRecord>(key: K) => (value: IntakeRecord[K]) => void;

export default function Intake() {
  const { session, rider } = useSession();
  const { set, refused } = useSet();
  const suspects = useSuspects(session);
  const earlier = useEarlierVisit(session);
  const { intake } = session;
  const put: Put = (key) => (value) => set(`intake.${key}`, value);
  return (
    <Desk
      sideLabel="What it means"
      side={
        <>
          {earlier && (
            <Box sx={{ mb: 3 }}>
              <SinceLast session={session} earlier={earlier} />
            </Box>
          )}
          <Typography variant="h2" gutterBottom>
            Look at first
          </Typography>
          <SuspectList list={suspects} />
        </>
      }
    >
      {refused && <Alert severity="error">{refused}</Alert>}
      <Box
        component="section"
        aria-label="First"
        sx={{
          display: 'grid',
          gridTemplateColumns: { xs: '1fr', lg: '1fr 1fr' },
          columnGap: 3,
          rowGap: 1.5,
          mb: 3,
          alignItems: 'start',
        }}
      >
        <RedFlags session={session} set={set} />
        <Consent
          key={String(intake.filmConsent?.givenIso)}
          session={session}
          name={rider?.name ?? ''}
          onChange={put('filmConsent')}
        />
        <Box sx={{ gridColumn: '1 / -1', display: 'grid' }}>
          <WordsField
            label="What changed before the trouble began"
            lines={1}
            most={2000}
            value={intake.changed}
            onChange={put('changed')}
          />
        </Box>
      </Box>
      <Sheet title="Where it hurts" note="tap a place; tap it again to change it">
        <Complaints complaints={intake.complaints} onChange={put('complaints')} />
      </Sheet>
      <Riding put={put} />
    </Desk>
  );
}

/** The rider's goals and riding: with them the discipline, and the protocol that it proposes. */
function Riding({ put }: { put: Put }) {
  const { session, protocols } = useSession();
  const { edit } = useEdit();
  const { intake } = session;
  const protocol = protocolUsed(session);
  const proposed = DISCIPLINES.find((d) => d.key === intake.discipline)?.protocolId;
  return (
    <Sheet title="The rider and the riding">
      <Box sx={{ display: 'flex', gap: 3, flexWrap: 'wrap', mb: 2 }}>
        <Box>
          <Typography variant="body2" color="textSecondary" sx={{ mb: 0.25 }}>
            Goals
          </Typography>
          <ToggleButtonGroup
            size="small"
            aria-label="Goals"
            value={intake.goals}
            onChange={(_, v: Goal[]) => put('goals')(v)}
          >
            {GOALS.map((g) => (
              <ToggleButton key={g} value={g} sx={{ px: 1.5 }}>
                {g}
              </ToggleButton>
            ))}
          </ToggleButtonGroup>
        </Box>
        <Choice
          label="Discipline"
          options={DISCIPLINES.map((d) => [d.key, d.name] as const)}
          value={intake.discipline}
          onChange={put('discipline')}
        />
        <Choice
          label="Experience"
          options={[
            ['new', 'new'],
            ['some', 'a season or two'],
            ['years', 'years'],
          ]}
          value={intake.experience}
          onChange={put('experience')}
        />
      </Box>
      {proposed && proposed !== session.protocolId && (
        <Alert
          severity="info"
          variant="outlined"
          sx={{ mb: 2 }}
          action={
            <Button
              size="small"
              onClick={() =>
                void edit({
                  kind: 'protocol',
                  ...asKept(protocols.find((p) => p.id === proposed) ?? protocolById(proposed)),
                })
              }
            >
              Take it
            </Button>
          }
        >
          This discipline proposes the protocol “{protocolById(proposed).name}”; the session has “
          {protocol.name}”.
        </Alert>
      )}
      <Fields least={160}>
        <NumberField
          optional
          label="Age"
          unit="years"
          schema={AGE}
          value={intake.ageYears}
          onChange={put('ageYears')}
        />
        <NumberField
          optional
          label="Riding"
          unit="hours a week"
          schema={HOURS}
          value={intake.hoursAWeek}
          onChange={put('hoursAWeek')}
        />
        <NumberField
          optional
          label="Longest ride"
          unit="km"
          schema={KM}
          value={intake.longestRideKm}
          onChange={put('longestRideKm')}
        />
        <FormControlLabel
          control={
            <Checkbox checked={intake.returning} onChange={(e) => put('returning')(e.target.checked)} />
          }
          label="Back from a long time off"
        />
      </Fields>
      <Box sx={{ mt: 1.5 }} />
      <Fields least={280}>
        <WordsField label="Event" most={300} value={intake.event} onChange={put('event')} />
        <DayField label="Event’s date" value={intake.eventDate} onChange={put('eventDate')} />
        <WordsField
          label="Past injuries and surgery"
          lines={2}
          most={4000}
          value={intake.past}
          onChange={put('past')}
        />
        <WordsField
          label="Posture at work"
          lines={2}
          most={1000}
          value={intake.work}
          onChange={put('work')}
        />
      </Fields>
    </Sheet>
  );
}
