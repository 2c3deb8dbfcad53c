import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import MenuItem from '@mui/material/MenuItem';
import Slider from '@mui/material/Slider';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { nanoid } from 'nanoid';
import { useState } from 'react';
import {
  NEW_COMPLAINT,
  complaintName,
  ONSET_WORDS,
  REGIONS,
  type Complaint,
  type Onset,
  type RegionKey,
  type Side,
} from '../../../core/intake/intake.ts';
import { BodyMap } from './BodyMap';
import { Choice } from '../../ui/fields/Choice';
import { WordsField } from '../../ui/fields/WordsField';
import { FieldPlace } from '../../session/useTyped';
import { dayText } from '../../ui/words/dates';

/** Where it hurts: tapped on the outlines or chosen from the list, each with how bad, when and what eases it. */
export function Complaints({
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
      (c) =>
        c.region === region && (c.side === side || c.side === 'both' || side === 'both' || side === 'middle'),
    );
    if (held && (held.side === side || held.side === 'both' || side === 'middle')) {
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
      ...NEW_COMPLAINT,
    };
    onChange([...complaints, fresh]);
    setSelected(fresh.id);
  };
  const change = (by: Partial<Complaint>): void =>
    onChange(complaints.map((c) => (c.id === selected ? { ...c, carried: false, ...by } : c)));
  return (
    <Box sx={{ display: 'grid', gridTemplateColumns: { xs: '1fr', lg: '1.15fr 1fr' }, gap: 3 }}>
      <BodyMap complaints={complaints} selected={selected} onTap={tap} />
      <Box>
        <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap', mb: 2 }}>
          <TextField
            select
            size="small"
            label="Another complaint"
            value=""
            sx={{ minWidth: 170 }}
            onChange={(e) => {
              const region = REGIONS.find((r) => r.key === e.target.value)!;
              tap(region.key, region.sided === true ? 'both' : 'middle');
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
              {complaintName(c)} ·{' '}
              {c.goneIso !== null ? 'resolved' : c.carried ? `${c.severity} last time` : c.severity}
            </Button>
          ))}
        </Box>
        {chosen ? (
          <FieldPlace value={chosen.id}>
            <OneComplaint
              key={chosen.id}
              complaint={chosen}
              onChange={change}
              onRemove={() => {
                onChange(complaints.filter((c) => c.id !== chosen.id));
                setSelected(null);
              }}
            />
          </FieldPlace>
        ) : (
          <Typography color="textSecondary">
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
  const { sided } = REGIONS.find((r) => r.key === complaint.region)!;
  const sides: [Side, string][] = sided
    ? [['left', 'left'], sided === 'maybe' ? ['middle', 'middle'] : ['both', 'both'], ['right', 'right']]
    : [];
  return (
    <Box sx={{ display: 'grid', gap: 1.5 }}>
      <Box>
        <Typography variant="h3" component="p">
          {complaintName(complaint)}
        </Typography>
        {complaint.carried && (
          <Box sx={{ display: 'flex', gap: 1, alignItems: 'center', flexWrap: 'wrap', my: 0.5 }}>
            <Typography>{complaint.severity} of 10 last time. How is it now?</Typography>
            <Button size="small" variant="outlined" onClick={() => onChange({})}>
              As last time
            </Button>
            <Button
              size="small"
              variant="outlined"
              onClick={() => onChange({ goneIso: new Date().toISOString() })}
            >
              Resolved
            </Button>
          </Box>
        )}
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
          <Typography color="textSecondary" noWrap sx={{ flexShrink: 0 }}>
            of 10
          </Typography>
        </Box>
      </Box>
      <WordsField
        label={complaint.region === 'other' ? 'Where, and what it is like' : 'In the rider’s words'}
        most={500}
        value={complaint.words}
        onChange={(words) => onChange({ words })}
      />
      {sides.length > 0 && (
        <Choice<Side>
          label="Side"
          options={sides}
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
      <FormControlLabel
        control={
          <Checkbox
            checked={complaint.goneIso !== null}
            onChange={(e) => onChange({ goneIso: e.target.checked ? new Date().toISOString() : null })}
          />
        }
        label={complaint.goneIso === null ? 'Resolved' : `Resolved on ${dayText(complaint.goneIso)}`}
      />
      <Button onClick={onRemove} sx={{ justifySelf: 'start' }}>
        Remove this complaint
      </Button>
    </Box>
  );
}
