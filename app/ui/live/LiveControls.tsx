import Alert from '@mui/material/Alert';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { pauseLive, stopLive, type LiveNow } from '../../jobs/live';
import { LIVE_WARNINGS } from './liveWords';

/** Why the camera is off, and what keeps the figures from being as good as they could be. */
export const LiveTroubles = ({ live: { trouble, warnings } }: { live: LiveNow }) => (
  <>
    {trouble && (
      <Alert severity="error" variant="outlined" sx={{ mt: 1 }}>
        {trouble}
      </Alert>
    )}
    {warnings.map((w) => (
      <Typography key={w} variant="body2" sx={{ mt: 0.5 }}>
        {LIVE_WARNINGS[w]}
      </Typography>
    ))}
  </>
);

/** While the camera runs. */
export const PauseAndStop = ({ phase }: { phase: LiveNow['phase'] }) => (
  <>
    <Button size="small" variant="outlined" onClick={() => pauseLive(phase !== 'paused')}>
      {phase === 'paused' ? 'Go on' : 'Pause'}
    </Button>
    <Button size="small" variant="outlined" onClick={stopLive}>
      Stop
    </Button>
  </>
);
