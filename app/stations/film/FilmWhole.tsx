import Alert from '@mui/material/Alert';
import AlertTitle from '@mui/material/AlertTitle';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import LinearProgress from '@mui/material/LinearProgress';
import Typography from '@mui/material/Typography';
import { useEffect, useRef } from 'react';
import { useStore } from 'zustand';
import { goodParts, partText } from '../../../core/visit/filmParts.ts';
import type { Take } from '../../../core/records/types.ts';
import { jobStore } from '../../jobs/jobs';
import { lookThrough, wholeFilmStore, wholeJob } from '../../jobs/wholeFilms';

/** Whether every frame of a take's film can be shown: looked through once, in the background; damage is stated with the good part beside it. */
export function FilmWhole({
  take,
  blob,
  onChange,
}: {
  take: Take;
  blob: Blob | null;
  onChange: (trim: Take['trim']) => void;
}) {
  const whole = useStore(wholeFilmStore, (s) => s[take.id]);
  const job = useStore(jobStore, ({ jobs }) => jobs[wholeJob(take.id)]);
  const takeRef = useRef(take);
  useEffect(() => {
    takeRef.current = take;
  });
  useEffect(() => {
    if (blob) void lookThrough(takeRef.current, blob);
  }, [take.id, blob]);
  if (job)
    return (
      <Box>
        <Typography variant="body2" color="textSecondary">
          Looking through every frame{job.of ? `: ${job.done} of ${job.of}` : '…'}
        </Typography>
        <LinearProgress
          aria-label="Frames looked through"
          {...(job.of ? { variant: 'determinate' as const, value: (100 * job.done) / job.of } : {})}
        />
      </Box>
    );
  if (!whole || whole.broken.length === 0) return null;
  const [best] = goodParts(whole);
  const from = take.trim?.from ?? 0;
  const to = take.trim?.to ?? whole.frames - 1;
  const clear = !whole.broken.some((b) => b.from <= to && b.to >= from);
  return (
    <Alert severity={clear ? 'info' : 'warning'} variant="outlined" data-testid="film-damage">
      <AlertTitle>This film is damaged in places</AlertTitle>
      {whole.broken.length === 1 && whole.broken[0].from === whole.broken[0].to ? 'Frame ' : 'Frames '}
      {whole.broken.slice(0, 4).map(partText).join(', ')}
      {whole.broken.length > 4 && ` and ${whole.broken.length - 4} more places`} can’t be decoded.{' '}
      {clear
        ? 'The part that is read is whole.'
        : best
          ? 'The rest can be used: trim the film to its longest whole part, or film again.'
          : 'Nothing of it can be used: film again.'}
      {!clear && best && (
        <Box sx={{ mt: 1 }}>
          <Button size="small" variant="outlined" onClick={() => onChange(best)}>
            Use frames {partText(best)}
          </Button>
        </Box>
      )}
    </Alert>
  );
}
