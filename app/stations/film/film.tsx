import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useEffect, useEffectEvent, useState } from 'react';
import { Link } from 'react-router';
import { useStore } from 'zustand';
import { filmingHeldBack } from '../../../core/intake/intake.ts';
import { isFrontal } from '../../../core/landmarks/landmarks.ts';
import { openTake, type FitSession, type Take } from '../../../core/records/types.ts';
import { AddingState, ChooseFile, useAddTake, useDrop } from './AddTake';
import { CameraStood } from './CameraStood';
import { FilmCheck } from './FilmCheck';
import { FilmWhole } from './FilmWhole';
import { asksFor, MeasurePanel } from './MeasurePanel';
import { SurveyOverlay } from './SurveyOverlay';
import { ConsentFirst } from '../../ui/ConsentFirst';
import { OnceMore } from '../../ui/OnceMore';
import { RecordHere } from './RecordHere';
import { SetUpGuide } from './SetUpGuide';
import { TakeDetails } from './TakeDetails';
import { TakeList } from './TakeList';
import { Trim } from './Trim';
import { useClip } from '../../ui/film/useClip';
import { useSnap } from '../../ui/film/useSnap';
import { surveyFilm } from '../../jobs/survey';
import { surveyStore } from '../../jobs/surveys';
import { useEdit } from '../../session/useEdit';
import { useSet } from '../../session/useSet';
import { Workbench } from '../../ui/film/Workbench';
import { CATALOGUE } from '../../demo/catalogue';
import { saving, whyNot } from '../../storage/saveState';
import { saveClip } from '../../storage/stores';
import { useSession } from '../session';
import { FieldPlace } from '../../session/useTyped';

export default function Film() {
  const { session, rider } = useSession();
  const { set } = useSet();
  const held = filmingHeldBack(session.intake);
  // A film that was moved out and has come back is opened anew.
  const [returned, setReturned] = useState(0);
  const take = openTake(session);
  if (take)
    return (
      <Filmed
        key={`${take.id}/${returned}`}
        session={session}
        take={take}
        onReturned={() => setReturned(returned + 1)}
      />
    );
  return held ? (
    <ConsentFirst
      session={session}
      name={rider?.name ?? ''}
      held={held}
      onChange={(c) => set('intake.filmConsent', c)}
    />
  ) : (
    <Empty session={session} />
  );
}

function Empty({ session }: { session: FitSession }) {
  const adding = useAddTake(session);
  const { over, handlers } = useDrop(adding.accept);
  const demo = CATALOGUE.clips[session.id];
  return (
    <Box {...handlers} sx={{ flex: 1, minHeight: 0, overflowY: 'auto', p: { xs: 2, md: 3 } }}>
      <Box
        sx={{
          maxWidth: 1120,
          mx: 'auto',
          border: over ? 2 : 1,
          borderStyle: 'dashed',
          borderColor: over ? 'primary.main' : 'text.secondary',
          p: 3,
        }}
      >
        <Typography variant="h1" component="h2" gutterBottom>
          Add a film
        </Typography>
        <Typography sx={{ mb: 2 }}>
          A side view of at least five turns of the crank. Drop the file here, choose it, or record it with
          this device’s camera.
        </Typography>
        <Box sx={{ display: 'flex', gap: 1.5, flexWrap: 'wrap' }}>
          <ChooseFile accept={adding.accept} label="Choose a film…" variant="contained" />
          <RecordHere onRecorded={adding.accept} />
          <ReadLive />
          {demo && (
            <Button variant="outlined" onClick={() => void adding.acceptDemo()}>
              Use the demo film
            </Button>
          )}
        </Box>
        {demo && (
          <Typography variant="body2" color="textSecondary" sx={{ mt: 1 }}>
            Demo film: {demo.caption}.
          </Typography>
        )}
        <AddingState adding={adding} />
        <Typography variant="body2" color="textSecondary" sx={{ mt: 2 }}>
          MP4 with H.264 or WebM with VP9, 60 frames a second or more, shutter 1/500 s. The film stays on this
          device.
        </Typography>
        <SetUpGuide />
      </Box>
    </Box>
  );
}

/** Without a film: the camera stays on, and every turn is read as it ends. */
const ReadLive = () => (
  <Button variant="outlined" component={Link} to="../trial?view=live" relative="path">
    Read live…
  </Button>
);

interface FilmedProps {
  session: FitSession;
  take: Take;
  onReturned: () => void;
}

function Filmed({ session, take, onReturned }: FilmedProps) {
  const clip = useClip(take, take.markedFrame);
  const adding = useAddTake(session);
  const { over, handlers } = useDrop(adding.accept);
  const { edit } = useEdit();
  const { set, refused } = useSet();
  const held = filmingHeldBack(session.intake);
  const survey = useStore(surveyStore, ({ takes }) => takes[take.id]);
  const snap = useSnap(clip.blob);
  const unmarked = Object.keys(take.marks).length === 0;
  // A film that nobody has pointed anything out on is looked at by itself.
  const look = useEffectEvent((blob: Blob): void => {
    if (unmarked && !isFrontal(take.view)) void surveyFilm(session, take, blob);
  });
  useEffect(() => {
    if (clip.blob) look(clip.blob);
  }, [clip.blob]);
  const frame = unmarked ? (survey?.frame ?? null) : null;
  const goThere = useEffectEvent((to: number): void => clip.goTo(to));
  useEffect(() => {
    if (frame !== null) goThere(frame);
  }, [frame]);
  const proposed = survey && frame !== null;
  return (
    <Workbench
      clip={clip}
      label="The film"
      sideWidth={400}
      over={over}
      handlers={handlers}
      overlay={(size) =>
        proposed && clip.shown === frame ? (
          <SurveyOverlay
            size={size}
            take={take}
            survey={survey}
            pending={asksFor(take, survey)?.landmark ?? null}
            snap={snap}
          />
        ) : null
      }
    >
      <TakeList session={session} edit={edit} />
      <AddingState adding={adding} />
      <MeasurePanel session={session} take={take} blob={clip.blob} />
      {proposed && clip.shown !== frame && (
        <Button variant="outlined" size="small" onClick={() => clip.goTo(frame)}>
          To the frame that the points stand on
        </Button>
      )}
      <FilmWhole take={take} blob={clip.blob} onChange={(trim) => set(`takes.#${take.id}.trim`, trim)} />
      {held ? (
        <Alert severity="warning" variant="outlined">
          {held} No more films can be added.
        </Alert>
      ) : (
        <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap' }}>
          <ChooseFile accept={adding.accept} label="Add a film…" variant="outlined" />
          <RecordHere onRecorded={adding.accept} />
          <ReadLive />
        </Box>
      )}
      {clip.state.status === 'trouble' && <Return take={take} onReturned={onReturned} />}
      {refused && <Alert severity="error">{refused}</Alert>}
      <FieldPlace value={take.id}>
        <TakeDetails key={take.id} session={session} take={take} set={set} />
      </FieldPlace>
      <OnceMore session={session} take={take} />
      <Trim take={take} frame={clip.shown} onChange={(trim) => set(`takes.#${take.id}.trim`, trim)} />
      <CameraStood session={session} take={take} blob={clip.blob} />
      <FilmCheck session={session} take={take} blob={clip.blob} />
      <Facts take={take} />
    </Workbench>
  );
}

/** What the file is. */
function Facts({ take }: { take: Take }) {
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
  ];
  if (video.rotationDeg) rows.push(['Turned', `${video.rotationDeg}° clockwise, as the file says`]);
  return (
    <Box
      component="dl"
      sx={{ m: 0, display: 'grid', gridTemplateColumns: 'auto 1fr', columnGap: 2, rowGap: 0.5 }}
    >
      {rows.map(([name, value]) => (
        <Box key={name} sx={{ display: 'contents' }}>
          <Typography component="dt" variant="body2" color="textSecondary">
            {name}
          </Typography>
          <Typography component="dd" variant="body2" sx={{ m: 0, overflowWrap: 'anywhere' }}>
            {value}
          </Typography>
        </Box>
      ))}
    </Box>
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
      setTrouble(whyNot(error)),
    );
  };
  return (
    <Box>
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
