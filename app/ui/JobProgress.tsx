import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import LinearProgress from '@mui/material/LinearProgress';
import Typography from '@mui/material/Typography';
import { stopJob, type Job } from '../jobs/jobs';

/** A job that is under way where it was asked for: what is done, how far it is where that is known, and the way to end it. */
export function JobProgress({ job, unit = '' }: { job: Job; unit?: string }) {
  return (
    <Box role="status" sx={{ display: 'flex', alignItems: 'center', gap: 1 }}>
      <Box sx={{ flex: 1 }}>
        <Typography variant="body2" sx={{ overflowWrap: 'anywhere' }}>
          {job.label}
          {job.of ? `: ${job.done} of ${job.of} ${unit}` : '…'}
        </Typography>
        <LinearProgress
          aria-label={job.label}
          {...(job.of ? { variant: 'determinate' as const, value: (100 * job.done) / job.of } : {})}
        />
      </Box>
      <Button size="small" onClick={() => stopJob(job.id)}>
        Cancel
      </Button>
    </Box>
  );
}
