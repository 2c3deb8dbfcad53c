import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useEffect } from 'react';
import { useStore } from 'zustand';
import type { FitSession, Take } from '../../../core/records/types.ts';
import { GUIDES, LANDMARKS, plainName, type Landmark } from '../../../core/landmarks/landmarks.ts';
import { isRunning, jobStore } from '../../jobs/jobs';
import {
  closePoseModel,
  proposeFromModel,
  proposeFromStickers,
  proposingJob,
  type Proposal,
} from '../../jobs/proposals';
import type { Clip } from '../../ui/film/useClip';
import { JobProgress } from '../../ui/JobProgress';

const sureWord = (sure: number): string => (sure > 0.85 ? 'sure' : sure > 0.6 ? 'rather sure' : 'unsure');

/** Asks for all marks of a frame at once: from its stickers, or from the pose model; the fitter takes, swaps or leaves them. */
export function ProposeMarks({
  session,
  take,
  clip,
  proposal,
  onPropose,
  onTake,
}: {
  session: FitSession;
  take: Take;
  clip: Clip;
  proposal: Proposal | null;
  onPropose: (p: Proposal | null) => void;
  onTake: (p: Proposal) => void;
}) {
  const job = useStore(jobStore, ({ jobs }) => jobs[proposingJob(take.id)]);
  const outcome = useStore(jobStore, (st) => st.outcomes[proposingJob(take.id)]);
  const id = proposingJob(take.id);
  useEffect(
    () => () => {
      if (!isRunning(id)) closePoseModel();
    },
    [id],
  );
  const frame = Object.keys(take.marks).length > 0 ? take.markedFrame : clip.shown;
  const fromModel = (): void => {
    const { canvas, blob } = clip;
    if (canvas && blob) void proposeFromModel(take, frame, blob, () => createImageBitmap(canvas));
  };
  const elsewhere = frame !== clip.shown;
  if (proposal) {
    const keys = LANDMARKS.filter((k) => proposal[k]);
    const swap = (a: Landmark, b: Landmark): void => {
      const next: Proposal = { ...proposal, [b]: proposal[a] };
      if (proposal[b]) next[a] = proposal[b];
      else delete next[a];
      onPropose(next);
    };
    const without = (a: Landmark): void => {
      const next = { ...proposal };
      delete next[a];
      onPropose(next);
    };
    return (
      <Box
        component="section"
        aria-label="Proposed marks"
        sx={{ border: 1, borderColor: 'primary.main', p: 1.25 }}
      >
        <Typography variant="h3" role="status">
          {keys.length} points proposed
        </Typography>
        <Typography variant="body2" color="textSecondary" sx={{ mb: 1 }}>
          Look at each on the film. One that is another joint is given its name here.
        </Typography>
        {keys.map((key) => (
          <Box key={key} sx={{ display: 'flex', gap: 1, alignItems: 'center', py: 0.25 }}>
            <TextField
              select
              size="small"
              value={key}
              onChange={(e) =>
                e.target.value === 'none' ? without(key) : swap(key, e.target.value as Landmark)
              }
              sx={{ width: 140 }}
              slotProps={{ htmlInput: { 'aria-label': `Proposed as ${plainName(key)}` } }}
            >
              {[...keys, ...openOf(take, proposal)].map((k) => (
                <MenuItem key={k} value={k}>
                  {plainName(k)}
                </MenuItem>
              ))}
              <MenuItem value="none">none of them</MenuItem>
            </TextField>
            <Typography variant="body2" color="textSecondary">
              {proposal[key]!.onSticker ? 'on a sticker' : 'by the model alone'},{' '}
              {sureWord(proposal[key]!.sure)}
            </Typography>
          </Box>
        ))}
        <Box sx={{ display: 'flex', gap: 1, mt: 1 }}>
          <Button variant="contained" onClick={() => onTake(proposal)}>
            Take them
          </Button>
          <Button variant="outlined" onClick={() => onPropose(null)}>
            Leave them
          </Button>
        </Box>
      </Box>
    );
  }
  return (
    <Box sx={{ display: 'grid', gap: 1 }}>
      <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap' }}>
        <Button
          size="small"
          variant="outlined"
          disabled={Boolean(job) || !clip.blob || !clip.drawn || elsewhere}
          onClick={() => clip.blob && void proposeFromStickers(session, take, frame, clip.blob)}
        >
          Find the stickers
        </Button>
        <Button
          size="small"
          variant="outlined"
          disabled={Boolean(job) || !clip.blob || !clip.drawn || elsewhere}
          onClick={fromModel}
        >
          Mark the rider
        </Button>
      </Box>
      {job && <JobProgress job={job} />}
      {outcome && (
        <Alert severity="info" variant="outlined">
          {outcome}
        </Alert>
      )}
    </Box>
  );
}

/** Joints of this view that are not proposed. */
const openOf = (take: Take, proposal: Proposal): Landmark[] =>
  GUIDES[take.view].map((g) => g.key).filter((k) => !proposal[k]);
