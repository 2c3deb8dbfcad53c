import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useStore } from 'zustand';
import type { FitSession, Take } from '../../../core/records/types.ts';
import { jobStore, stopJob } from '../../jobs/jobs';
import { refindingJob, refindMarks } from '../../jobs/refind';
import { takeText } from '../../ui/words/takeWords';

/** For a take of the same camera, unmoved: scale from the take before, and its marks found again on this film. */
export function CameraStood({ session, take, blob }: { session: FitSession; take: Take; blob: Blob | null }) {
  const job = useStore(jobStore, ({ jobs }) => jobs[refindingJob(take.id)]);
  const outcome = useStore(jobStore, (s) => s.outcomes[refindingJob(take.id)]);
  const model = session.takes.find(
    (t) =>
      t.id !== take.id &&
      t.view === take.view &&
      (t.axles.rear ?? t.width.right) &&
      t.video.widthPx === take.video.widthPx &&
      t.video.heightPx === take.video.heightPx,
  );
  const blank = !take.axles.rear && !take.width.right && Object.keys(take.marks).length === 0;
  if (!model || !blob || (!blank && !outcome && !job)) return null;
  return (
    <Box>
      {job ? (
        <Box role="status" sx={{ display: 'flex', alignItems: 'center', gap: 1 }}>
          <Typography variant="body2" sx={{ flex: 1 }}>
            {job.label}…
          </Typography>
          <Button size="small" onClick={() => stopJob(job.id)}>
            Cancel
          </Button>
        </Box>
      ) : (
        blank && (
          <Button variant="outlined" onClick={() => void refindMarks(session, take, model, blob)}>
            {`The camera stood still: as in “${takeText(model)}”`}
          </Button>
        )
      )}
      {outcome && (
        <Alert severity="info" variant="outlined" sx={{ mt: 1 }}>
          {outcome}
        </Alert>
      )}
    </Box>
  );
}
