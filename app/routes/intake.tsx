import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import MenuItem from '@mui/material/MenuItem';
import Slider from '@mui/material/Slider';
import TextField from '@mui/material/TextField';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import Typography from '@mui/material/Typography';
import dayjs from 'dayjs';
import Joi from 'joi';
import { nanoid } from 'nanoid';
import { useState } from 'react';
import {
  complaintName,
  DISCIPLINES,
  GOALS,
  isMinor,
  ONSET_WORDS,
  RED_FLAGS,
  REGIONS,
  type Complaint,
  type Goal,
  type Intake as IntakeRecord,
  type Onset,
  type RegionKey,
  type Side,
} from '../../core/intake/intake.ts';
import { protocolById } from '../../core/prescribe/protocols.ts';
import type { FitSession } from '../../core/records/types.ts';
import { BodyMap } from '../components/BodyMap';
import { Choice } from '../components/Choice';
import { Desk, Fields, Sheet } from '../components/Desk';
import { NumberField } from '../components/NumberField';
import { SuspectList } from '../components/SuspectList';
import { useCase } from '../components/useCase';
import { useEdit } from '../components/useEdit';
import { useSet } from '../components/useSet';
import { WordsField } from '../components/WordsField';
import { useSession } from './session';

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

export default function Intake() {
  const { session, rider } = useSession();
  const { set, refused } = useSet();
  const { edit } = useEdit();
  const { suspects } = useCase(session);
  const { intake } = session;
  const protocol = protocolById(session.protocolId);
  const put =
    <K extends keyof IntakeRecord>(key: K) =>
    (value: IntakeRecord[K]) =>
      set(`intake.${key}`, value);
  const proposed = DISCIPLINES.find((d) => d.key === intake.discipline)?.protocolId;
  return (
    <Desk
      sideLabel="What it means"
      side={
        <>
          <RedFlags session={session} set={set} />
          <Typography variant="h2" gutterBottom>
            Look at first
          </Typography>
          <SuspectList list={suspects} />
        </>
      }
    >
      {refused && <Alert severity="error">{refused}</Alert>}
      <Sheet title="Where it hurts" note="tap a place; tap it again to change it">
        <Complaints complaints={intake.complaints} onChange={put('complaints')} />
      </Sheet>
      <Sheet title="The rider and the riding">
        <Box sx={{ display: 'flex', gap: 3, flexWrap: 'wrap', mb: 2 }}>
          <Box>
            <Typography variant="body2" color="text.secondary" sx={{ mb: 0.25 }}>
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
              <Button size="small" onClick={() => void edit({ kind: 'protocol', protocolId: proposed })}>
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
            unit="h a week"
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
          <TextField
            label="Event’s date"
            type="date"
            size="small"
            value={intake.eventDate ?? ''}
            onChange={(e) => put('eventDate')(e.target.value || null)}
            slotProps={{ inputLabel: { shrink: true } }}
          />
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
          <WordsField
            label="What changed lately"
            lines={2}
            most={2000}
            value={intake.changed}
            onChange={put('changed')}
          />
        </Fields>
      </Sheet>
      <Sheet title="Consent to being filmed">
        <Consent
          key={String(intake.filmConsent?.givenIso)}
          session={session}
          name={rider?.name ?? ''}
          onChange={put('filmConsent')}
        />
      </Sheet>
    </Desk>
  );
}

function Complaints({
  complaints,
  onChange,
}: {
  complaints: Complaint[];
  onChange: (c: Complaint[]) => void;
}) {
  const [selected, setSelected] = useState<string | null>(complaints[0]?.id ?? null);
  const chosen = complaints.find((c) => c.id === selected) ?? null;
  const tap = (region: RegionKey, side: Side): void => {
    const held = complaints.find(
      (c) => c.region === region && (c.side === side || c.side === 'both' || side === 'both'),
    );
    if (held && (held.side === side || held.side === 'both')) {
      setSelected(held.id);
      return;
    }
    const other = complaints.find((c) => c.region === region);
    if (other && side !== 'middle') {
      // The same place on the other side is one complaint of both.
      onChange(complaints.map((c) => (c.id === other.id ? { ...c, side: 'both' } : c)));
      setSelected(other.id);
      return;
    }
    const fresh: Complaint = {
      id: nanoid(),
      region,
      side,
      severity: 5,
      onset: 'builds-up',
      since: '',
      eases: '',
    };
    onChange([...complaints, fresh]);
    setSelected(fresh.id);
  };
  const change = (by: Partial<Complaint>): void =>
    onChange(complaints.map((c) => (c.id === selected ? { ...c, ...by } : c)));
  return (
    <Box sx={{ display: 'grid', gridTemplateColumns: { xs: '1fr', lg: '1.15fr 1fr' }, gap: 3 }}>
      <BodyMap complaints={complaints} selected={selected} onTap={tap} />
      <Box>
        <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap', mb: 2 }}>
          <TextField
            select
            size="small"
            label="Another place"
            value=""
            sx={{ minWidth: 170 }}
            onChange={(e) => {
              const region = REGIONS.find((r) => r.key === e.target.value)!;
              tap(region.key, region.sided ? 'both' : 'middle');
            }}
          >
            {REGIONS.filter((r) => !complaints.some((c) => c.region === r.key)).map((r) => (
              <MenuItem key={r.key} value={r.key}>
                {r.name}
              </MenuItem>
            ))}
          </TextField>
          {complaints.map((c) => (
            <Button
              key={c.id}
              size="small"
              aria-pressed={c.id === selected}
              variant={c.id === selected ? 'contained' : 'outlined'}
              onClick={() => setSelected(c.id)}
            >
              {complaintName(c)} · {c.severity}
            </Button>
          ))}
        </Box>
        {chosen ? (
          <OneComplaint
            key={chosen.id}
            complaint={chosen}
            onChange={change}
            onRemove={() => {
              onChange(complaints.filter((c) => c.id !== chosen.id));
              setSelected(null);
            }}
          />
        ) : (
          <Typography color="text.secondary">
            {complaints.length ? 'Choose a complaint to change it.' : 'Nothing hurts so far.'}
          </Typography>
        )}
      </Box>
    </Box>
  );
}

function OneComplaint({
  complaint,
  onChange,
  onRemove,
}: {
  complaint: Complaint;
  onChange: (by: Partial<Complaint>) => void;
  onRemove: () => void;
}) {
  const [severity, setSeverity] = useState(complaint.severity);
  return (
    <Box sx={{ display: 'grid', gap: 1.5 }}>
      <Box>
        <Typography variant="h3" component="p">
          {complaintName(complaint)}
        </Typography>
        <Box sx={{ display: 'flex', alignItems: 'center', gap: 2 }}>
          <Typography sx={{ fontSize: '2rem', fontWeight: 620, minWidth: 48 }} data-testid="severity">
            {severity}
          </Typography>
          <Slider
            aria-label="How bad, 0 to 10"
            value={severity}
            min={0}
            max={10}
            marks
            onChange={(_, v) => setSeverity(v as number)}
            onChangeCommitted={(_, v) => onChange({ severity: v as number })}
          />
          <Typography color="text.secondary" noWrap sx={{ flexShrink: 0 }}>
            of 10
          </Typography>
        </Box>
      </Box>
      {complaint.side !== 'middle' && (
        <Choice<Side>
          label="Side"
          options={[
            ['left', 'left'],
            ['both', 'both'],
            ['right', 'right'],
          ]}
          value={complaint.side}
          onChange={(side) => side && onChange({ side })}
        />
      )}
      <Choice<Onset>
        label="When"
        options={Object.entries(ONSET_WORDS) as [Onset, string][]}
        value={complaint.onset}
        onChange={(onset) => onset && onChange({ onset })}
      />
      <WordsField
        label="Since when"
        most={200}
        value={complaint.since}
        onChange={(since) => onChange({ since })}
      />
      <WordsField
        label="What eases it"
        most={500}
        value={complaint.eases}
        onChange={(eases) => onChange({ eases })}
      />
      <Button onClick={onRemove} sx={{ justifySelf: 'start' }}>
        Remove this complaint
      </Button>
    </Box>
  );
}

/** What stops the fit: the card stays until it is acknowledged, and after that as a reminder. */
function RedFlags({ session, set }: { session: FitSession; set: (at: string, value: unknown) => void }) {
  const flags = session.intake.redFlags;
  const has = (key: string): boolean => flags.some((f) => f.key === key);
  const open = flags.filter((f) => !f.acknowledgedIso);
  return (
    <Box sx={{ mb: 3 }}>
      {flags.length > 0 && (
        <Box role="alert" sx={{ border: 2, borderColor: 'error.main', p: 2, mb: 2 }}>
          <Typography variant="h2" sx={{ color: 'error.main' }}>
            Stop: refer first
          </Typography>
          <Box component="ul" sx={{ my: 1, pl: 2.5 }}>
            {flags.map((f) => (
              <li key={f.key}>{RED_FLAGS.find((r) => r.key === f.key)!.text}</li>
            ))}
          </Box>
          <Typography variant="body2">
            A licensed clinician sees this before anything is moved. The application gives measurements and
            options; it makes no diagnosis. This stays on the rider’s report.
          </Typography>
          {open.length > 0 ? (
            <Button
              variant="contained"
              color="error"
              sx={{ mt: 1.5 }}
              onClick={() =>
                set(
                  'intake.redFlags',
                  flags.map((f) => ({
                    ...f,
                    acknowledgedIso: f.acknowledgedIso ?? new Date().toISOString(),
                  })),
                )
              }
            >
              I have told the rider
            </Button>
          ) : (
            <Typography variant="body2" sx={{ mt: 1 }}>
              Told on {dayjs(flags[0].acknowledgedIso).format('D MMMM YYYY, HH:mm')}.
            </Typography>
          )}
        </Box>
      )}
      <details open={flags.length > 0}>
        <summary>Ask: anything that stops a fit? {flags.length === 0 && '(none so far)'}</summary>
        {RED_FLAGS.map((r) => (
          <FormControlLabel
            key={r.key}
            sx={{ display: 'flex', minHeight: 40 }}
            control={
              <Checkbox
                size="small"
                checked={has(r.key)}
                onChange={(e) =>
                  set(
                    'intake.redFlags',
                    e.target.checked
                      ? [...flags, { key: r.key, acknowledgedIso: null }]
                      : flags.filter((f) => f.key !== r.key),
                  )
                }
              />
            }
            label={r.text}
          />
        ))}
      </details>
    </Box>
  );
}

function Consent({
  session,
  name,
  onChange,
}: {
  session: FitSession;
  name: string;
  onChange: (c: IntakeRecord['filmConsent']) => void;
}) {
  const { intake } = session;
  const minor = isMinor(intake);
  const [by, setBy] = useState(minor ? '' : name);
  if (intake.filmConsent) {
    return (
      <Box sx={{ display: 'flex', gap: 2, alignItems: 'center', flexWrap: 'wrap' }}>
        <Typography>
          Given by {intake.filmConsent.by} on{' '}
          {dayjs(intake.filmConsent.givenIso).format('D MMMM YYYY, HH:mm')}.
        </Typography>
        <Button onClick={() => onChange(null)}>Withdraw</Button>
      </Box>
    );
  }
  return (
    <Box sx={{ display: 'flex', gap: 2, alignItems: 'flex-start', flexWrap: 'wrap' }}>
      <Typography sx={{ maxWidth: 420 }}>
        The film stays on this device and is deleted with the rider on request.{' '}
        {minor ? 'The rider is under 18: the guardian gives consent.' : 'Without consent nothing is filmed.'}
      </Typography>
      <TextField
        size="small"
        label={minor ? 'Guardian’s name' : 'Given by'}
        value={by}
        onChange={(e) => setBy(e.target.value)}
        slotProps={{ htmlInput: { maxLength: 120 } }}
      />
      <Button
        variant="contained"
        disabled={by.trim() === ''}
        onClick={() => onChange({ givenIso: new Date().toISOString(), by: by.trim() })}
      >
        Record the consent
      </Button>
    </Box>
  );
}
