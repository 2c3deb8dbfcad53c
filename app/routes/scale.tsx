import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useCallback } from 'react';
import { Link } from 'react-router';
import { crankMm, wheelbaseMm } from '../../core/records/schemas.ts';
import type { FitSession } from '../../core/records/types.ts';
import { scaleFromAxles } from '../../core/stroke/plane.ts';
import { NeedsFirst } from '../components/NeedsFirst';
import { NumberField } from '../components/NumberField';
import { PointBoard } from '../components/PointBoard';
import type { BoardItem, BoardPoints } from '../components/boardPoints';
import { useClip } from '../components/useClip';
import { useEdit } from '../components/useEdit';
import { useReading } from '../components/useReading';
import { useSession } from './session';

const AXLES: readonly BoardItem[] = [
  { key: 'rear', name: 'Rear axle', plain: 'rear axle', place: 'the middle of the rear hub’s end' },
  { key: 'front', name: 'Front axle', plain: 'front axle', place: 'the middle of the front hub’s end' },
];
const LINE = [['rear', 'front']] as const;

export default function Scale() {
  const { session } = useSession();
  if (!session.take) {
    return (
      <NeedsFirst
        title="No film yet"
        text="The scale is set on the film: bring it in first."
        to="../film"
        action="Go to Film"
      />
    );
  }
  return <Scaling session={session} />;
}

function Scaling({ session }: { session: FitSession }) {
  const take = session.take!;
  const clip = useClip(take, take.markedFrame);
  const { edit, refused } = useEdit();
  const asBoard = (p: { x: number; y: number } | null): BoardPoints[string] =>
    p ? { ...p, onSticker: false } : undefined;
  const rear = asBoard(take.axles.rear);
  const front = asBoard(take.axles.front);
  const stored: BoardPoints = { ...(rear && { rear }), ...(front && { front }) };
  const onChange = useCallback(
    (points: BoardPoints) => {
      const plain = (key: string) => (points[key] ? { x: points[key].x, y: points[key].y } : null);
      void edit({ kind: 'axles', rear: plain('rear'), front: plain('front') });
    },
    [edit],
  );
  return (
    <PointBoard
      key={take.id}
      clip={clip}
      items={AXLES}
      lines={LINE}
      stored={stored}
      boundFrame={null}
      snap={null}
      onChange={onChange}
      done={<ScaleFigures session={session} />}
    >
      <NumberField
        label="Wheelbase, axle to axle"
        unit="mm"
        value={session.bike.wheelbaseMm}
        schema={wheelbaseMm}
        onChange={(v) => void edit({ kind: 'bike', wheelbaseMm: v })}
        help="Tape along the bike, or from the frame’s sheet."
      />
      <NumberField
        label="Crank length"
        unit="mm"
        value={session.bike.crankMm}
        schema={crankMm}
        onChange={(v) => void edit({ kind: 'bike', crankMm: v })}
        help="Stamped on the inside of the arm. Checks the scale once the foot is tracked."
      />
      {refused && <Alert severity="error">{refused}</Alert>}
      <Button variant="contained" component={Link} to="../mark" relative="path">
        On to the marks
      </Button>
    </PointBoard>
  );
}

function ScaleFigures({ session }: { session: FitSession }) {
  const take = session.take!;
  const reading = useReading(session);
  const { rear, front } = take.axles;
  if (!rear || !front) return null;
  const scale = scaleFromAxles({
    rearAxlePx: rear,
    frontAxlePx: front,
    wheelbaseMm: session.bike.wheelbaseMm ?? 0,
  });
  if (!scale.ok) {
    return (
      <Alert severity="info" variant="outlined">
        {scale.reason === 'axles-coincide'
          ? 'The two axles stand on the same spot: move one of them.'
          : 'Type the wheelbase, and the scale is known.'}
      </Alert>
    );
  }
  const ratio = reading.status === 'read' && reading.result.ok ? reading.result.crank.ratio : null;
  return (
    <Box sx={{ borderLeft: 3, borderColor: 'primary.main', pl: 1.5 }}>
      <Typography variant="h1" component="p" data-testid="mm-per-px">
        {scale.mmPerPx.toFixed(3)} <Typography component="span">mm per pixel</Typography>
      </Typography>
      <Typography variant="body2" color="text.secondary">
        The bike points {scale.facing}; the axle line {scale.levelDeg < 0 ? 'falls' : 'rises'}{' '}
        {Math.abs(scale.levelDeg).toFixed(2)}° towards the front, which is taken out.
      </Typography>
      <CrankCheck ratio={ratio} tracked={take.tracking.state !== 'none'} crankMm={session.bike.crankMm} />
    </Box>
  );
}

/** Whether the pedal circle, measured by the axles' scale, is as long as the crank that was typed. */
function CrankCheck({
  ratio,
  tracked,
  crankMm: crank,
}: {
  ratio: number | null;
  tracked: boolean;
  crankMm: number | null;
}) {
  if (ratio === null || crank === null) {
    return (
      <Typography variant="body2" color="text.secondary" sx={{ mt: 1 }}>
        {tracked && crank === null
          ? 'Type the crank length to check the scale.'
          : 'Checked against the crank once the foot is tracked.'}
      </Typography>
    );
  }
  const percent = (ratio - 1) * 100;
  const measured = (crank * ratio).toFixed(1);
  const text =
    Math.abs(percent) <= 2
      ? `The pedal circle measures ${measured} mm for a ${crank} mm crank: they agree.`
      : percent > 0 && percent < 7
        ? `The pedal circle measures ${measured} mm for a ${crank} mm crank, ${percent.toFixed(1)} % more: the near foot is closer to the camera than the axles. The rider’s side is brought to the crank’s own length.`
        : `The pedal circle measures ${measured} mm for a ${crank} mm crank, ${percent.toFixed(1)} % off: one of the two typed lengths or the axle points is wrong.`;
  const wrong = percent >= 7 || percent < -2;
  return (
    <Alert severity={wrong ? 'warning' : 'info'} variant="outlined" sx={{ mt: 1 }} data-testid="crank-check">
      {text}
    </Alert>
  );
}
