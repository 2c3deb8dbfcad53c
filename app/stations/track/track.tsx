import Alert from '@mui/material/Alert';
import AlertTitle from '@mui/material/AlertTitle';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import LinearProgress from '@mui/material/LinearProgress';
import Typography from '@mui/material/Typography';
import { useEffect, useMemo, useRef, useState } from 'react';
import { useStore } from 'zustand';
import { openTake, type FitSession, type Take } from '../../../core/records/types.ts';
import {
  GUIDES,
  isFrontal,
  LINES,
  needed,
  plainName,
  type Landmark,
} from '../../../core/landmarks/landmarks.ts';
import { enoughFor, MAY_BE_MISSING } from '../../../core/kinematics/standIns.ts';
import { facingOf, type PlaneMap } from '../../../core/camera/plane.ts';
import { pointAt, type Tracks } from '../../../core/tracking/tracks.ts';
import { FrontalOverlay } from '../../ui/film/FrontalOverlay.client';
import { BoardOverlay } from '../../ui/film/BoardOverlay.client';
import type { BoardPoints } from '../../ui/film/boardPoints';
import { HoldByModel } from './HoldByModel';
import { Loupe } from '../../ui/film/Loupe';
import { NeedsFirst } from '../../ui/NeedsFirst';
import { ReviewPanel } from './ReviewPanel';
import { RiderOverlay } from '../../ui/film/RiderOverlay.client';
import { TrackStrips } from './TrackStrips';
import { Workbench } from '../../ui/film/Workbench';
import { useClip } from '../../ui/film/useClip';
import { scaleOf } from '../../../core/visit/readOptions.ts';
import { newHover } from '../../ui/film/hover';
import { lastSeen } from './reviewSteps';
import { useReview } from './useReview';
import { useStudio } from '../../session/useStudio';
import { tracksOf } from '../../storage/sessions';
import { jobStore, type Job } from '../../jobs/jobs';
import { rangeOf, stopTracking, trackingJob, trackingStore, trackTake } from '../../jobs/tracking';
import { useSession } from '../session';

export default function Track() {
  const { session } = useSession();
  const take = openTake(session);
  if (!take)
    return (
      <NeedsFirst
        title="No film yet"
        text="Add a film and mark the joints on one frame; then they are tracked."
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
        text={`Still to mark on one frame: ${open.map(plainName).join(', ')}.${isFrontal(take.view) ? '' : ` ${MAY_BE_MISSING}`}`}
        to="../mark"
        action="Go to Mark"
      />
    );
  }
  return <Tracking session={session} />;
}

/** The tracks of a take: the newest that a job is making or has made, or those that are stored. */
function useTracks(take: Take, running: boolean) {
  const now = useStore(trackingStore, ({ takes }) => takes[take.id] ?? null);
  const [stored, setStored] = useState<{ key: string; tracks: Tracks | null } | null>(null);
  const key = `${take.id}@${take.tracking.revision}`;
  const takeRef = useRef(take);
  useEffect(() => {
    takeRef.current = take;
  });
  // While they are made, and just after, the job's own are the newest.
  const made =
    now?.made && (running || now.made.revision === take.tracking.revision) ? now.made.tracks : null;
  const isMade = made !== null;
  useEffect(() => {
    if (isMade) return undefined;
    let ended = false;
    void tracksOf(takeRef.current).then((tracks) => !ended && setStored({ key, tracks }));
    return () => {
      ended = true;
    };
  }, [key, isMade]);
  const tracks = made ?? (stored?.key === key ? stored.tracks : null);
  /** Looked for, and not there. */
  const gone = tracks === null && stored?.key === key;
  return { tracks, gone, now };
}

function Tracking({ session }: { session: FitSession }) {
  const take = openTake(session)!;
  const range = rangeOf(take);
  const frames = range ? range.to - range.from + 1 : take.video.frames;
  const clip = useClip(take, take.markedFrame);
  const { jointConvention } = useStudio();
  const running = useStore(jobStore, ({ jobs }) => jobs[trackingJob(take.id)] ?? null);
  const { tracks, gone, now } = useTracks(take, running !== null);
  const { trouble = null, patches = [] } = now ?? {};
  const begin = (): void => void (clip.blob && trackTake(session, take, clip.blob));

  const review = useReview(session, take, running ? null : tracks, clip);
  const [spot] = useState(newHover);
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
            onDrag={(at) => spot.setState({ at })}
            onDrop={(_, at) => {
              spot.setState({ at: null });
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
        <Progress running={running} frames={frames} onStop={() => stopTracking(take.id)} />
      ) : (
        <>
          <Typography variant="h2">
            {state === 'none'
              ? 'Track the joints'
              : state === 'done'
                ? 'Tracked through the whole film'
                : 'Tracked in part'}
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
          <Button variant={state === 'done' ? 'outlined' : 'contained'} disabled={!clip.blob} onClick={begin}>
            {state === 'none' ? 'Track' : 'Track again'}
          </Button>
        </>
      )}
      {gone && !running && state !== 'none' && (
        <Alert severity="warning" variant="outlined">
          The tracks of this take are not on this device, or are damaged. Track it again from its marks.
        </Alert>
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
        <HoldByModel session={session} take={take} tracks={tracks} blob={clip.blob} />
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
    </Workbench>
  );
}

function Progress({ running, frames, onStop }: { running: Job; frames: number; onStop: () => void }) {
  const { done } = running;
  const elapsedS = (running.reportedMs - running.beganMs) / 1000;
  const leftS = done > 0 ? (elapsedS / done) * (frames - done) : null;
  return (
    <Box role="status" aria-live="polite">
      <Typography variant="h2" gutterBottom>
        Tracking the joints
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
        Stop and keep what is done
      </Button>
    </Box>
  );
}
