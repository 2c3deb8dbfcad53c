import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useState } from 'react';
import { useStore } from 'zustand';
import { measureName, quotedWay } from '../../../core/protocol/convention.ts';
import { lengthWithUnit } from '../../../core/units/length.ts';
import { MOVED_KEYS } from '../../../sim/practice.ts';
import { moveBike, practiceStore } from '../../jobs/practice';
import { useStudio } from '../../session/useStudio';
import { HANDLES, handleText } from './practiceWords';

/** A number as it is typed, or null: what is no number is no guess. */
function guessIn(text: string): number | null {
  const value = Number(text.trim().replace(',', '.').replace('−', '-'));
  return text.trim() !== '' && Number.isFinite(value) && Math.abs(value) <= 90 ? value : null;
}

/** What the rider touches, to be moved while the pedals turn; before it, what the fitter thinks that it will do. */
export function PracticeBike({ isRiding }: { isRiding: boolean }) {
  const { moved } = useStore(practiceStore);
  const { lengthUnit, jointConvention } = useStudio();
  const [guess, setGuess] = useState('');
  const [why, setWhy] = useState<string | null>(null);
  const typed = guessIn(guess);
  const way = quotedWay('kneeFlexionMinDeg', jointConvention);
  return (
    <Box
      component="section"
      aria-label="The bike"
      sx={{ borderTop: 1, borderColor: 'text.primary', pt: 1.5 }}
    >
      <Typography variant="h2" gutterBottom>
        The bike
      </Typography>
      {MOVED_KEYS.map((key) => {
        const { name, less, more, stepMm } = HANDLES[key];
        const step = lengthWithUnit(stepMm, lengthUnit);
        const by = (mm: number): void => {
          setWhy(moveBike(key, mm, typed === null ? null : way * typed));
          setGuess('');
        };
        return (
          <Box
            key={key}
            role="group"
            aria-label={name}
            sx={{
              display: 'grid',
              gridTemplateColumns: { xs: '1fr 1fr', sm: '170px 150px 150px minmax(0, 1fr)' },
              gap: 1,
              alignItems: 'center',
              py: 0.5,
              borderBottom: 1,
              borderColor: 'divider',
            }}
          >
            <Typography>{name}</Typography>
            <Button
              variant="outlined"
              disabled={!isRiding}
              onClick={() => by(-stepMm)}
              sx={{ minHeight: 44, order: { xs: 2, sm: 0 } }}
            >
              {step} {less}
            </Button>
            <Button
              variant="outlined"
              disabled={!isRiding}
              onClick={() => by(stepMm)}
              sx={{ minHeight: 44, order: { xs: 3, sm: 0 } }}
            >
              {step} {more}
            </Button>
            <Typography color={moved[key] === 0 ? 'textSecondary' : 'textPrimary'}>
              {handleText(key, moved[key], lengthUnit)}
            </Typography>
          </Box>
        );
      })}
      {why && (
        <Typography role="alert" sx={{ mt: 1 }}>
          {why}
        </Typography>
      )}
      <Box sx={{ display: 'flex', gap: 1.5, alignItems: 'center', flexWrap: 'wrap', mt: 1.5 }}>
        <TextField
          size="small"
          label="Your guess, °"
          value={guess}
          onChange={(e) => setGuess(e.target.value)}
          disabled={!isRiding}
          error={guess.trim() !== '' && guess.trim() !== '-' && typed === null}
          slotProps={{ htmlInput: { inputMode: 'decimal' }, inputLabel: { shrink: true } }}
          sx={{ width: 130 }}
        />
        <Typography variant="body2" color="textSecondary" sx={{ flex: '1 1 220px' }}>
          By how much will the next move change “{measureName('kneeFlexionMinDeg', jointConvention)}”? Leave
          it empty if you would rather not say.
        </Typography>
      </Box>
    </Box>
  );
}
