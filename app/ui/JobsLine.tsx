import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import LinearProgress from '@mui/material/LinearProgress';
import Typography from '@mui/material/Typography';
import { useEffect, useState } from 'react';
import { Link, useLocation } from 'react-router';
import { useStore } from 'zustand';
import { jobStore, stopJob, type Job } from '../jobs/jobs';

/** What is over before anybody could read it need not be shown, ms. */
const SHOWN_AFTER_MS = 400;

function OneJob({ job }: { job: Job }) {
  const [shown, setShown] = useState(() => performance.now() - job.beganMs > SHOWN_AFTER_MS);
  useEffect(() => {
    const timer = setTimeout(() => setShown(true), SHOWN_AFTER_MS);
    return () => clearTimeout(timer);
  }, []);
  const share = job.of ? (100 * job.done) / job.of : null;
  if (!shown) return null;
  return (
    <Box role="status" sx={{ display: 'flex', alignItems: 'center', gap: 1.5, px: 2.5, minHeight: 36 }}>
      <Typography variant="body2" noWrap sx={{ minWidth: 0, flexShrink: 1 }}>
        {job.to ? (
          <Link to={job.to} style={{ color: 'inherit' }}>
            {job.label}
          </Link>
        ) : (
          job.label
        )}
      </Typography>
      <LinearProgress
        aria-label={job.label}
        sx={{ flex: 1, maxWidth: 320 }}
        {...(share === null ? {} : { variant: 'determinate' as const, value: share })}
      />
      {share !== null && (
        <Typography variant="body2" sx={{ minWidth: 44 }}>
          {Math.floor(share)} %
        </Typography>
      )}
      <Button size="small" onClick={() => stopJob(job.id)}>
        Stop
      </Button>
    </Box>
  );
}

/** Long work that goes on whatever page is drawn: what it is, how far, and its stop. */
export function JobsLine() {
  const { pathname, search } = useLocation();
  const jobs = useStore(jobStore, (s) => s.jobs);
  const elsewhere = Object.values(jobs).filter(
    (j) => j.everywhere || (j.to !== null && j.to !== pathname && j.to !== pathname + search),
  );
  if (elsewhere.length === 0) return null;
  return (
    <Box className="no-print" sx={{ '& > *': { borderBottom: 1, borderColor: 'divider' } }}>
      {elsewhere.map((job) => (
        <OneJob key={job.id} job={job} />
      ))}
    </Box>
  );
}
