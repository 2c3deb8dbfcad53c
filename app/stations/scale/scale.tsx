import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import { useCallback } from 'react';
import { BIKE_BOUNDS } from '../../../core/records/stationSchemas.ts';
import { openTake, type FitSession } from '../../../core/records/types.ts';
import { yawDeg, type Keystone } from '../../../core/camera/keystone.ts';
import { isFrontal } from '../../../core/landmarks/landmarks.ts';
import { FrontalScaling } from './FrontalScaling';
import { NeedsFirst } from '../../ui/NeedsFirst';
import { NumberField } from '../../ui/fields/NumberField';
import { PointBoard } from '../../ui/film/PointBoard';
import type { BoardItem, BoardPoints } from '../../ui/film/boardPoints';
import { useClip } from '../../ui/film/useClip';
import { useEdit, useEditUnderWay } from '../../session/useEdit';
import { scaleOf } from '../../../core/visit/readOptions.ts';
import { useReading } from '../../jobs/useTakeResults';
import { useSession } from '../session';

const AXLES: readonly BoardItem[] = [
  { key: 'rear', name: 'Rear axle', plain: 'rear axle', place: 'the middle of the rear hub’s end' },
  { key: 'front', name: 'Front axle', plain: 'front axle', place: 'the middle of the front hub’s end' },
];
const RIM_KEYS = ['rearTop', 'rearBottom', 'frontTop', 'frontBottom'] as const;
const RIM_NAMES: Record<(typeof RIM_KEYS)[number], [string, string]> = {
  rearTop: ['Rear tyre, top', 'where the tyre ends, straight above the rear axle'],
  rearBottom: ['Rear tyre, bottom', 'where the tyre ends, straight below the rear axle'],
  frontTop: ['Front tyre, top', 'where the tyre ends, straight above the front axle'],
  frontBottom: ['Front tyre, bottom', 'where the tyre ends, straight below the front axle'],
};
const ITEMS: readonly BoardItem[] = [
  ...AXLES,
  ...RIM_KEYS.map((key) => ({
    key,
    name: RIM_NAMES[key][0],
    plain: RIM_NAMES[key][0].toLowerCase(),
    place: `${RIM_NAMES[key][1]}. Both wheels show how far the camera is from square`,
    optional: true,
  })),
];
const LINES = [
  ['rear', 'front'],
  ['rearTop', 'rearBottom'],
  ['frontTop', 'frontBottom'],
] as const;

export default function Scale() {
  const { session } = useSession();
  if (!openTake(session)) {
    return (
      <NeedsFirst
        title="No film yet"
        text="The scale is set on the film: bring it in first."
        to="../film"
        action="Go to Film"
      />
    );
  }
  return isFrontal(openTake(session)!.view) ? (
    <FrontalScaling session={session} />
  ) : (
    <Scaling session={session} />
  );
}

function Scaling({ session }: { session: FitSession }) {
  const take = openTake(session)!;
  const clip = useClip(take, take.markedFrame);
  const { edit, refused } = useEdit();
  const busy = useEditUnderWay();
  const asBoard = (p: { x: number; y: number } | null): BoardPoints[string] =>
    p ? { ...p, onSticker: false } : undefined;
  const { rear, front } = take.axles;
  const stored: BoardPoints = {
    ...Object.fromEntries(Object.entries({ rear, front, ...take.rims }).map(([k, p]) => [k, asBoard(p)])),
  };
  for (const key of Object.keys(stored)) if (!stored[key]) delete stored[key];
  const onChange = useCallback(
    (points: BoardPoints) => {
      const plain = (key: string) => (points[key] ? { x: points[key].x, y: points[key].y } : null);
      const rims = Object.fromEntries(RIM_KEYS.flatMap((k) => (points[k] ? [[k, plain(k)!]] : [])));
      void edit({ kind: 'wheels', takeId: take.id, rear: plain('rear'), front: plain('front'), rims });
    },
    [edit, take.id],
  );
  return (
    <PointBoard
      key={take.id}
      clip={clip}
      items={ITEMS}
      lines={LINES}
      stored={stored}
      boundFrame={null}
      snap={null}
      onChange={onChange}
      busy={busy}
      done={<ScaleFigures session={session} />}
    >
      <NumberField
        label="Wheelbase, axle to axle"
        unit="mm"
        value={session.asFound.frame.wheelbaseMm}
        schema={BIKE_BOUNDS['frame.wheelbaseMm']}
        onChange={(v) => void edit({ kind: 'set', at: 'asFound.frame.wheelbaseMm', value: v })}
        help="Tape along the bike, or from the frame’s sheet."
      />
      <NumberField
        label="Crank length"
        unit="mm"
        value={session.asFound.crank.lengthMm}
        schema={BIKE_BOUNDS['crank.lengthMm']}
        onChange={(v) => void edit({ kind: 'set', at: 'asFound.crank.lengthMm', value: v })}
        help="Stamped on the inside of the arm. Checks the scale once the foot is tracked."
      />
      {refused && <Alert severity="error">{refused}</Alert>}
    </PointBoard>
  );
}

function ScaleFigures({ session }: { session: FitSession }) {
  const take = openTake(session)!;
  const reading = useReading(session);
  const scale = scaleOf(session);
  if (!scale) return null;
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
      <Typography variant="body2" color="textSecondary">
        The bike points {scale.facing}; the axle line {scale.levelDeg < 0 ? 'falls' : 'rises'}{' '}
        {Math.abs(scale.levelDeg).toFixed(2)}° towards the front, which is taken out.
      </Typography>
      <Squareness keystone={scale.keystone} mmPerPx={scale.mmPerPx} />
      <CrankCheck
        ratio={ratio}
        tracked={take.tracking.state !== 'none'}
        crankMm={session.asFound.crank.lengthMm}
      />
    </Box>
  );
}

/** The distance at which the yaw is named until the camera's own is known, mm. */
const USUAL_DISTANCE_MM = 4000;

/** How much one wheel looks larger than the other, and what is done about it. */
function Squareness({ keystone, mmPerPx }: { keystone: Keystone | undefined; mmPerPx: number }) {
  if (!keystone) {
    return (
      <Typography variant="body2" color="textSecondary" sx={{ mt: 1 }}>
        Squareness is not checked: point out top and bottom of both tyres, and a turned camera is seen and
        taken out.
      </Typography>
    );
  }
  const yaw = Math.abs(yawDeg(keystone, mmPerPx, USUAL_DISTANCE_MM));
  const verdict = yaw < 2 ? 'Square enough' : yaw < 5 ? 'Usable' : 'Film again, squarer';
  return (
    <Typography variant="body2" color="textSecondary" sx={{ mt: 1 }} data-testid="squareness">
      <strong>{verdict}</strong>: the wheels say the camera is about {yaw.toFixed(1)}° from square (from 4 m
      away). The shrinking to one side is taken out.
    </Typography>
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
      <Typography variant="body2" color="textSecondary" sx={{ mt: 1 }}>
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
