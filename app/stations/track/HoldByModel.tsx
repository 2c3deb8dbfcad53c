import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import LinearProgress from '@mui/material/LinearProgress';
import Typography from '@mui/material/Typography';
import { useStore } from 'zustand';
import type { FitSession, Take } from '../../../core/records/types.ts';
import { plainName, type Landmark } from '../../../core/landmarks/landmarks.ts';
import type { Tracks } from '../../../core/tracking/tracks.ts';
import { holdByModel, holdingJob } from '../../jobs/holding';
import { jobStore, stopJob } from '../../jobs/jobs';

/** What the model sees at all, of what can be marked. */
const SEEN_BY_MODEL: ReadonlySet<string> = new Set([
  ...['hip', 'knee', 'ankle', 'heel', 'toe', 'shoulder', 'elbow', 'wrist', 'head', 'hand'],
  ...['kneeR', 'kneeL', 'ankleR', 'ankleL', 'toeR', 'toeL', 'hipR', 'hipL', 'shoulderR', 'shoulderL'],
]);

/** Points followed without a sticker may drift: the pose model, asked every so many frames, holds them to the joint. */
export function HoldByModel({
  session,
  take,
  tracks,
  blob,
}: {
  session: FitSession;
  take: Take;
  tracks: Tracks;
  blob: Blob | null;
}) {
  const job = useStore(jobStore, ({ jobs }) => jobs[holdingJob(take.id)]);
  const outcome = useStore(jobStore, (s) => s.outcomes[holdingJob(take.id)]);
  const loose = (Object.keys(tracks.landmarks) as Landmark[]).filter(
    (k) => take.marks[k] && !take.marks[k].onSticker && SEEN_BY_MODEL.has(k),
  );
  if (loose.length === 0 || !blob) return null;
  return (
    <Box sx={{ display: 'grid', gap: 1 }}>
      {job ? (
        <Box role="status">
          <Typography variant="body2">
            {job.done} of {job.of ?? '…'} frames looked at by the pose model
          </Typography>
          <LinearProgress
            variant="determinate"
            value={(100 * job.done) / (job.of ?? 1)}
            aria-label="Frames looked at"
          />
          <Button size="small" onClick={() => stopJob(holdingJob(take.id))}>
            Stop
          </Button>
        </Box>
      ) : (
        <>
          <Typography variant="body2" color="textSecondary">
            Without a sticker: {loose.map(plainName).join(', ')}. Their paths may drift.
          </Typography>
          <Button
            size="small"
            variant="outlined"
            onClick={() => void holdByModel(session, take, { tracks, loose, film: blob })}
          >
            Hold them by the pose model
          </Button>
        </>
      )}
      {outcome && (
        <Alert severity="info" variant="outlined">
          {outcome}
        </Alert>
      )}
    </Box>
  );
}
