import Alert from '@mui/material/Alert';
import AlertTitle from '@mui/material/AlertTitle';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import LinearProgress from '@mui/material/LinearProgress';
import Typography from '@mui/material/Typography';
import { useRef, useState } from 'react';
import { useStore } from 'zustand';
import type { FitSession } from '../../../core/records/types.ts';
import { CATALOGUE } from '../../demo/catalogue';
import { addFilm, addingJob, filmStore, stopAdding } from '../../jobs/films';
import { jobStore } from '../../jobs/jobs';
import { FileField } from '../../ui/fields/FileField';

export interface Adding {
  visitId: string;
  accept: (file: Blob, name: string) => Promise<void>;
  acceptDemo: () => Promise<void>;
}

async function fetched(url: string): Promise<Blob> {
  const answer = await fetch(url).catch(() => null);
  if (!answer?.ok)
    throw new Error(
      'The demo film could not be fetched. See that the application is still running, then try again.',
    );
  return answer.blob();
}

/** Brings films in as takes of a session. */
export function useAddTake(session: FitSession): Adding {
  return {
    visitId: session.id,
    accept: async (file, name) => void (await addFilm(session, file, name)),
    acceptDemo: async () => {
      const clip = CATALOGUE.clips[session.id];
      if (clip)
        await addFilm(session, () => fetched(clip.url), clip.name, {
          demo: { clipUrl: clip.url, tracksUrl: null },
        });
    },
  };
}

/** What is being opened, with a way to stop it, or why it could not be. */
export function AddingState({ adding: { visitId } }: { adding: Adding }) {
  const opening = useStore(jobStore, ({ jobs }) => jobs[addingJob(visitId)]);
  const trouble = useStore(filmStore, ({ troubles }) => troubles[visitId]);
  if (opening) {
    return (
      <Box sx={{ my: 1.5, display: 'flex', alignItems: 'center', gap: 1 }} role="status">
        <Box sx={{ flex: 1 }}>
          <Typography variant="body2" sx={{ overflowWrap: 'anywhere' }}>
            {opening.label}…
          </Typography>
          <LinearProgress aria-label="Opening the film" />
        </Box>
        <Button size="small" onClick={() => stopAdding(visitId)}>
          Cancel
        </Button>
      </Box>
    );
  }
  if (!trouble) return null;
  return (
    <Alert severity="error" variant="outlined" sx={{ my: 1.5 }}>
      <AlertTitle>{trouble.trouble.title}</AlertTitle>
      {trouble.trouble.advice}
      <Typography variant="body2" color="textSecondary" sx={{ mt: 0.5, overflowWrap: 'anywhere' }}>
        {trouble.name}
      </Typography>
    </Alert>
  );
}

/** A place to drop a film on. */
export function useDrop(accept: (file: Blob, name: string) => Promise<void>) {
  const [over, setOver] = useState(false);
  return {
    over,
    handlers: {
      onDragOver: (e: React.DragEvent) => {
        e.preventDefault();
        setOver(true);
      },
      onDragLeave: () => setOver(false),
      onDrop: (e: React.DragEvent) => {
        e.preventDefault();
        setOver(false);
        const file = e.dataTransfer.files[0];
        if (file) void accept(file, file.name);
      },
    },
  };
}

export function ChooseFile({
  accept,
  label,
  variant,
  testId = 'film-file',
}: {
  accept: (file: Blob, name: string) => Promise<void>;
  label: string;
  variant: 'contained' | 'outlined';
  testId?: string;
}) {
  const input = useRef<HTMLInputElement | null>(null);
  return (
    <>
      <Button variant={variant} onClick={() => input.current?.click()}>
        {label}
      </Button>
      <FileField
        ref={input}
        testId={testId}
        accept="video/*,.mp4,.mov,.webm,.mkv"
        onFile={(file) => void accept(file, file.name)}
      />
    </>
  );
}
