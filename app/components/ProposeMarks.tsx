import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import LinearProgress from '@mui/material/LinearProgress';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useEffect, useRef, useState } from 'react';
import type { FitSession, Mark, Take } from '../../core/records/types.ts';
import { GUIDES, isFrontal, LANDMARKS, plainName, type Landmark } from '../../core/stroke/landmarks.ts';
import { jointsOfPose } from '../../core/tracking/poseJoints.ts';
import { spawnTracker } from '../workers/spawn';
import { openPoseModel, type PoseModel } from './poseModel';
import { scaleOf } from '../../core/records/readOptions.ts';
import type { Clip } from './useClip';

export type Proposal = Partial<Record<Landmark, Mark & { sure: number }>>;

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
  const [busy, setBusy] = useState<string | null>(null);
  const [said, setSaid] = useState<string | null>(null);
  const model = useRef<PoseModel | null>(null);
  useEffect(
    () => () => {
      model.current?.close();
      model.current = null;
    },
    [],
  );
  const frame = Object.keys(take.marks).length > 0 ? take.markedFrame : clip.shown;
  const scale = isFrontal(take.view) ? null : scaleOf(session, take);
  const run = async (what: string, job: () => Promise<Proposal | string>): Promise<void> => {
    setBusy(what);
    setSaid(null);
    try {
      const got = await job();
      if (typeof got === 'string') setSaid(got);
      else onPropose(got);
    } catch (error) {
      setSaid(error instanceof Error ? error.message : String(error));
    } finally {
      setBusy(null);
    }
  };
  const fromStickers = (): Promise<void> =>
    run('Looking for the stickers…', async () => {
      const worker = spawnTracker();
      try {
        const pointed = Object.values(take.marks).find((m) => m.onSticker) ?? null;
        const laid = await worker.api.propose(
          clip.blob!,
          frame,
          take.view,
          {
            mmPerPx: scale?.ok ? scale.mmPerPx : null,
            facing: scale?.ok ? scale.facing : null,
          },
          pointed && { x: pointed.x, y: pointed.y },
        );
        if (!laid)
          return pointed
            ? 'No more stickers like the one pointed out lie as on a rider. Point the others out.'
            : 'No stickers of one colour were found. Point one out, and the others are looked for by its colour.';
        return Object.fromEntries(
          Object.entries(laid.points).map(([key, s]) => [key, { ...s, onSticker: true }]),
        ) as Proposal;
      } finally {
        worker.end();
      }
    });
  const fromModel = (): Promise<void> =>
    run(
      model.current ? 'Looking at the rider…' : 'Loading the pose model, then looking at the rider…',
      async () => {
        if (!clip.canvas) return 'The film is not open yet.';
        model.current ??= await openPoseModel();
        const points = await model.current.find(await createImageBitmap(clip.canvas));
        if (!points)
          return 'The model sees no rider on this frame. Try another one, or point the joints out.';
        const worker = spawnTracker();
        try {
          const pulled = await worker.api.pull(clip.blob!, frame, take.view, jointsOfPose(points, take.view));
          return pulled as Proposal;
        } finally {
          worker.end();
        }
      },
    );
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
          disabled={busy !== null || !clip.blob || elsewhere}
          onClick={() => void fromStickers()}
        >
          Find the stickers
        </Button>
        <Button
          size="small"
          variant="outlined"
          disabled={busy !== null || !clip.blob || elsewhere}
          onClick={() => void fromModel()}
        >
          Mark the rider
        </Button>
      </Box>
      {busy && (
        <Box role="status">
          <Typography variant="body2">{busy}</Typography>
          <LinearProgress />
        </Box>
      )}
      {said && (
        <Alert severity="info" variant="outlined">
          {said}
        </Alert>
      )}
    </Box>
  );
}

/** Joints of this view that are not proposed. */
const openOf = (take: Take, proposal: Proposal): Landmark[] =>
  GUIDES[take.view].map((g) => g.key).filter((k) => !proposal[k]);
