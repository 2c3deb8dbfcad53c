import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import Joi from 'joi';
import { useCallback, useMemo } from 'react';
import { scaleFromWidth, type WidthOf, type WidthReference } from '../../../core/camera/frontalScale.ts';
import { BIKE_BOUNDS } from '../../../core/records/stationSchemas.ts';
import { openTake, type FitSession } from '../../../core/records/types.ts';
import type { BoardItem, BoardPoints } from '../../ui/film/boardPoints';
import { Choice } from '../../ui/fields/Choice';
import { NumberField } from '../../ui/fields/NumberField';
import { PointBoard } from '../../ui/film/PointBoard';
import { useClip } from '../../ui/film/useClip';
import { useEdit, useEditUnderWay } from '../../session/useEdit';
import { useTakeResults } from '../../jobs/useTakeResults';

const WIDTHS: readonly (readonly [WidthOf, string])[] = [
  ['bar', 'bar'],
  ['hub', 'hub'],
  ['pedals', 'pedals'],
];
const ENDS: Record<WidthOf, [name: string, place: string]> = {
  bar: ['Bar’s end', 'where its width is measured'],
  hub: ['Hub’s end', 'where the frame or the fork holds it'],
  pedals: ['Pedal’s outer end', 'with the cranks level'],
};
const HELP: Record<WidthOf, string> = {
  bar: 'As the tape goes, end to end.',
  hub: 'Over the ends of the axle.',
  pedals: 'Outer end to outer end.',
};
const WIDTH_MM = Joi.number().min(20).max(1200).messages({
  'number.min': 'From 20 to 1200 mm.',
  'number.max': 'From 20 to 1200 mm.',
});

/** Scale and tilt of a film from the front or the rear: two ends of a known width, and the crank. */
export function FrontalScaling({ session }: { session: FitSession }) {
  const take = openTake(session)!;
  const { width } = take;
  const clip = useClip(take, take.markedFrame);
  const { edit, refused } = useEdit();
  const busy = useEditUnderWay();
  const [name, place] = ENDS[width.of];
  const items = useMemo<BoardItem[]>(
    () =>
      (['right', 'left'] as const).map((side) => ({
        key: side,
        name: `${name}, rider’s ${side}`,
        plain: `rider’s ${side}`,
        place: `${place}. From the ${take.view} it is on the picture’s ${(side === 'right') === (take.view === 'rear') ? 'right' : 'left'}`,
      })),
    [name, place, take.view],
  );
  const set = useCallback(
    (by: Partial<WidthReference>) =>
      void edit({ kind: 'width', takeId: take.id, width: { ...width, ...by } }),
    [edit, take.id, width],
  );
  const onChange = useCallback(
    (points: BoardPoints) => {
      const plain = (key: string) => (points[key] ? { x: points[key].x, y: points[key].y } : null);
      set({ right: plain('right'), left: plain('left') });
    },
    [set],
  );
  const stored: BoardPoints = {};
  for (const side of ['right', 'left'] as const)
    if (width[side]) stored[side] = { ...width[side], onSticker: false };
  const known = width.of === 'bar' ? session.asFound.bar.widthMm : null;
  const crank = session.asFound.crank.lengthMm;
  return (
    <PointBoard
      key={`${take.id}${take.view}${width.of}`}
      clip={clip}
      items={items}
      lines={LINES}
      stored={stored}
      boundFrame={null}
      snap={null}
      onChange={onChange}
      busy={busy}
      done={null}
    >
      <Choice
        label="Known width"
        options={WIDTHS}
        value={width.of}
        onChange={(of) => of && set({ of, mm: null })}
      />
      <NumberField
        label={`Width of the ${width.of}`}
        unit="mm"
        optional
        value={width.mm}
        schema={WIDTH_MM}
        onChange={(mm) => set({ mm })}
        help={HELP[width.of]}
      />
      {known !== null && width.mm !== known && (
        <Button size="small" onClick={() => set({ mm: known })}>
          {known} mm, as noted on Bike
        </Button>
      )}
      <NumberField
        label="Crank length"
        unit="mm"
        value={crank}
        schema={BIKE_BOUNDS['crank.lengthMm']}
        onChange={(v) => void edit({ kind: 'set', at: 'asFound.crank.lengthMm', value: v })}
        help="The feet rise and fall by twice this: it sets the scale where the rider is."
      />
      {refused && <Alert severity="error">{refused}</Alert>}
      <Figures session={session} crankMm={crank} />
    </PointBoard>
  );
}

const LINES = [['right', 'left']] as const;

function Figures({ session, crankMm }: { session: FitSession; crankMm: number | null }) {
  const take = openTake(session)!;
  const scale = scaleFromWidth(take.width);
  const got = useTakeResults(session, [take])?.[0];
  const reading = got?.kind === 'frontal' && got.result.ok ? got.result : null;
  const crossed =
    take.width.right && take.width.left && take.width.right.x > take.width.left.x !== (take.view === 'rear');
  return (
    <Box sx={{ borderLeft: 3, borderColor: 'primary.main', pl: 1.5 }}>
      {scale.ok ? (
        <>
          <Typography variant="h1" component="p" data-testid="mm-per-px">
            {scale.mmPerPx.toFixed(3)} <Typography component="span">mm per pixel</Typography>
          </Typography>
          <Typography variant="body2" color="textSecondary">
            at the {take.width.of}; the picture is tilted by {Math.abs(scale.tiltDeg).toFixed(2)}°, which is
            taken out.
          </Typography>
        </>
      ) : (
        <Typography variant="body2" color="textSecondary">
          {scale.reason === 'points-coincide'
            ? 'The two ends stand on the same spot: move one of them.'
            : crankMm === null
              ? 'Type the crank’s length, or a width and point out its ends.'
              : scale.reason === 'width-missing'
                ? 'The ends set the tilt; type the width too, and the two lengths are checked against each other.'
                : 'The crank’s length will do. A level width sets the picture’s tilt: without it pelvis and shoulders are good to 2° only.'}
        </Typography>
      )}
      {crossed && (
        <Alert severity="warning" variant="outlined" sx={{ mt: 1 }}>
          Left and right seem to have changed places: from the {take.view} the rider’s right is on the
          picture’s {take.view === 'rear' ? 'right' : 'left'}.
        </Alert>
      )}
      {reading && scale.ok && (
        <Typography variant="body2" color="textSecondary" sx={{ mt: 1 }} data-testid="width-check">
          By the crank it is {reading.mmPerPx.toFixed(3)} mm per pixel at the feet
          {reading.distanceMm
            ? `: the lens stood about ${(reading.distanceMm / 1000).toFixed(1)} m away, and what is nearer is drawn smaller again.`
            : '. The two do not fit a camera at 1.5 to 12 m: one of the two lengths or an end is wrong.'}
        </Typography>
      )}
    </Box>
  );
}
