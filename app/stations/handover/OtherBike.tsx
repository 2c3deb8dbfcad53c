import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import Typography from '@mui/material/Typography';
import { useEffect, useMemo, useState } from 'react';
import { UNMEASURED_BIKE, type BikeSetup } from '../../../core/bike/setup.ts';
import { transfer, type Priority } from '../../../core/report/transfer.ts';
import { bikesOf } from '../../../core/visit/bikes.ts';
import { BIKE_BOUNDS } from '../../../core/records/stationSchemas.ts';
import { lastSetup } from '../../../core/visit/setups.ts';
import type { FitSession } from '../../../core/records/types.ts';
import { useSession } from '../session';
import { storedBikes } from '../../storage/bikes';
import { sessionsOf } from '../../storage/trash';
import { Choice } from '../../ui/fields/Choice';
import { Fields, Sheet } from '../../ui/Desk';
import { LengthField, NumberField } from '../../ui/fields/NumberField';
import { useSet } from '../../session/useSet';
import { WordsField } from '../../ui/fields/WordsField';
import { OtherBikeResult } from './OtherBikeResult';

/** What is asked of the other bike, in the order of its sheet. */
const OTHER_FIELDS: readonly (readonly [key: keyof typeof BIKE_BOUNDS, label: string, how?: string])[] = [
  ['frame.stackMm', 'Stack'],
  ['frame.reachMm', 'Reach'],
  ['frame.headAngleDeg', 'Head angle'],
  ['frame.seatAngleDeg', 'Seat tube angle'],
  ['frame.seatTubeMm', 'Seat tube', 'BB to its top'],
  ['saddle.postShowingMostMm', 'Post may show', 'to its mark'],
  ['crank.lengthMm', 'Crank length'],
  ['pedals.stackMm', 'Pedal stack'],
  ['bar.reachMm', 'Clamp to hoods, forward'],
  ['bar.hoodRiseMm', 'Clamp to hoods, up'],
  ['stem.lengthMm', 'Stem on it', 'empty: none yet'],
  ['stem.angleDeg', 'Its angle'],
  ['stem.spacersMm', 'Spacers under it'],
];

const valueIn = (bike: BikeSetup, at: string): number | null => {
  const [part, name] = at.split('.') as ['frame', 'stackMm'];
  return (bike[part] as unknown as Record<string, number | null>)[name] ?? null;
};

/** The rider's other bikes with how each was left last. */
function useOtherBikes(session: FitSession): { id: string; name: string; setup: BikeSetup }[] {
  const [bikes, setBikes] = useState<{ id: string; name: string; setup: BikeSetup }[]>([]);
  useEffect(() => {
    let ended = false;
    void (async () => {
      const visits = (await sessionsOf(session.riderId)).filter((s) => s.deletedIso === null);
      const all = bikesOf(session.riderId, await storedBikes(session.riderId), visits);
      if (ended) return;
      setBikes(
        all
          .filter((b) => b.bike.id !== session.bikeId && b.visits.length > 0)
          .map((b) => ({
            id: b.bike.id,
            name: b.bike.name || 'a bike without a name',
            setup: lastSetup(b.visits[0]),
          })),
      );
    })();
    return () => {
      ended = true;
    };
  }, [session.riderId, session.bikeId]);
  return bikes;
}

/** The position on another frame: post, rails, stem and spacers, and what can't be reached. */
export function OtherBike({ session }: { session: FitSession }) {
  const { set } = useSet();
  const { parts } = useSession();
  const [priority, setPriority] = useState<Priority>('saddle');
  const others = useOtherBikes(session);
  const from = lastSetup(session);
  const { other } = session.handOver;
  const result = useMemo(
    () => (other ? transfer(from, other, parts, priority) : null),
    [from, other, parts, priority],
  );
  const begin = (setup: BikeSetup | null): void =>
    set(
      'handOver.other',
      setup ?? {
        ...UNMEASURED_BIKE,
        name: 'Another bike',
        // Shoes and saddle go along; crank, pedals and bar stand in until the other ones are typed.
        feet: from.feet,
        saddle: {
          ...UNMEASURED_BIKE.saddle,
          model: from.saddle.model,
          noseTo80Mm: from.saddle.noseTo80Mm,
          lengthMm: from.saddle.lengthMm,
        },
        crank: from.crank,
        pedals: from.pedals,
        bar: {
          ...UNMEASURED_BIKE.bar,
          reachMm: from.bar.reachMm,
          hoodRiseMm: from.bar.hoodRiseMm,
          rotationDeg: 0,
        },
      },
    );
  if (!other)
    return (
      <Box sx={{ p: { xs: 2, md: 3 }, maxWidth: 760, mx: 'auto' }}>
        <Sheet title="Transfer the position" note="to another frame of this rider">
          <Typography sx={{ mb: 2 }}>
            From the other frame’s sheet come seatpost, rails, stem and spacers, and what can’t be reached,
            with the miss.
          </Typography>
          <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap' }}>
            <Button variant="contained" onClick={() => begin(null)}>
              Enter a frame
            </Button>
            {others.map((b) => (
              <Button key={b.id} variant="outlined" onClick={() => begin(b.setup)}>
                {b.name}
              </Button>
            ))}
          </Box>
        </Sheet>
      </Box>
    );
  return (
    <Box
      sx={{
        p: { xs: 2, md: 3 },
        maxWidth: { xs: 1280, xl: 1640 },
        mx: 'auto',
        display: 'grid',
        gridTemplateColumns: { xs: 'minmax(0, 1fr)', md: 'minmax(0, 4fr) minmax(0, 5fr)' },
        gap: 4,
      }}
    >
      <Sheet title="The other bike" note="from its sheet, or measured">
        <Box sx={{ display: 'grid', mb: 1.5, mt: 0.5 }}>
          <WordsField
            label="Which bike"
            most={200}
            value={other.name}
            onChange={(v) => set('handOver.other.name', v)}
          />
        </Box>
        <Fields least={150}>
          {OTHER_FIELDS.map(([at, label, how]) => {
            const put = (v: number | null): void => set(`handOver.other.${at}`, v);
            const field = { label, help: how, value: valueIn(other, at), schema: BIKE_BOUNDS[at] };
            return at === 'frame.seatAngleDeg' ? (
              <NumberField key={at} {...field} unit="°" onChange={put} />
            ) : at.endsWith('Deg') ? (
              <NumberField key={at} optional {...field} unit="°" onChange={put} />
            ) : (
              <LengthField key={at} optional {...field} onChange={put} />
            );
          })}
        </Fields>
        <FormControlLabel
          control={
            <Checkbox
              checked={other.stem.flipped}
              onChange={(e) => set('handOver.other.stem.flipped', e.target.checked)}
            />
          }
          label="Stem flipped"
        />
        <Box sx={{ mt: 1.5, display: 'flex', gap: 2, alignItems: 'flex-end', flexWrap: 'wrap' }}>
          <Choice<Priority>
            label="Priority where both can’t be had"
            options={[
              ['saddle', 'the hands’ distance to the saddle'],
              ['hands', 'the hands’ place on the bike'],
            ]}
            value={priority}
            onChange={(v) => v && setPriority(v)}
          />
          <Button onClick={() => set('handOver.other', null)}>Another frame instead</Button>
        </Box>
      </Sheet>
      {result && <OtherBikeResult t={result} other={other} />}
    </Box>
  );
}
