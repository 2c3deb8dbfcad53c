import Alert from '@mui/material/Alert';
import AlertTitle from '@mui/material/AlertTitle';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import LinearProgress from '@mui/material/LinearProgress';
import Typography from '@mui/material/Typography';
import { nanoid } from 'nanoid';
import { useRef, useState } from 'react';
import { Link } from 'react-router';
import { filmingHeldBack } from '../../core/intake/intake.ts';
import type { FitSession, Take } from '../../core/records/types.ts';
import { NeedsFirst } from '../components/NeedsFirst';
import { Workbench } from '../components/Workbench';
import { useClip } from '../components/useClip';
import { useEdit } from '../components/useEdit';
import { CATALOGUE } from '../demo/catalogue';
import { askToKeep } from '../storage/films';
import { isFull, saving } from '../storage/saveState';
import { saveClip } from '../storage/stores';
import type { ClipTrouble } from '../workers/openClip';
import { spawnClipReader } from '../workers/spawn';
import { useSession } from './session';

/** Opens a file as this session's film, or says why it can't be one. Nothing is stored before it has opened. */
async function takeFrom(
  file: Blob,
  name: string,
  demo: Take['demo'],
): Promise<{ take: Take } | { trouble: ClipTrouble }> {
  const reader = spawnClipReader();
  try {
    const answer = await reader.api.open(file);
    if (!answer.ok) return { trouble: answer.trouble };
    const take: Take = {
      id: nanoid(),
      clipName: name.slice(0, 300),
      clipBytes: file.size,
      video: answer.info,
      demo,
      axles: { rear: null, front: null },
      rims: {},
      markedFrame: 0,
      marks: {},
      tracking: { state: 'none', framesDone: 0, revision: 0 },
    };
    await saving(() => saveClip(take.id, file));
    askToKeep();
    return { take };
  } finally {
    reader.end();
  }
}

export default function Film() {
  const { session } = useSession();
  const held = filmingHeldBack(session.intake);
  const [returned, setReturned] = useState(0);
  if (session.take)
    return (
      <Filmed
        key={`${session.take.id}/${returned}`}
        session={session}
        onReturned={() => setReturned(returned + 1)}
      />
    );
  return held ? (
    <NeedsFirst title="Consent first" text={held} to="../intake" action="Go to Intake" />
  ) : (
    <Empty session={session} />
  );
}

function useIntake(session: FitSession) {
  const { edit } = useEdit();
  const [trouble, setTrouble] = useState<{ name: string; trouble: ClipTrouble } | null>(null);
  const [opening, setOpening] = useState<string | null>(null);
  const accept = async (file: Blob, name: string, demo: Take['demo'] = null): Promise<void> => {
    setTrouble(null);
    setOpening(name);
    try {
      const got = await takeFrom(file, name, demo);
      if ('trouble' in got) setTrouble({ name, trouble: got.trouble });
      else await edit({ kind: 'take', take: got.take });
    } catch (error) {
      setTrouble({
        name,
        trouble: {
          title: 'The film could not be kept.',
          advice: isFull(error)
            ? 'This device has no room left for it. Move other films out first: they are listed on the Backup page.'
            : error instanceof Error
              ? error.message
              : String(error),
        },
      });
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
      setTrouble({
        name: clip.name,
        trouble: {
          title: 'The demo film could not be fetched.',
          advice: 'See that the application is still running, then try again.',
        },
      });
      return;
    }
    await accept(await answer.blob(), clip.name, { clipUrl: clip.url, tracksUrl: null });
  };
  return { trouble, opening, accept, acceptDemo };
}

type Intake = ReturnType<typeof useIntake>;

function Trouble({ intake }: { intake: Intake }) {
  if (intake.opening) {
    return (
      <Box sx={{ my: 1.5 }} role="status">
        <Typography variant="body2">Opening {intake.opening}…</Typography>
        <LinearProgress />
      </Box>
    );
  }
  if (!intake.trouble) return null;
  return (
    <Alert severity="error" variant="outlined" sx={{ my: 1.5 }}>
      <AlertTitle>{intake.trouble.trouble.title}</AlertTitle>
      {intake.trouble.trouble.advice}
      <Typography variant="body2" color="textSecondary" sx={{ mt: 0.5, overflowWrap: 'anywhere' }}>
        {intake.trouble.name}
      </Typography>
    </Alert>
  );
}

/** A place to drop a film on, which is a button too. */
function useDrop(accept: (file: Blob, name: string) => Promise<void>) {
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

function ChooseFile({
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
      <input
        ref={input}
        type="file"
        hidden
        data-testid={testId}
        accept="video/*,.mp4,.mov,.webm,.mkv"
        onChange={(e) => {
          const file = e.target.files?.[0];
          e.target.value = '';
          if (file) void accept(file, file.name);
        }}
      />
    </>
  );
}

function Empty({ session }: { session: FitSession }) {
  const intake = useIntake(session);
  const { over, handlers } = useDrop(intake.accept);
  const demo = CATALOGUE.clips[session.id];
  return (
    <Box {...handlers} sx={{ flex: 1, display: 'grid', placeItems: 'center', p: 3 }}>
      <Box
        sx={{
          width: 'min(680px, 100%)',
          border: over ? 2 : 1,
          borderStyle: 'dashed',
          borderColor: over ? 'primary.main' : 'text.secondary',
          p: 4,
        }}
      >
        <Typography variant="h1" component="h2" gutterBottom>
          Bring in the film
        </Typography>
        <Typography sx={{ mb: 2 }}>
          A side view of at least five turns of the crank: the bike level, the camera square to it and three
          metres or more away, a sticker on each joint. Drop the file here, or choose it.
        </Typography>
        <Box sx={{ display: 'flex', gap: 1.5, flexWrap: 'wrap' }}>
          <ChooseFile accept={intake.accept} label="Choose a film…" variant="contained" />
          {demo && (
            <Button variant="outlined" onClick={() => void intake.acceptDemo()}>
              Use the demo film
            </Button>
          )}
        </Box>
        {demo && (
          <Typography variant="body2" color="textSecondary" sx={{ mt: 1 }}>
            Demo film: {demo.caption}.
          </Typography>
        )}
        <Trouble intake={intake} />
        <Typography variant="body2" color="textSecondary" sx={{ mt: 3 }}>
          MP4 with H.264 or WebM with VP9, 60 frames a second or more, shutter 1/500 s. The film stays on this
          device.
        </Typography>
      </Box>
    </Box>
  );
}

function Filmed({ session, onReturned }: { session: FitSession; onReturned: () => void }) {
  const take = session.take!;
  const clip = useClip(take, take.markedFrame);
  const intake = useIntake(session);
  const { over, handlers } = useDrop((file, name) => {
    setOffered({ file, name });
    return Promise.resolve();
  });
  const [offered, setOffered] = useState<{ file: Blob; name: string } | null>(null);
  const { video } = take;
  const rows: [string, string][] = [
    ['File', take.clipName],
    ['Size', `${video.widthPx} × ${video.heightPx} px, ${(take.clipBytes / 1e6).toFixed(1)} MB`],
    ['Coded in', video.codec.toUpperCase().replace('AVC', 'H.264')],
    ['Length', `${video.durationS.toFixed(2)} s, ${video.frames} frames`],
    [
      'Rate',
      `${video.framesPerS.toFixed(1)} frames/s${video.evenlyTimed ? '' : ', uneven: each frame’s own time is used'}`,
    ],
    ['Crank step', `${((6 * 90) / Math.max(1, video.framesPerS)).toFixed(1)}° a frame at 90 rpm`],
    ...(video.rotationDeg
      ? ([['Turned', `${video.rotationDeg}° clockwise, as the file says`]] as [string, string][])
      : []),
  ];
  return (
    <Workbench clip={clip} label="The film" over={over} handlers={handlers}>
      <Typography variant="h2" gutterBottom>
        The film
      </Typography>
      <Box
        component="dl"
        sx={{ m: 0, mb: 2, display: 'grid', gridTemplateColumns: 'auto 1fr', columnGap: 2, rowGap: 0.75 }}
      >
        {rows.map(([name, value]) => (
          <Box key={name} sx={{ display: 'contents' }}>
            <Typography component="dt" color="textSecondary">
              {name}
            </Typography>
            <Typography component="dd" sx={{ m: 0, overflowWrap: 'anywhere' }}>
              {value}
            </Typography>
          </Box>
        ))}
      </Box>
      {video.framesPerS < 50 && (
        <Alert severity="warning" variant="outlined" sx={{ mb: 2 }}>
          Under 50 frames/s the crank turns {((6 * 90) / video.framesPerS).toFixed(0)}° between frames:
          figures are less sharp. Film at 60 or more where the camera can.
        </Alert>
      )}
      <Trouble intake={intake} />
      {clip.state.status === 'trouble' && <Return take={take} onReturned={onReturned} />}
      <Button variant="contained" fullWidth component={Link} to="../scale" relative="path" sx={{ mb: 1 }}>
        On to the scale
      </Button>
      <ChooseFile
        accept={(file, name) => {
          setOffered({ file, name });
          return Promise.resolve();
        }}
        label="Another film instead…"
        variant="outlined"
      />
      <Typography variant="body2" color="textSecondary" sx={{ mt: 2 }}>
        Keys: , and . step a frame, &lt; and &gt; ten, Home and End, Space plays, [ and ] change the speed.
      </Typography>
      <Dialog open={offered !== null} onClose={() => setOffered(null)}>
        <DialogTitle>Replace this session’s film?</DialogTitle>
        <DialogContent>
          “{offered?.name}” takes the place of “{take.clipName}”. Scale, marks and tracks go with the old
          film; Undo brings all of it back as long as this page stays open.
        </DialogContent>
        <DialogActions>
          <Button onClick={() => setOffered(null)}>Keep the film</Button>
          <Button
            color="error"
            onClick={() => {
              const next = offered!;
              setOffered(null);
              void intake.accept(next.file, next.name);
            }}
          >
            Replace it
          </Button>
        </DialogActions>
      </Dialog>
    </Workbench>
  );
}

/** A film that was moved out comes back from the same file; marks and tracks were here all the time. */
function Return({ take, onReturned }: { take: Take; onReturned: () => void }) {
  const [trouble, setTrouble] = useState<string | null>(null);
  const accept = async (file: Blob, name: string): Promise<void> => {
    if (file.size !== take.clipBytes) {
      setTrouble(
        `“${name}” has ${file.size} bytes, the film of this take had ${take.clipBytes}: it is another film.`,
      );
      return;
    }
    await saving(() => saveClip(take.id, file)).then(onReturned, (error: unknown) =>
      setTrouble(error instanceof Error ? error.message : String(error)),
    );
  };
  return (
    <Box sx={{ mb: 2 }}>
      <ChooseFile
        accept={accept}
        label={`Bring back “${take.clipName}”…`}
        variant="outlined"
        testId="film-back"
      />
      {trouble && (
        <Alert severity="error" variant="outlined" sx={{ mt: 1 }}>
          {trouble}
        </Alert>
      )}
    </Box>
  );
}
