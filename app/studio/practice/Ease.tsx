import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useStore } from 'zustand';
import { MOVED_KEYS } from '../../../sim/practice.ts';
import { practiceStore, showEase } from '../../jobs/practice';
import { useStudio } from '../../session/useStudio';
import { many } from '../../ui/words/many';
import { HANDLES, handleText } from './practiceWords';

/** Nearer than this nobody feels a difference, mm. */
const NEAR_MM = 3;

/** Where the rider is at ease, once the fitter wants to know: beside where the bike stands now. */
export function Ease() {
  const { rider, moved, changes, isShown } = useStore(practiceStore);
  const { lengthUnit } = useStudio();
  if (!rider) return null;
  if (!isShown)
    return (
      <Box sx={{ borderTop: 1, borderColor: 'divider', pt: 1.5 }}>
        <Button variant="outlined" onClick={showEase}>
          Show where this rider is at ease
        </Button>
      </Box>
    );
  const left = MOVED_KEYS.map((key) => ({ key, byMm: rider.wanted[key] - moved[key] }));
  const near = left.every(({ byMm }) => Math.abs(byMm) <= NEAR_MM);
  return (
    <Box component="section" aria-label="At ease" sx={{ borderTop: 1, borderColor: 'text.primary', pt: 1.5 }}>
      <Typography variant="h2" gutterBottom>
        {near ? 'You are there' : 'Where this rider is at ease'}
      </Typography>
      <Typography color="textSecondary" gutterBottom>
        After {many(changes.length, 'change')}:
      </Typography>
      <Box component="dl" sx={{ display: 'grid', gridTemplateColumns: 'auto 1fr', columnGap: 2, m: 0 }}>
        {left.map(({ key, byMm }) => (
          <Box key={key} sx={{ display: 'contents' }}>
            <Typography component="dt">{HANDLES[key].name}</Typography>
            <Typography component="dd" sx={{ m: 0 }}>
              {Math.abs(byMm) <= NEAR_MM ? 'right' : `${handleText(key, byMm, lengthUnit)} from here`}
            </Typography>
          </Box>
        ))}
      </Box>
    </Box>
  );
}
