import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useState } from 'react';
import { isMinor, type Intake } from '../../core/intake/intake.ts';
import type { FitSession } from '../../core/records/types.ts';
import { dayText, momentText } from './words/dates';

/** Consent to being filmed: who gave it and when; a guardian's for a rider under 18. */
export function Consent({
  session,
  name,
  onChange,
}: {
  session: FitSession;
  name: string;
  onChange: (c: Intake['filmConsent']) => void;
}) {
  const { intake } = session;
  const minor = isMinor(intake);
  const [by, setBy] = useState(minor ? '' : name);
  if (intake.filmConsent) {
    return (
      <Box sx={{ display: 'flex', gap: 1, alignItems: 'center', flexWrap: 'wrap' }}>
        <Typography title={momentText(intake.filmConsent.givenIso)} sx={{ fontWeight: 600 }}>
          Consent to filming: {intake.filmConsent.by}, {dayText(intake.filmConsent.givenIso)}
        </Typography>
        <Button size="small" onClick={() => onChange(null)}>
          Withdraw
        </Button>
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
