import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import Typography from '@mui/material/Typography';
import { useMemo, useState } from 'react';
import { Link } from 'react-router';
import { USUAL_HABITS, type Habits } from '../../../core/model/bodyModel.ts';
import { effectsOf } from '../../../core/plan/controls/controls.ts';
import { forecastOf, preparedOnce } from '../../../core/model/forecast.ts';
import { learnHabits } from '../../../core/model/learn.ts';
import type { Effects } from '../../../core/model/effects.ts';
import { arrivalOf, type Arrival } from '../../../core/visit/arrival.ts';
import { useOwnRide } from './useOwnRide';
import { filmedTake, legOf, measuresOf } from '../../../core/visit/visitCase.ts';
import type { FitSession, Take } from '../../../core/records/types.ts';
import type { Reading } from '../../../core/kinematics/read.ts';
import { habitWords, outcomes, refilmed, type Outcome } from '../../../core/visit/outcome.ts';
import { movesBetween } from '../../../core/visit/progress.ts';
import { setupOf } from '../../../core/visit/rounds.ts';
import { useSession } from '../session';
import { isOut } from '../../../core/protocol/judge.ts';
import { measureName, verdictWords } from '../../../core/protocol/convention.ts';
import { quoted } from '../../ui/words/angleText';
import { movesText } from '../../ui/words/moveText';
import { useSend } from '../../session/useSend';
import { useStudio } from '../../session/useStudio';

interface Filmed {
  session: FitSession;
  take: Take;
  reading: Reading;
}

/** Whether the hands were moved: their effect is looked for at the back, not at the hip. */
const movesHands = (fx: Effects): boolean => Math.hypot(fx.handMm.x, fx.handMm.y) >= 5;

/** What the film says against the log, where it does. */
function ArrivalNote({ arrival }: { arrival: Arrival }) {
  if (arrival.kind === 'same-film')
    return (
      <Alert severity="warning" variant="outlined" sx={{ my: 1 }}>
        Both are one and the same film: there is no before and after in it. Choose the other film, or film
        again.
      </Alert>
    );
  if (arrival.kind !== 'contradicted') return null;
  return (
    <Alert severity="warning" variant="outlined" sx={{ my: 1 }}>
      The log moves the rider by {Math.round(arrival.loggedMm)} mm at the saddle; in the film the hip has
      moved by {String(Math.round(arrival.seenMm)).replace('-', '−')} mm. Was it moved, or is the film from
      before? Nothing is learned from this pair.
    </Alert>
  );
}

/** One measure: before, after, whether that is real, and whether it was predicted. */
function OutcomeRow({ row: r }: { row: Outcome }) {
  const { jointConvention } = useStudio();
  const text = (key: string, v: number): string =>
    quoted(key, v, jointConvention).toFixed(0).replace('-', '−').replace(/^−0$/, '0');
  const u = r.unit === '°' ? '°' : ' mm';
  const f = r.predicted;
  const ends =
    f &&
    [f.low, f.high].map((v) => Number(quoted(r.key, v, jointConvention).toFixed(0))).sort((a, b) => a - b);
  const by = quoted(r.key, r.after, jointConvention) - quoted(r.key, r.before, jointConvention);
  return (
    <TableRow data-testid={`outcome-${r.key}`}>
      <TableCell sx={{ lineHeight: 1.2 }}>
        {measureName(r.key, jointConvention)}
        <Typography variant="body2" color="textSecondary" sx={{ lineHeight: 1.2 }}>
          {r.band.low === null && r.band.high === null
            ? 'no band'
            : verdictWords(r.key, r.verdictAfter, jointConvention)}
        </Typography>
      </TableCell>
      <TableCell align="right" sx={{ whiteSpace: 'nowrap' }}>
        {text(r.key, r.before)}
        {u}
      </TableCell>
      <TableCell align="right" sx={{ whiteSpace: 'nowrap', fontWeight: 640 }}>
        {text(r.key, r.after)}
        {u}
      </TableCell>
      <TableCell align="right" sx={{ whiteSpace: 'nowrap' }}>
        {by >= 0.05 ? '+' : by <= -0.05 ? '−' : ''}
        {Math.abs(by).toFixed(1)} ± {r.uncertainty.toFixed(1)}
      </TableCell>
      <TableCell>{r.real ? <strong>real</strong> : 'within noise'}</TableCell>
      <TableCell sx={{ lineHeight: 1.2 }}>
        {f && ends ? (
          <>
            {text(r.key, f.after)} ({String(ends[0]).replace('-', '−')} to {String(ends[1]).replace('-', '−')}
            )
            <Typography variant="body2" color="textSecondary" sx={{ lineHeight: 1.2 }}>
              {f.counts ? (f.held ? 'held' : 'missed') : 'too little to test'}
            </Typography>
          </>
        ) : (
          '–'
        )}
      </TableCell>
    </TableRow>
  );
}

/** Measure by measure: before, after, real or noise, predicted or not; and what that says of how this rider answers. */
export function OutcomeTable({ before, after }: { before: Filmed; after: Filmed }) {
  const { rider } = useSession();
  const { jointConvention, lengthUnit } = useStudio();
  const { fetcher, send } = useSend<{ what: 'habits'; habits: Habits }>(`/riders/${after.session.riderId}`);
  const sameVisit = before.session.id === after.session.id;
  const [anew, setAnew] = useState(!sameVisit);
  const moves = useMemo(
    () => movesBetween(setupOf(before.session, before.take), setupOf(after.session, after.take)),
    [before, after],
  );
  const own = useOwnRide(before.session);
  const known = useMemo(() => {
    const measures = measuresOf(before.session, before.reading, legOf(before.take));
    const model = filmedTake(before.session, before.take, before.reading).model;
    const prepared = preparedOnce(model);
    const fx = effectsOf(setupOf(before.session, before.take), moves);
    // Predicted with what was believed before this film, so that the test is a fair one.
    const f = Object.keys(moves).length
      ? forecastOf(prepared, { measured: measures, fx, habits: USUAL_HABITS })
      : null;
    const rows = outcomes(measures, measuresOf(after.session, after.reading, legOf(after.take)), {
      sameStickers: !anew,
      predicted: f?.ok ? f.measures : null,
      own,
    });
    const arrival = arrivalOf(before.reading, after.reading, fx);
    // Only a film that shows the change arriving teaches how this rider answers one.
    const teaches = arrival.kind === 'arrived' || (arrival.kind === 'unseen' && movesHands(fx));
    const learned =
      f?.ok && teaches
        ? learnHabits(prepared, {
            fx,
            seen: refilmed(before.reading, after.reading, !anew),
            prior: USUAL_HABITS,
          })
        : null;
    return { rows, learned, arrival };
  }, [before, after, moves, anew, own]);
  const { rows, learned, arrival } = known;
  const counted = rows.filter((r) => r.predicted?.counts);
  const held = counted.filter((r) => r.predicted!.held).length;
  const open = rows.filter((r) => isOut(r.verdictAfter));
  const kept =
    learned &&
    rider?.habits &&
    Math.abs(rider.habits.kappa.mean - learned.kappa.mean) < 1e-6 &&
    Math.abs(rider.habits.rho.mean - learned.rho.mean) < 1e-6;
  return (
    <Box sx={{ minWidth: 0 }}>
      <Typography variant="h2">What changed</Typography>
      <Typography color="textSecondary" data-testid="moved-between">
        Moved in between: {Object.keys(moves).length ? movesText(moves, lengthUnit) : 'nothing'}.
      </Typography>
      <ArrivalNote arrival={arrival} />
      <FormControlLabel
        control={<Checkbox size="small" checked={anew} onChange={(e) => setAnew(e.target.checked)} />}
        label="Stickers reapplied in between"
      />
      <Table size="small" aria-label="Before and after" sx={{ '& td, & th': { px: 0.75 } }}>
        <TableHead>
          <TableRow>
            <TableCell>Measure</TableCell>
            <TableCell align="right">Before</TableCell>
            <TableCell align="right">After</TableCell>
            <TableCell align="right">By</TableCell>
            <TableCell>Is it</TableCell>
            <TableCell>Predicted</TableCell>
          </TableRow>
        </TableHead>
        <TableBody>
          {rows.map((r) => (
            <OutcomeRow key={r.key} row={r} />
          ))}
        </TableBody>
      </Table>
      {counted.length > 0 && (
        <Typography sx={{ mt: 1 }} data-testid="forecasts-held">
          {held} of {counted.length} predictions held, of those that were to move by more than their noise.
        </Typography>
      )}
      {learned && (
        <Box component="section" aria-label="How this rider answers" sx={{ mt: 2 }}>
          <Typography variant="h2">How this rider answers</Typography>
          <Typography data-testid="kappa">
            {habitWords('kappa', learned.kappa, USUAL_HABITS.kappa)}
          </Typography>
          <Typography data-testid="rho">{habitWords('rho', learned.rho, USUAL_HABITS.rho)}</Typography>
          {fetcher.data?.message && <Alert severity="error">{fetcher.data.message}</Alert>}
          <Button
            sx={{ mt: 1 }}
            variant="outlined"
            disabled={Boolean(kept)}
            onClick={() =>
              send({
                what: 'habits',
                habits: { kappa: { ...learned.kappa }, rho: { ...learned.rho } },
              })
            }
          >
            {kept ? 'Kept with the rider' : 'Keep with the rider: plans use it from now on'}
          </Button>
        </Box>
      )}
      <Box component="section" aria-label="What remains open" sx={{ mt: 2 }}>
        <Typography variant="h2">What remains open</Typography>
        {open.length === 0 ? (
          <Typography>Nothing is out of its band.</Typography>
        ) : (
          <>
            <Typography>
              {open.map((r) => measureName(r.key, jointConvention).toLowerCase()).join(', ')}: still out. The
              next round’s plan starts from this film.
            </Typography>
            <Button component={Link} to="../plan" relative="path" variant="outlined" sx={{ mt: 1 }}>
              Plan the next round
            </Button>
          </>
        )}
      </Box>
    </Box>
  );
}
