import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import type { Take } from '../../../core/records/types.ts';
import { plainName, type Landmark } from '../../../core/landmarks/landmarks.ts';
import type { Doubt, LengthCause } from '../../../core/kinematics/review.ts';
import type { Review } from './reviewSteps';
import { Working } from '../../ui/Working';

const CAUSES: Record<LengthCause, string> = {
  slid: 'The sticker has probably slid: from there on it stands elsewhere.',
  wrong: 'Probably another spot was taken for it.',
  plane:
    'It comes again with the turn: probably the limb swings out of the plane. Hide it there, or leave it.',
};

/** What is the matter at a place. */
function doubtText(d: Doubt): string {
  const where = d.from === d.to ? `frame ${d.from}` : `frames ${d.from} to ${d.to}`;
  if (d.kind === 'lost') return `${plainName(d.landmark)} is lost on ${where}.`;
  if (d.kind === 'unsure') return `${plainName(d.landmark)} is seen in part on ${where}.`;
  const percent = Math.abs(100 * d.change!).toFixed(0);
  return `${plainName(d.landmark)}: its limb is ${percent} % ${d.change! > 0 ? 'longer' : 'shorter'} on ${where}. ${CAUSES[d.cause!]}`;
}

/** The doubtful places of a film one after another, and what can be done at each. */
export function ReviewPanel({ review, take, frame }: { review: Review; take: Take; frame: number }) {
  const { doubts, current, selected, draft, busy, message, nearest } = review;
  const hiddenHere =
    selected !== null && take.hidden.some((h) => h.landmark === selected && frame >= h.from && frame <= h.to);
  const corrected = take.corrections.length;
  return (
    <Box component="section" aria-label="Review" sx={{ display: 'grid', gap: 1 }}>
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 1, flexWrap: 'wrap' }}>
        <Typography variant="h2" sx={{ flex: 1 }} data-testid="doubts">
          {doubts.length === 0
            ? 'Nothing doubtful'
            : doubts.length === 1
              ? '1 doubtful place'
              : `${doubts.length} doubtful places`}
        </Typography>
        <Button
          size="small"
          variant="outlined"
          disabled={doubts.length === 0}
          onClick={() => review.next(-1)}
        >
          Before (p)
        </Button>
        <Button size="small" variant="outlined" disabled={doubts.length === 0} onClick={() => review.next(1)}>
          Next (n)
        </Button>
      </Box>
      <Typography role="status" data-testid="doubt">
        {current && current.landmark === selected && frame >= current.from && frame <= current.to
          ? doubtText(current)
          : selected
            ? `${plainName(selected)} on frame ${frame}.`
            : doubts.length === 0
              ? 'Choose a landmark to look at it closely.'
              : 'Choose a landmark, or go to the next doubtful place.'}
      </Typography>
      {selected && (
        <>
          <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap' }}>
            <Button size="small" variant="contained" disabled={busy} onClick={() => void review.putRight()}>
              {draft ? 'Correct it here (Enter)' : 'It is right here (Enter)'}
            </Button>
            {hiddenHere ? (
              <Button size="small" variant="outlined" onClick={() => void review.show()}>
                Not hidden
              </Button>
            ) : (
              <Button size="small" variant="outlined" disabled={busy} onClick={() => void review.hide()}>
                Hidden here (h)
              </Button>
            )}
            <TextField
              select
              size="small"
              label={`Swap with (x: ${plainName(nearest[0])})`}
              value=""
              disabled={busy}
              onChange={(e) => void review.swap(e.target.value as Landmark)}
              sx={{ minWidth: 170 }}
            >
              {nearest.map((key) => (
                <MenuItem key={key} value={key}>
                  {plainName(key)}
                </MenuItem>
              ))}
            </TextField>
          </Box>
          <Typography variant="body2" color="textSecondary">
            Click or drag on the film, or use the arrow keys (half a pixel, with Shift five). Only the stretch
            up to the next frame known to be right is followed again.
          </Typography>
        </>
      )}
      {busy && <Working words="Following again" />}
      {message && (
        <Alert severity="info" variant="outlined">
          {message}
        </Alert>
      )}
      {corrected > 0 && (
        <Typography variant="body2" color="textSecondary">
          {corrected} {corrected === 1 ? 'place' : 'places'} corrected by hand.
        </Typography>
      )}
    </Box>
  );
}
