import Alert from '@mui/material/Alert';
import AlertTitle from '@mui/material/AlertTitle';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import LinearProgress from '@mui/material/LinearProgress';
import Typography from '@mui/material/Typography';
import { nanoid } from 'nanoid';
import { useRef, useState } from 'react';
import { openTake, type FitSession, type Take } from '../../core/records/types.ts';
import { NO_DEVICES } from '../../core/trial/devices.ts';
import { NO_WIDTH } from '../../core/frontal/scale.ts';
import { CATALOGUE } from '../demo/catalogue';
import { askToKeep } from '../storage/films';
import { isFull, saving } from '../storage/saveState';
import { saveClip } from '../storage/stores';
import type { ClipTrouble } from '../workers/clipTrouble';
import { spawnClipReader } from '../workers/spawn';
import { useEdit } from './useEdit';
import { FileField } from './FileField';

type Said = Pick<Take, 'view' | 'position' | 'effort' | 'effortW' | 'cadenceRpm'>;

/** Opens a file as a take, or says why it can't be one. Nothing is stored before it has opened. */
async function takeFrom(
  file: Blob,
  name: string,
  demo: Take['demo'],
  said: Said,
): Promise<{ take: Take } | { trouble: ClipTrouble }> {
  const reader = spawnClipReader();
  try {
    const answer = await reader.api.open(file);
    if (!answer.ok) return { trouble: answer.trouble };
    const take: Take = {
      id: nanoid(),
      // Round and set-up are told when it joins the visit.
      round: 1,
      setup: null,
      devices: NO_DEVICES,
      ...said,
      baselineOf: null,
      pairWith: null,
      note: '',
      trim: null,
      clipName: name.slice(0, 300),
      clipBytes: file.size,
      video: answer.info,
      demo,
      axles: { rear: null, front: null },
      width: NO_WIDTH,
      rims: {},
      markedFrame: 0,
      marks: {},
      corrections: [],
      hidden: [],
      tracking: { state: 'none', framesDone: 0, revision: 0 },
    };
    await saving(() => saveClip(take.id, file));
    askToKeep();
    return { take };
  } finally {
    reader.end();
  }
}

/** A new take is ridden as the one before, until it is said otherwise. */
function saidOf(session: FitSession): Said {
  const last = openTake(session);
  return {
    view: last?.view ?? 'drive',
    position: last?.position ?? null,
    effort: last?.effort ?? null,
    effortW: last?.effortW ?? null,
    cadenceRpm: last?.cadenceRpm ?? null,
  };
}

export interface Adding {
  trouble: { name: string; trouble: ClipTrouble } | null;
  opening: string | null;
  accept: (file: Blob, name: string, demo?: Take['demo']) => Promise<void>;
  acceptDemo: () => Promise<void>;
}

/** Brings films in as takes of a session. */
export function useAddTake(session: FitSession): Adding {
  const { edit } = useEdit();
  const [trouble, setTrouble] = useState<Adding['trouble']>(null);
  const [opening, setOpening] = useState<string | null>(null);
  const accept: Adding['accept'] = async (file, name, demo = null) => {
    setTrouble(null);
    setOpening(name);
    try {
      const got = await takeFrom(file, name, demo, saidOf(session));
      if ('trouble' in got) setTrouble({ name, trouble: got.trouble });
      else {
        const kept = await edit({ kind: 'take-added', take: got.take });
        if (!kept.ok)
          setTrouble({ name, trouble: { title: 'The film could not be kept.', advice: kept.message } });
      }
    } catch (error) {
      const advice = isFull(error)
        ? 'This device has no room left for it. Move other films out first: they are listed on the Backup page.'
        : error instanceof Error
          ? error.message
          : String(error);
      setTrouble({ name, trouble: { title: 'The film could not be kept.', advice } });
    } finally {
      setOpening(null);
    }
  };
  const acceptDemo = async (): Promise<void> => {
    const clip = CATALOGUE.clips[session.id];
    if (!clip) return;
    setOpening(clip.name);
    const answer = await fetch(clip.url).catch(() => null);
    if (!answer?.ok) {
      setOpening(null);
      const advice = 'See that the application is still running, then try again.';
      setTrouble({ name: clip.name, trouble: { title: 'The demo film could not be fetched.', advice } });
      return;
    }
    await accept(await answer.blob(), clip.name, { clipUrl: clip.url, tracksUrl: null });
  };
  return { trouble, opening, accept, acceptDemo };
}

/** What is being opened, or why it could not be. */
export function AddingState({ adding }: { adding: Adding }) {
  if (adding.opening) {
    return (
      <Box sx={{ my: 1.5 }} role="status">
        <Typography variant="body2">Opening {adding.opening}…</Typography>
        <LinearProgress />
      </Box>
    );
  }
  if (!adding.trouble) return null;
  return (
    <Alert severity="error" variant="outlined" sx={{ my: 1.5 }}>
      <AlertTitle>{adding.trouble.trouble.title}</AlertTitle>
      {adding.trouble.trouble.advice}
      <Typography variant="body2" color="textSecondary" sx={{ mt: 0.5, overflowWrap: 'anywhere' }}>
        {adding.trouble.name}
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
