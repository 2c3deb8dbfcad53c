import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Chip from '@mui/material/Chip';
import Typography from '@mui/material/Typography';
import { useEffect, useState } from 'react';
import { useStore } from 'zustand';
import type { LiveKey } from '../../../core/kinematics/live/turns.ts';
import { liveStore, stopLive } from '../../jobs/live';
import { isPractice, meetRider, practiceId, practiceStore, startPractice } from '../../jobs/practice';
import { LiveFigures, LiveWay } from '../../ui/live/LiveFigures';
import { LivePicture } from '../../ui/live/LivePicture';
import { LiveTroubles, PauseAndStop } from '../../ui/live/LiveControls';
import { liveText } from '../../ui/live/liveWords';
import { RouteTrouble } from '../../ui/RouteTrouble';
import { TopBar } from '../../ui/TopBar';
import type { Route } from './+types/practice';
import { Ease } from './Ease';
import { PracticeBike } from './PracticeBike';
import { PracticeChanges } from './PracticeChanges';

export const meta: Route.MetaFunction = () => [{ title: 'Practice · Deep Angle' }];

/** A rider is there from the start: the same one until another is asked for. */
export function clientLoader(): null {
  if (!practiceStore.getState().rider) meetRider(1);
  return null;
}

export default function Practice() {
  const live = useStore(liveStore);
  const { rider } = useStore(practiceStore);
  const [key, setKey] = useState<LiveKey | null>(null);
  const mine = live.ownerId === practiceId(rider);
  // Nobody rides on for a page that is left.
  useEffect(
    () => () => {
      if (isPractice(liveStore.getState().ownerId)) stopLive();
    },
    [],
  );
  const another = (): void => {
    stopLive();
    meetRider((rider?.seed ?? 0) + 1);
  };
  return (
    <Box sx={{ minHeight: '100vh' }}>
      <TopBar>
        <Typography color="textSecondary">Practice</Typography>
      </TopBar>
      <Box
        component="main"
        sx={{ p: { xs: 2, md: 2.5 }, maxWidth: { xs: 1320, xl: 1700 }, mx: 'auto', display: 'grid', gap: 2 }}
      >
        <Box sx={{ display: 'flex', gap: 2, alignItems: 'baseline', flexWrap: 'wrap' }}>
          <Typography variant="h1">Rider {rider?.seed}</Typography>
          <Chip size="small" variant="outlined" label="simulated" />
          <Typography color="textSecondary" sx={{ flex: '1 1 320px' }}>
            A made-up rider on a bike that was set up wrong. Nothing is stored.
          </Typography>
          <Button variant="outlined" onClick={another}>
            Another rider
          </Button>
        </Box>
        <Box
          sx={{
            display: 'grid',
            gridTemplateColumns: { xs: 'minmax(0, 1fr)', md: 'minmax(0, 9fr) minmax(0, 12fr)' },
            gap: 3,
          }}
        >
          <Box sx={{ minWidth: 0 }}>
            {mine && live.camera ? <LivePicture /> : <Waiting />}
            <Typography role="status" sx={{ fontWeight: 600, mt: 1 }} data-testid="live-state">
              {mine ? liveText(live) : ''}
            </Typography>
            {mine && <LiveTroubles live={live} />}
            <Ride mine={mine} />
            {mine ? <LiveWay live={live} picked={key} /> : <HowItGoes />}
          </Box>
          <Box sx={{ minWidth: 0, display: 'grid', gap: 2, alignContent: 'start' }}>
            {mine && live.phase !== 'starting' && <LiveFigures live={live} picked={key} onPick={setKey} />}
            <PracticeBike isRiding={mine && live.phase === 'following' && live.turns.length > 0} />
            <PracticeChanges />
            <Ease />
          </Box>
        </Box>
      </Box>
    </Box>
  );
}

const Waiting = () => (
  <Box
    sx={{
      aspectRatio: '16 / 9',
      border: 1,
      borderColor: 'divider',
      display: 'grid',
      placeItems: 'center',
      p: 3,
    }}
  >
    <Typography color="textSecondary" align="center">
      The picture of the simulated camera comes here.
    </Typography>
  </Box>
);

const HowItGoes = () => (
  <Box component="ol" sx={{ mt: 2, pl: 2.5, '& li': { mb: 0.5 } }}>
    <li>Let the rider pedal, and wait for some turns to be read.</li>
    <li>Move one thing. What it did is measured once the rider has settled, beside what it truly did.</li>
    <li>Go on until the rider is at ease, then see how near you came.</li>
  </Box>
);

/** Begins, pauses and ends the riding; a camera that runs elsewhere is not taken away unasked. */
function Ride({ mine }: { mine: boolean }) {
  const { phase } = useStore(liveStore);
  if (!mine && phase !== 'off')
    return (
      <Alert severity="info" variant="outlined" sx={{ mt: 1 }}>
        The camera reads a rider of the studio. Stop it there, or{' '}
        <Button size="small" onClick={stopLive}>
          stop the camera
        </Button>
      </Alert>
    );
  return (
    <Box sx={{ display: 'flex', gap: 1, mt: 1 }}>
      {phase === 'off' ? (
        <Button variant="contained" size="large" onClick={() => void startPractice()}>
          Let the rider pedal
        </Button>
      ) : (
        <PauseAndStop phase={phase} />
      )}
    </Box>
  );
}

export function ErrorBoundary({ error }: Route.ErrorBoundaryProps) {
  return <RouteTrouble error={error} bare />;
}
