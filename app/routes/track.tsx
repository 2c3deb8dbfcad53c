import Alert from '@mui/material/Alert';
import AlertTitle from '@mui/material/AlertTitle';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import LinearProgress from '@mui/material/LinearProgress';
import Typography from '@mui/material/Typography';
import { proxy } from 'comlink';
import { useEffect, useMemo, useRef, useState } from 'react';
import { Link } from 'react-router';
import { openTake, type FitSession, type Take } from '../../core/records/types.ts';
import { GUIDES, isFrontal, LINES, needed, plainName, type Landmark } from '../../core/stroke/landmarks.ts';
import { enoughFor, MAY_BE_MISSING } from '../../core/stroke/standIns.ts';
import { facingOf, type PlaneMap } from '../../core/stroke/plane.ts';
import { pointAt, type Tracks } from '../../core/stroke/tracks.ts';
import { FrontalOverlay } from '../components/FrontalOverlay.client';
import { BoardOverlay } from '../components/BoardOverlay.client';
import type { BoardPoints } from '../components/boardPoints';
import { HoldByModel } from '../components/HoldByModel';
import { Loupe } from '../components/Loupe';
import { NeedsFirst } from '../components/NeedsFirst';
import { ReviewPanel } from '../components/ReviewPanel';
import { RiderOverlay } from '../components/RiderOverlay.client';
import { TrackStrips } from '../components/TrackStrips';
import { Workbench } from '../components/Workbench';
import { useClip } from '../components/useClip';
import { useEdit } from '../components/useEdit';
import { scaleOf } from '../../core/records/readOptions.ts';
import { newSpot } from '../components/spot';
import { lastSeen, useReview } from '../components/useReview';
import { useStudio } from '../components/useStudio';
import { tracksOf } from '../storage/sessions';
import { saving } from '../storage/saveState';
import { saveTracks } from '../storage/stores';
import type { FrameRange, TrackProgress } from '../workers/trackClip';
import type { TrackApi } from '../workers/track.worker';
import { spawnTracker, type Spawned } from '../workers/spawn';
import { useSession } from './session';

export default function Track() {
  const { session } = useSession();
  const take = openTake(session);
  if (!take)
    return (
      <NeedsFirst
        title="No film yet"
        text="Bring in the film and point out the joints on one frame: then they are followed."
        to="../film"
        action="Go to Film"
      />
    );
  const wanted = needed(take.view);
  const open = wanted.filter((key) => !take.marks[key]);
  if (!enoughFor(take.view, (key) => Boolean(take.marks[key]))) {
    return (
      <NeedsFirst
        title={open.length === wanted.length ? 'No joints marked yet' : 'Some joints are still open'}
        text={`To be pointed out on one frame: ${open.map(plainName).join(', ')}.${isFrontal(take.view) ? '' : ` ${MAY_BE_MISSING}`}`}
        to="../mark"
        action="Go to Mark"
      />
    );
  }
  return <Tracking session={session} />;
}

interface Running {
  progress: TrackProgress | null;
  beganMs: number;
}

/** The part of the film that is followed: the trimmed one, and the marked frame with it. */
const rangeOf = (take: Take): FrameRange | null =>
  take.trim && {
    from: Math.min(take.trim.from, take.markedFrame),
    to: Math.max(take.trim.to, take.markedFrame),
  };

function Tracking({ session }: { session: FitSession }) {
  const take = openTake(session)!;
  const range = rangeOf(take);
  const frames = range ? range.to - range.from + 1 : take.video.frames;
  const clip = useClip(take, take.markedFrame);
  const { edit } = useEdit();
  const { jointConvention } = useStudio();
  const [tracks, setTracks] = useState<Tracks | null>(null);
  const [running, setRunning] = useState<Running | null>(null);
  const [trouble, setTrouble] = useState<string | null>(null);
  const [patches, setPatches] = useState<string[]>([]);
  const worker = useRef<Spawned<TrackApi> | null>(null);
  const takeRef = useRef(take);
  takeRef.current = take;

  useEffect(() => {
    let ended = false;
    // While they are made, the worker's own are newer.
    if (!worker.current) void tracksOf(takeRef.current).then((t) => !ended && setTracks(t));
    return () => {
      ended = true;
    };
  }, [take.id, take.tracking.revision]);
  useEffect(
    () => () => {
      worker.current?.end();
      worker.current = null;
    },
    [take.id],
  );

  const begin = async (): Promise<void> => {
    if (!clip.blob) return;
    setTrouble(null);
    setRunning({ progress: null, beganMs: performance.now() });
    const spawned = spawnTracker();
    worker.current = spawned;
    let keptAt = performance.now();
    // Tracks of earlier marks stay where they are, for an undo.
    const revision = Date.now();
    const onProgress = (p: TrackProgress): void => {
      setRunning((r) => r && { ...r, progress: p });
      setTracks(p.tracks);
      // What is tracked so far is kept every second or so: a closed tab loses no more than that.
      if (performance.now() - keptAt > 1200) {
        keptAt = performance.now();
        void saving(() => saveTracks(take.id, revision, p.tracks)).then(() =>
          edit({
            kind: 'tracking',
            takeId: take.id,
            tracking: { state: 'stopped', framesDone: p.framesDone, revision },
          }),
        );
      }
    };
    try {
      const marks = Object.fromEntries(
        GUIDES[take.view].flatMap(({ key }) => {
          const m = take.marks[key];
          return m ? [[key, { x: m.x, y: m.y }]] : [];
        }),
      );
      const answer = await spawned.api.track(
        clip.blob,
        take.markedFrame,
        marks,
        proxy(onProgress),
        rangeOf(take),
      );
      if (answer.ok) {
        setTracks(answer.tracks);
        setPatches(answer.patches);
        await saving(() => saveTracks(take.id, revision, answer.tracks));
        await edit({
          kind: 'tracking',
          takeId: take.id,
          tracking: {
            state: answer.stopped ? 'stopped' : 'done',
            framesDone: answer.framesDone,
            revision,
          },
        });
      } else {
        setTrouble(`${answer.trouble.title} ${answer.trouble.advice}`);
      }
    } catch (error) {
      setTrouble(error instanceof Error ? error.message : String(error));
    } finally {
      spawned.end();
      worker.current = null;
      setRunning(null);
    }
  };

  const review = useReview(take, running ? null : tracks, clip, edit);
  const [spot] = useState(newSpot);
  const pointsHere = useMemo(() => {
    const here: BoardPoints = {};
    if (!tracks) return here;
    for (const key of Object.keys(tracks.landmarks)) {
      const p = pointAt(tracks, key, clip.shown);
      const at = key === review.selected && review.draft ? review.draft : p;
      if (Number.isFinite(at.x)) here[key] = { x: at.x, y: at.y, onSticker: false };
    }
    return here;
  }, [tracks, clip.shown, review.selected, review.draft]);
  const scale = scaleOf(session);
  const map: PlaneMap = scale?.ok
    ? scale
    : { mmPerPx: 1, levelDeg: 0, facing: tracks ? facingOf(tracks) : 'right' };
  const { state } = take.tracking;
  const unmarked = needed(take.view).filter((key) => !take.marks[key]);
  return (
    <Workbench
      clip={clip}
      label="The film with the joints followed"
      sideWidth={420}
      overlay={(size) =>
        tracks &&
        (review.selected && !running ? (
          <BoardOverlay
            size={size}
            items={GUIDES[take.view]}
            points={pointsHere}
            lines={LINES[take.view]}
            selected={review.selected}
            faded={false}
            onHover={() => undefined}
            onPlace={(at) => review.setDraft(at)}
            onSelect={(key) => review.select(key as Landmark)}
            onDrag={spot.set}
            onDrop={(_, at) => {
              spot.set(null);
              review.setDraft(at);
            }}
          />
        ) : isFrontal(take.view) ? (
          <FrontalOverlay size={size} tracks={tracks} frame={clip.shown} />
        ) : (
          <RiderOverlay
            size={size}
            tracks={tracks}
            frame={clip.shown}
            map={map}
            convention={jointConvention}
          />
        ))
      }
    >
      {running ? (
        <Progress running={running} frames={frames} onStop={() => void worker.current?.api.stop()} />
      ) : (
        <>
          <Typography variant="h2">
            {state === 'none'
              ? 'Follow the joints'
              : state === 'done'
                ? 'Followed through the whole film'
                : 'Followed in part'}
          </Typography>
          {state === 'none' && (
            <Typography>
              From frame {take.markedFrame} to both ends of the film, {frames} frames.
            </Typography>
          )}
          {unmarked.length > 0 && (
            <Alert severity="info" variant="outlined">
              Not marked: {unmarked.map(plainName).join(', ')}. What hangs on{' '}
              {unmarked.length > 1 ? 'them' : 'it'} is left out of the reading; the rest stands.
            </Alert>
          )}
          {state === 'stopped' && (
            <Alert severity="info" variant="outlined">
              {take.tracking.framesDone} of {frames} frames are followed and kept. Tracking again starts from
              the marks.
            </Alert>
          )}
          <Button
            variant={state === 'done' ? 'outlined' : 'contained'}
            disabled={!clip.blob}
            onClick={() => void begin()}
          >
            {state === 'none' ? 'Track' : 'Track again'}
          </Button>
        </>
      )}
      {trouble && (
        <Alert severity="error" variant="outlined">
          <AlertTitle>Tracking could not go on</AlertTitle>
          {trouble}
        </Alert>
      )}
      {patches.length > 0 && (
        <Alert severity="warning" variant="outlined">
          No sticker found on {patches.map(plainName).join(', ')}: followed by the look of the spot, which may
          drift. Look at the far end of the film.
        </Alert>
      )}
      {tracks && !running && state !== 'none' && (
        <HoldByModel take={take} tracks={tracks} blob={clip.blob} edit={edit} />
      )}
      {tracks && !running && <ReviewPanel review={review} take={take} frame={clip.shown} />}
      {tracks && review.selected && !running && (
        <Loupe
          source={clip.canvas}
          at={pointsHere[review.selected] ?? lastSeen(tracks, review.selected, clip.shown)}
          pointer={spot}
          frame={clip.shown}
        />
      )}
      {tracks && (
        <TrackStrips
          tracks={tracks}
          frame={clip.shown}
          hidden={take.hidden}
          doubts={review.doubts}
          selected={review.selected}
          onGo={clip.goTo}
          onSelect={(key) => review.select(key === review.selected ? null : key)}
        />
      )}
      {state !== 'none' && !running && (
        <Button variant="contained" component={Link} to="../read" relative="path">
          On to the reading
        </Button>
      )}
    </Workbench>
  );
}

function Progress({ running, frames, onStop }: { running: Running; frames: number; onStop: () => void }) {
  const done = running.progress?.framesDone ?? 0;
  const elapsedS = (performance.now() - running.beganMs) / 1000;
  const leftS = done > 0 ? (elapsedS / done) * (frames - done) : null;
  return (
    <Box role="status" aria-live="polite">
      <Typography variant="h2" gutterBottom>
        Following the joints
      </Typography>
      <LinearProgress
        variant="determinate"
        value={(100 * done) / frames}
        aria-label="Frames done"
        sx={{ height: 10 }}
      />
      <Typography sx={{ my: 1 }}>
        {done} of {frames} frames{leftS !== null && ` · about ${Math.max(1, Math.ceil(leftS))} s left`}
      </Typography>
      <Button variant="outlined" onClick={onStop}>
        Stop, and keep what is done
      </Button>
    </Box>
  );
}
