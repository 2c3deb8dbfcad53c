import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useNavigate } from 'react-router';
import { useStore } from 'zustand';
import type { FitSession, Take } from '../../../core/records/types.ts';
import { firstLookJob, lookWithoutStickers } from '../../jobs/firstLook';
import { jobStore } from '../../jobs/jobs';
import { JobProgress } from '../../ui/JobProgress';

/** A film on which no stickers are seen: the pose model through the film, for estimates. */
export function FirstLook({
  session,
  take,
  blob,
  ready,
}: {
  session: FitSession;
  take: Take;
  blob: Blob | null;
  /** Whether wheels and wheelbase are there to measure by. */
  ready: boolean;
}) {
  const id = firstLookJob(take.id);
  const job = useStore(jobStore, ({ jobs }) => jobs[id] ?? null);
  const outcome = useStore(jobStore, ({ outcomes }) => outcomes[id] ?? null);
  const navigate = useNavigate();
  const look = async (): Promise<void> => {
    if (blob && (await lookWithoutStickers(session, take, blob)))
      void navigate(`/sessions/${session.id}/read`);
  };
  if (job) return <JobProgress job={job} unit="pictures" />;
  return (
    <Box sx={{ display: 'grid', gap: 1 }}>
      <Button variant="outlined" size="large" disabled={!ready || !blob} onClick={() => void look()}>
        First look without stickers
      </Button>
      <Typography variant="body2" color="textSecondary">
        The pose model follows the joints through the film. Its figures are estimates with a larger ±.
      </Typography>
      {outcome && (
        <Alert severity="error" variant="outlined">
          {outcome}
        </Alert>
      )}
    </Box>
  );
}
