import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { Suspense, useState } from 'react';
import type { Studio } from '../../../core/records/types.ts';
import { SetUp } from './dialogs';

/** On a first visit: whose studio this is, or a look around with the sample riders, who stand below. */
export function Welcome({ studio, onLater }: { studio: Studio; onLater: () => void }) {
  const [open, setOpen] = useState(false);
  return (
    <Box
      component="section"
      aria-label="Welcome"
      sx={{
        border: 1,
        borderColor: 'text.primary',
        p: 2,
        mb: 3,
        display: 'flex',
        flexWrap: 'wrap',
        alignItems: 'center',
        gap: 2,
      }}
    >
      <Box sx={{ flex: '1 1 420px' }}>
        <Typography variant="h2">Welcome to Deep Angle</Typography>
        <Typography>
          Set up your studio, or look around first: the four sample riders below are made up, each with films,
          figures and a plan.
        </Typography>
      </Box>
      <Button variant="contained" onClick={() => setOpen(true)}>
        Set up your studio…
      </Button>
      <Button variant="outlined" onClick={onLater}>
        Look around first
      </Button>
      {open && (
        <Suspense>
          <SetUp studio={studio} onClose={() => setOpen(false)} />
        </Suspense>
      )}
    </Box>
  );
}
