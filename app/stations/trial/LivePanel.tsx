import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useState } from 'react';
import { useStore } from 'zustand';
import { filmingHeldBack } from '../../../core/intake/intake.ts';
import type { LiveKey } from '../../../core/kinematics/live/turns.ts';
import type { Reading } from '../../../core/kinematics/read.ts';
import type { FitSession } from '../../../core/records/types.ts';
import { mayHaveCamera } from '../../jobs/camera';
import { keepLastMinute } from '../../jobs/keepLive';
import { liveStore, stopLive } from '../../jobs/live';
import { startLive, switchCamera } from '../../jobs/liveVisit';
import { notify } from '../../session/notices';
import { whyNot } from '../../storage/saveState';
import { ConsentFirst } from '../../ui/ConsentFirst';
import { WhichCamera } from '../../ui/film/WhichCamera';
import { useSession } from '../session';
import { LiveFigures, LiveWay } from '../../ui/live/LiveFigures';
import { LiveRamp } from './LiveRamp';
import { LivePicture } from '../../ui/live/LivePicture';
import { LiveTroubles, PauseAndStop } from '../../ui/live/LiveControls';
import { liveText } from '../../ui/live/liveWords';
import { LivePosture, LiveStep } from './LiveStep';
import type { Devices } from './useDevices';
import { useTrialSteps } from './useTrialSteps';

/** The trial while the camera runs: the figures of the last ten turns, and every change measured by itself. */
export function LivePanel({
  session,
  reading,
  devices,
}: {
  session: FitSession;
  reading: Reading | null;
  devices: Devices;
}) {
  const live = useStore(liveStore);
  const { rider } = useSession();
  const steps = useTrialSteps(session, devices, true);
  const [cameraId, setCameraId] = useState('');
  const [key, setKey] = useState<LiveKey | null>(null);
  const held = filmingHeldBack(session.intake);
  const mine = live.ownerId === session.id;
  if (held)
    return (
      <ConsentFirst
        session={session}
        name={rider?.name ?? ''}
        held={held}
        onChange={(c) => steps.set('intake.filmConsent', c)}
      />
    );
  if (live.phase !== 'off' && !mine)
    return (
      <Box sx={{ p: 4, maxWidth: 640, mx: 'auto' }}>
        <Typography variant="h1">The camera reads another rider</Typography>
        <Typography sx={{ mb: 2 }}>It was started on another visit. Stop it there, or here.</Typography>
        <Button variant="contained" onClick={stopLive}>
          Stop the camera
        </Button>
      </Box>
    );
  if (live.phase === 'off' && (!mine || live.turns.length === 0))
    return <Begin session={session} trouble={mine ? live.trouble : null} />;
  return (
    <Box
      sx={{ p: { xs: 2, md: 2.5 }, maxWidth: { xs: 1320, xl: 1700 }, mx: 'auto', display: 'grid', gap: 2 }}
    >
      <Box
        sx={{
          display: 'grid',
          gridTemplateColumns: { xs: 'minmax(0, 1fr)', md: 'minmax(0, 9fr) minmax(0, 12fr)' },
          gap: 3,
        }}
      >
        <Box sx={{ minWidth: 0 }}>
          <LivePicture />
          <Box sx={{ display: 'flex', columnGap: 2, mt: 1, flexWrap: 'wrap', alignItems: 'baseline' }}>
            <Typography role="status" sx={{ fontWeight: 600, flex: '1 1 auto' }} data-testid="live-state">
              {liveText(live)}
            </Typography>
            <Typography
              variant="body2"
              color="textSecondary"
              data-testid="live-counts"
              data-behind-ms={live.behindMs.toFixed(0)}
            >
              {live.handled} pictures, {live.dropped} dropped
              {live.framesPerS > 0 && `, ${live.framesPerS.toFixed(0)} a second`}
              {live.cadenceRpm !== null && `; ${live.cadenceRpm.toFixed(0)} rpm`}
            </Typography>
          </Box>
          <LiveTroubles live={live} />
          <Box sx={{ display: 'flex', gap: 1, alignItems: 'center', flexWrap: 'wrap', mt: 1 }}>
            {live.phase === 'off' ? (
              <Button variant="contained" onClick={() => void startLive(session, cameraId)}>
                Start again
              </Button>
            ) : (
              <>
                <PauseAndStop phase={live.phase} />
                <Keep session={session} ready={live.turns.length > 0} />
              </>
            )}
            {live.cameras.length > 1 && (
              <WhichCamera
                cameras={live.cameras}
                chosen={cameraId}
                onChange={(id) => {
                  setCameraId(id);
                  if (live.phase !== 'off') void switchCamera(session, id);
                }}
              />
            )}
          </Box>
          <LiveWay live={live} picked={key} />
        </Box>
        <Box sx={{ minWidth: 0, display: 'grid', gap: 2, alignContent: 'start' }}>
          <LiveFigures live={live} picked={key} onPick={setKey} />
          <LiveStep session={session} live={live} reading={reading} steps={steps} />
          <LivePosture live={live} />
          <LiveRamp session={session} live={live} devices={devices} />
        </Box>
      </Box>
    </Box>
  );
}

/** Nothing is stored but what is kept: the last minute becomes a take that reads at once. */
function Keep({ session, ready }: { session: FitSession; ready: boolean }) {
  const [busy, setBusy] = useState(false);
  const [why, setWhy] = useState<string | null>(null);
  const keep = async (): Promise<void> => {
    setBusy(true);
    const made = await keepLastMinute(session).catch((error: unknown) => ({ why: whyNot(error) }));
    setBusy(false);
    setWhy('why' in made ? made.why : null);
    if ('take' in made) notify('The last minute is kept as a take: Read shows it.');
  };
  return (
    <>
      <Button size="small" variant="outlined" disabled={!ready || busy} onClick={() => void keep()}>
        {busy ? 'Keeping…' : 'Keep the last minute'}
      </Button>
      {why && (
        <Alert severity="error" variant="outlined">
          {why}
        </Alert>
      )}
    </>
  );
}

function Begin({ session, trouble }: { session: FitSession; trouble: string | null }) {
  return (
    <Box sx={{ p: { xs: 2, md: 4 }, maxWidth: 720, mx: 'auto' }}>
      <Typography variant="h1" gutterBottom>
        Live
      </Typography>
      <Typography sx={{ mb: 1 }}>
        The camera stays on, every turn is read as it ends, and each change on the bike measures itself: the
        turns before it against those after the rider has settled.
      </Typography>
      <Typography color="textSecondary" sx={{ mb: 2 }}>
        The camera on a tripod, square to the bike, the whole rider and both wheels in sight, stickers on. No
        picture and no sound is stored; what a change did is kept with it.
      </Typography>
      {trouble && (
        <Alert severity="error" variant="outlined" sx={{ mb: 2 }}>
          {trouble}
        </Alert>
      )}
      {mayHaveCamera() ? (
        <Button
          variant="contained"
          size="large"
          data-testid="live-begin"
          onClick={() => void startLive(session, '')}
        >
          Turn the camera on
        </Button>
      ) : (
        <Alert severity="info" variant="outlined">
          Browsers give a camera only to pages on this device (localhost) or over https. Open Deep Angle
          there.
        </Alert>
      )}
    </Box>
  );
}
