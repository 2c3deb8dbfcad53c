import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Link from '@mui/material/Link';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useEffect, useEffectEvent, useState } from 'react';
import { Link as RouterLink, useNavigate } from 'react-router';
import { useStore } from 'zustand';
import { enoughFor } from '../../../core/kinematics/standIns.ts';
import { GUIDES, isFrontal, needed, plainName, type Landmark } from '../../../core/landmarks/landmarks.ts';
import { BIKE_BOUNDS } from '../../../core/records/stationSchemas.ts';
import type { FitSession, Take } from '../../../core/records/types.ts';
import { questionsOf, tyreDiameterMm, wheelbaseFromTyre } from '../../../core/survey/proposal.ts';
import type { FilmVerdict, FilmWorth } from '../../../core/survey/verdict.ts';
import { isRunning, jobStore } from '../../jobs/jobs';
import { measureTake } from '../../jobs/survey';
import { settlePoint, surveyJob, surveyStore, type TakeSurvey } from '../../jobs/surveys';
import { trackingJob, trackingStore } from '../../jobs/tracking';
import { useSet } from '../../session/useSet';
import { JobProgress } from '../../ui/JobProgress';
import { FirstLook } from './FirstLook';
import { NumberField } from '../../ui/fields/NumberField';
import { isTyping } from '../../ui/typing';

/** The landmark that is asked for next; none when all are sure. */
export const asksFor = (
  take: Take,
  survey: TakeSurvey | undefined,
): ReturnType<typeof questionsOf>[number] | null => {
  if (!survey || survey.frame === null || Object.keys(take.marks).length > 0) return null;
  return questionsOf(needed(take.view), survey.points)[0] ?? null;
};

/** Film to figures: what was seen on the film by itself, what is still to be asked, and the one button that measures. */
export function MeasurePanel({
  session,
  take,
  blob,
}: {
  session: FitSession;
  take: Take;
  blob: Blob | null;
}) {
  const survey = useStore(surveyStore, ({ takes }) => takes[take.id]);
  const looking = useStore(jobStore, ({ jobs }) => jobs[surveyJob(take.id)] ?? null);
  const tracking = useStore(jobStore, ({ jobs }) => jobs[trackingJob(take.id)] ?? null);
  const trouble = useStore(trackingStore, ({ takes }) => takes[take.id]?.trouble ?? null);
  const navigate = useNavigate();
  const question = asksFor(take, survey);
  const marked = enoughFor(take.view, (k) => Boolean(take.marks[k]));
  const unmarked = survey !== undefined && Object.keys(take.marks).length === 0;
  const proposed = unmarked && survey.frame !== null;
  const unnamed = unmarked && survey.frame === null;
  const byHand = take.axles.rear !== null && take.axles.front !== null;
  const wheels = byHand || (unmarked && survey.wheels !== null);
  const { wheelbaseMm } = session.asFound.frame;
  const ready =
    blob !== null &&
    question === null &&
    (proposed || marked) &&
    (wheels || isFrontal(take.view)) &&
    wheelbaseMm !== null;
  const measured = take.tracking.state === 'done';
  const measure = async (): Promise<void> => {
    if (blob && (await measureTake(session, take, blob))) void navigate(`/sessions/${session.id}/read`);
  };
  const confirm = (): void => {
    const point = question && survey?.points[question.landmark];
    if (question?.kind === 'unsure' && point) settlePoint(take.id, question.landmark, point);
  };
  const onKey = useEffectEvent((e: KeyboardEvent): void => {
    if (e.ctrlKey || e.metaKey || e.altKey || isTyping(e)) return;
    if (e.key === 'y') confirm();
    else if (e.key === 'm' && ready && !measured && !isRunning(trackingJob(take.id))) void measure();
    else return;
    e.preventDefault();
  });
  useEffect(() => {
    const listen = (e: KeyboardEvent): void => onKey(e);
    window.addEventListener('keydown', listen);
    return () => window.removeEventListener('keydown', listen);
  }, []);
  if (looking) return <JobProgress job={looking} unit="frames" />;
  if (tracking) return <JobProgress job={tracking} unit="frames" />;
  if (isFrontal(take.view) || (!survey && !marked)) return null;
  return (
    <Box
      component="section"
      aria-label="Measure"
      sx={{ borderLeft: 3, borderColor: 'primary.main', pl: 1.5, display: 'grid', gap: 1.25 }}
    >
      {survey && <Verdict verdict={survey.verdict} />}
      {proposed && <Seen take={take} survey={survey} />}
      {unmarked && !wheels && (
        <Typography variant="body2">
          The wheels were not found: point the axles out on{' '}
          <Link component={RouterLink} to="../scale" relative="path">
            Scale
          </Link>
          .
        </Typography>
      )}
      {question && <Question question={question} onConfirm={confirm} />}
      {(unmarked || marked) && <Lengths session={session} take={take} survey={survey} />}
      {measured ? (
        <Button variant="contained" component={RouterLink} to="../read" relative="path">
          Go to Read
        </Button>
      ) : (
        (proposed || marked) && (
          <Button variant="contained" size="large" disabled={!ready} onClick={() => void measure()}>
            Measure
          </Button>
        )
      )}
      {unnamed && (
        <FirstLook session={session} take={take} blob={blob} ready={wheels && wheelbaseMm !== null} />
      )}
      {!ready && !measured && (proposed || marked) && (
        <Typography variant="body2" color="textSecondary" role="status">
          {waitsFor({ question: question?.landmark ?? null, wheels, wheelbaseMm })}
        </Typography>
      )}
      {trouble && (
        <Alert severity="error" variant="outlined">
          {trouble}
        </Alert>
      )}
    </Box>
  );
}

const waitsFor = (w: { question: Landmark | null; wheels: boolean; wheelbaseMm: number | null }): string =>
  w.question
    ? `Waits for the ${plainName(w.question)}.`
    : !w.wheels
      ? 'Waits for the axles.'
      : w.wheelbaseMm === null
        ? 'Waits for the wheelbase, or the tyre’s size.'
        : 'Waits for the film.';

const WORTH: Record<FilmWorth, string> = { good: 'Good film', usable: 'Usable film', again: 'Film again' };

/** What the film is worth, with what speaks against it and the cure of each. */
function Verdict({ verdict }: { verdict: FilmVerdict }) {
  return (
    <Box data-testid="film-verdict">
      <Typography variant="h2" component="p">
        {WORTH[verdict.worth]}
      </Typography>
      {verdict.points.map((p) => (
        <Box key={p.key} sx={{ mt: 0.5 }}>
          <Typography variant="body2" sx={{ fontWeight: p.worth === 'again' ? 700 : 400 }}>
            {p.words}
          </Typography>
          <Typography variant="body2" color="textSecondary">
            {p.cure}
          </Typography>
        </Box>
      ))}
    </Box>
  );
}

/** What was found on the film by itself. */
function Seen({ take, survey }: { take: Take; survey: TakeSurvey }) {
  const { set } = useSet();
  const wanted = needed(take.view);
  const found = wanted.filter((k) => survey.points[k]).length;
  const drive = take.view === 'drive';
  const mirrored = survey.facing !== null && (survey.facing === 'right') !== drive;
  return (
    <Box>
      <Typography variant="body2">
        {found} of {wanted.length} joints named{survey.wheels ? ', both wheels found' : ''}
        {survey.unmoved ? ': the camera stands as it stood for the take before' : ''}. Look at them on the
        film; drag what is off.
      </Typography>
      <Typography variant="body2" color="textSecondary">
        The bike points {survey.facing}, {mirrored ? 'in a mirrored film of the' : 'so this is the'}{' '}
        {drive ? 'drive' : 'non-drive'} side.{' '}
        <Link
          component="button"
          type="button"
          variant="body2"
          sx={{ verticalAlign: 'baseline' }}
          onClick={() => set(`takes.#${take.id}.view`, drive ? 'nonDrive' : 'drive')}
        >
          {mirrored ? 'It is not mirrored' : 'The film is mirrored'}
        </Link>
      </Typography>
    </Box>
  );
}

/** The one thing that is unsure, asked by key or tap. */
function Question({
  question: { landmark, kind },
  onConfirm,
}: {
  question: { landmark: Landmark; kind: 'unsure' | 'open' };
  onConfirm: () => void;
}) {
  const guide = GUIDES.drive.find((g) => g.key === landmark);
  return (
    <Box role="group" aria-label="Asked" sx={{ border: 1, borderColor: 'primary.main', p: 1.25 }}>
      <Typography variant="h3" component="p">
        {kind === 'unsure' ? `Is this the ${plainName(landmark)}?` : `Where is the ${plainName(landmark)}?`}
      </Typography>
      <Typography variant="body2" color="textSecondary" sx={{ mb: kind === 'unsure' ? 1 : 0 }}>
        {guide?.place}.{' '}
        {kind === 'unsure' ? 'If it is not, tap the right place on the film.' : 'Tap it on the film.'}
      </Typography>
      {kind === 'unsure' && (
        <Button variant="outlined" size="small" onClick={onConfirm}>
          Yes, it is (Y)
        </Button>
      )}
    </Box>
  );
}

/** Wheelbase and crank, asked here where the bike does not have them yet; the wheelbase from the tyre's size, if no tape is at hand. */
function Lengths({
  session,
  take,
  survey,
}: {
  session: FitSession;
  take: Take;
  survey: TakeSurvey | undefined;
}) {
  const { set } = useSet();
  const { wheelbaseMm } = session.asFound.frame;
  // Once asked for here they stay here: a field that went while it was typed in would be no help.
  const [pending] = useState({
    wheelbase: wheelbaseMm === null,
    crank: session.asFound.crank.lengthMm === null,
  });
  const [tyre, setTyre] = useState('');
  const wheels = survey?.wheels ?? null;
  const diameter = tyreDiameterMm(tyre);
  const byTyre =
    wheels &&
    diameter !== null &&
    Math.round(
      wheelbaseFromTyre(wheels, diameter, { x: take.video.widthPx / 2, y: take.video.heightPx / 2 }),
    );
  if (!pending.wheelbase && !pending.crank) return null;
  return (
    <Box sx={{ display: 'grid', gap: 1.25 }}>
      {pending.wheelbase && (
        <NumberField
          label="Wheelbase, axle to axle"
          unit="mm"
          value={wheelbaseMm}
          schema={BIKE_BOUNDS['frame.wheelbaseMm']}
          onChange={(v) => set('asFound.frame.wheelbaseMm', v)}
          help="Tape along the bike, or from the frame’s sheet."
        />
      )}
      {pending.wheelbase && wheelbaseMm === null && wheels && (
        <Box sx={{ display: 'flex', gap: 1, alignItems: 'flex-start' }}>
          <TextField
            size="small"
            label="Or the tyre, as printed"
            placeholder="28-622"
            value={tyre}
            onChange={(e) => setTyre(e.target.value)}
            error={tyre.length > 5 && diameter === null}
            helperText={
              tyre.length > 5 && diameter === null
                ? 'Width and bead seat, as in 28-622.'
                : 'About 1 % less sure than a tape.'
            }
          />
          <Button
            variant="outlined"
            disabled={!byTyre}
            onClick={() => byTyre && set('asFound.frame.wheelbaseMm', byTyre)}
            sx={{ mt: 0.25 }}
          >
            {byTyre ? `Take ${byTyre} mm` : 'Take it'}
          </Button>
        </Box>
      )}
      {pending.crank && (
        <NumberField
          label="Crank length"
          unit="mm"
          value={session.asFound.crank.lengthMm}
          schema={BIKE_BOUNDS['crank.lengthMm']}
          onChange={(v) => set('asFound.crank.lengthMm', v)}
          help="Stamped on the inside of the arm. Checks the scale."
        />
      )}
    </Box>
  );
}
