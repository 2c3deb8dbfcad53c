import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import Typography from '@mui/material/Typography';
import { RED_FLAGS } from '../../../core/intake/intake.ts';
import type { FitSession } from '../../../core/records/types.ts';
import { useState } from 'react';
import { dayText, momentText } from '../../ui/words/dates';

/** What stops the fit: the card stays until it is acknowledged, and after that as a reminder. */
export function RedFlags({
  session,
  set,
}: {
  session: FitSession;
  set: (at: string, value: unknown) => void;
}) {
  const { redFlags: flags, flagsAskedIso } = session.intake;
  const [listed, setListed] = useState(flags.length > 0);
  const has = (key: string): boolean => flags.some((f) => f.key === key);
  const open = flags.filter((f) => !f.acknowledgedIso);
  return (
    <Box>
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
              Told on {momentText(flags[0].acknowledgedIso!)}.
            </Typography>
          )}
        </Box>
      )}
      <Box sx={{ display: 'flex', gap: 1, alignItems: 'center', flexWrap: 'wrap' }}>
        <Typography sx={{ fontWeight: 600 }}>
          {flags.length > 0
            ? 'Red flags'
            : flagsAskedIso === null
              ? 'Ask about red flags'
              : `No red flags, asked ${dayText(flagsAskedIso)}`}
        </Typography>
        <Button size="small" aria-expanded={listed} onClick={() => setListed(!listed)}>
          {listed ? 'Hide the list' : 'The list…'}
        </Button>
        {flags.length === 0 && flagsAskedIso === null && (
          <Button
            size="small"
            variant="outlined"
            onClick={() => set('intake.flagsAskedIso', new Date().toISOString())}
          >
            Asked: none of them
          </Button>
        )}
      </Box>
      <Box sx={{ display: listed ? 'block' : 'none' }}>
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
      </Box>
    </Box>
  );
}
