import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import Typography from '@mui/material/Typography';
import { useMemo } from 'react';
import { bikeFaults } from '../../core/bike/faults.ts';
import type { Figured, ResolvedBike } from '../../core/bike/resolve.ts';
import { resolveBike } from '../../core/bike/resolve.ts';
import type { BikeSetup } from '../../core/bike/setup.ts';
import { BIKE_BOUNDS, FOOT_BOUNDS, UNDER_CLEAT } from '../../core/records/stationSchemas.ts';
import { lengthWithUnit } from '../../core/units/length.ts';
import { BikeDrawing } from '../components/BikeDrawing';
import { Choice } from '../components/Choice';
import { Desk, Fields, Sheet } from '../components/Desk';
import { LengthField, NumberField } from '../components/NumberField';
import { useSet } from '../components/useSet';
import { useSettings } from '../components/useSettings';
import { WordsField } from '../components/WordsField';
import { useSession } from './session';

type BoundKey = keyof typeof BIKE_BOUNDS;

/** What is asked for, part by part: the label, the place in the record, and a word on how. */
const PARTS: readonly {
  title: string;
  note?: string;
  rows: readonly (readonly [BoundKey, string, string?])[];
}[] = [
  {
    title: 'Saddle',
    note: 'any of the usual ways; the others are computed',
    rows: [
      ['saddle.heightMm', 'Height to bottom bracket', 'along the seat tube'],
      ['saddle.heightToSpindleMm', 'Height to spindle', 'crank in line with the seat tube'],
      ['saddle.setback80Mm', 'Setback at 80 mm width', 'plumb line, behind is plus'],
      ['saddle.setbackNoseMm', 'Setback at the nose', 'plumb line, behind is plus'],
      ['saddle.noseTo80Mm', 'Nose to 80 mm width', 'along the saddle'],
      ['saddle.tiltDeg', 'Tilt', 'nose-up is plus'],
      ['saddle.lengthMm', 'Length'],
      ['saddle.widthMm', 'Width'],
      ['saddle.postShowingMm', 'Post showing'],
      ['saddle.postShowingMostMm', 'Post may show', 'to its mark'],
    ],
  },
  {
    title: 'Frame',
    note: 'from its sheet, or measured',
    rows: [
      ['frame.stackMm', 'Stack'],
      ['frame.reachMm', 'Reach'],
      ['frame.headAngleDeg', 'Head angle'],
      ['frame.seatAngleDeg', 'Seat tube angle'],
      ['frame.chainstayMm', 'Chainstay'],
      ['frame.bbDropMm', 'Bottom-bracket drop'],
      ['frame.frontCentreMm', 'Front-centre'],
      ['frame.forkRakeMm', 'Fork rake'],
      ['frame.wheelbaseMm', 'Wheelbase'],
      ['frame.wheelDiameterMm', 'Wheel with tyre', 'outer diameter'],
      ['frame.tyreWidthMm', 'Tyre width'],
    ],
  },
  {
    title: 'Stem and bar',
    note: 'from stem and frame, or by tape',
    rows: [
      ['stem.lengthMm', 'Stem length'],
      ['stem.angleDeg', 'Stem angle', 'minus is down, unflipped'],
      ['stem.spacersMm', 'Spacers'],
      ['bar.widthMm', 'Bar width'],
      ['bar.reachMm', 'Clamp to hoods, forward'],
      ['bar.hoodRiseMm', 'Clamp to hoods, up'],
      ['bar.dropMm', 'Bar drop'],
      ['bar.rotationDeg', 'Bar rotation', 'rolled up is plus'],
      ['bar.fromNoseMm', 'Nose to bar, by tape'],
      ['bar.belowSaddleMm', 'Saddle to bar top', 'bar lower is plus'],
      ['levers.turnInDeg', 'Levers turned in'],
      ['levers.reachMm', 'Lever reach'],
    ],
  },
  {
    title: 'Crank and pedals',
    rows: [
      ['crank.lengthMm', 'Crank length', 'stamped on the arm'],
      ['crank.qFactorMm', 'Q factor'],
      ['pedals.axleLengthMm', 'Pedal axle', 'crank face to cleat’s middle'],
      ['pedals.stackMm', 'Pedal stack'],
      ['pedals.floatDeg', 'Float'],
    ],
  },
];

const EXTENSION_ROWS: readonly (readonly [BoundKey, string, string?])[] = [
  ['extensions.padRiseMm', 'Pads above clamp'],
  ['extensions.padAheadMm', 'Pads ahead of clamp'],
  ['extensions.padSpacingMm', 'Between the pads'],
  ['extensions.lengthMm', 'Pads to the ends'],
];

const FOOT_ROWS: readonly (readonly [keyof typeof FOOT_BOUNDS, string, string?])[] = [
  ['cleatBehindMm', 'Cleat behind first head', 'ahead is minus'],
  ['cleatOutwardMm', 'Cleat outward', 'towards the little toe'],
  ['heelOutDeg', 'Heel rests out', 'in is minus'],
  ['shoeSizeEu', 'Shoe size'],
  ['soleStackMm', 'Sole stack'],
];

const valueAt = (bike: BikeSetup, key: BoundKey): number | null => {
  const [part, name] = key.split('.') as ['frame', 'stackMm'];
  return (bike[part] as unknown as Record<string, number | null> | null)?.[name] ?? null;
};

export default function Bike() {
  const { session } = useSession();
  const bike = session.asFound;
  const { set, refused } = useSet();
  const resolved = useMemo(() => resolveBike(bike), [bike]);
  const put = (at: string) => (value: unknown) => set(`asFound.${at}`, value);
  const computed: Partial<Record<BoundKey, Figured | null>> = {
    'saddle.heightMm': resolved.heightMm,
    'saddle.heightToSpindleMm': resolved.heightToSpindleMm,
    'saddle.setback80Mm': resolved.setback80Mm,
    'saddle.setbackNoseMm': resolved.setbackNoseMm,
    'frame.wheelbaseMm': resolved.wheelbaseMm,
    'frame.frontCentreMm': resolved.frontCentreMm,
  };
  const rows = (list: readonly (readonly [BoundKey, string, string?])[]) =>
    list.map(([key, label, how]) => (
      <OneField
        key={key}
        label={label}
        how={how}
        unit={key.endsWith('Deg') ? '°' : 'mm'}
        value={valueAt(bike, key)}
        computed={computed[key] ?? null}
        schema={BIKE_BOUNDS[key]}
        needed={key === 'frame.seatAngleDeg'}
        onChange={put(key)}
      />
    ));
  return (
    <Desk sideLabel="What follows" side={<Follows bike={bike} resolved={resolved} />}>
      {refused && <Alert severity="error">{refused}</Alert>}
      <Sheet title="As found" note="measured before anyone touches it">
        <Box sx={{ maxWidth: 760 }}>
          <BikeDrawing bike={bike} resolved={resolved} />
        </Box>
        <Box sx={{ mt: 1, maxWidth: 420, display: 'grid' }}>
          <WordsField label="Which bike" most={200} value={bike.name} onChange={put('name')} />
        </Box>
      </Sheet>
      {PARTS.map((part) => (
        <Sheet key={part.title} title={part.title} note={part.note}>
          <Fields>
            {part.title === 'Saddle' && (
              <WordsField
                label="Saddle"
                most={120}
                value={bike.saddle.model}
                onChange={put('saddle.model')}
              />
            )}
            {part.title === 'Stem and bar' && (
              <WordsField label="Bar" most={120} value={bike.bar.model} onChange={put('bar.model')} />
            )}
            {part.title === 'Crank and pedals' && (
              <WordsField
                label="Pedals"
                most={120}
                value={bike.pedals.model}
                onChange={put('pedals.model')}
              />
            )}
            {rows(part.rows)}
            {part.title === 'Saddle' && (
              <Choice
                label="Relief channel"
                options={[
                  ['yes', 'has one'],
                  ['no', 'none'],
                ]}
                value={bike.saddle.reliefChannel === null ? null : bike.saddle.reliefChannel ? 'yes' : 'no'}
                onChange={(v) => put('saddle.reliefChannel')(v === null ? null : v === 'yes')}
              />
            )}
            {part.title === 'Stem and bar' && (
              <FormControlLabel
                control={
                  <Checkbox
                    checked={bike.stem.flipped}
                    onChange={(e) => put('stem.flipped')(e.target.checked)}
                  />
                }
                label="Stem flipped"
              />
            )}
          </Fields>
        </Sheet>
      ))}
      <Sheet title="Feet" note="each for itself">
        <Box sx={{ display: 'grid', gridTemplateColumns: { xs: '1fr', sm: '1fr 1fr' }, gap: 3 }}>
          {(['left', 'right'] as const).map((side) => (
            <Box key={side}>
              <Typography variant="h3" sx={{ mb: 1 }}>
                {side === 'left' ? 'Left' : 'Right'}
              </Typography>
              <Fields least={150}>
                {FOOT_ROWS.map(([key, label, how]) => (
                  <OneField
                    key={key}
                    label={label}
                    how={how}
                    unit={key.endsWith('Deg') ? '°' : key.endsWith('Mm') ? 'mm' : 'EU'}
                    value={bike.feet[side][key]}
                    computed={null}
                    schema={FOOT_BOUNDS[key]}
                    onChange={put(`feet.${side}.${key}`)}
                  />
                ))}
                <NumberField
                  label="Wedge"
                  unit="°"
                  help="inside raised is plus"
                  value={bike.feet[side].wedgeDeg}
                  schema={UNDER_CLEAT.wedgeDeg}
                  onChange={put(`feet.${side}.wedgeDeg`)}
                />
                <LengthField
                  label="Shim"
                  help="under the cleat"
                  value={bike.feet[side].shimMm}
                  schema={UNDER_CLEAT.shimMm}
                  onChange={put(`feet.${side}.shimMm`)}
                />
                <WordsField
                  label="Insole"
                  most={200}
                  value={bike.feet[side].insole}
                  onChange={put(`feet.${side}.insole`)}
                />
                <Choice
                  label="Washers"
                  options={[
                    ['0', 'none'],
                    ['1', 'one'],
                    ['2', 'two'],
                  ]}
                  value={String(bike.feet[side].washers) as '0'}
                  onChange={(v) => put(`feet.${side}.washers`)(Number(v ?? 0))}
                />
              </Fields>
            </Box>
          ))}
        </Box>
      </Sheet>
      <Sheet title="Extensions" note="time trial and pursuit">
        <FormControlLabel
          control={
            <Checkbox
              checked={bike.extensions !== null}
              onChange={(e) =>
                put('extensions')(
                  e.target.checked
                    ? { padRiseMm: null, padAheadMm: null, padSpacingMm: null, lengthMm: null }
                    : null,
                )
              }
            />
          }
          label="This bike has extensions"
        />
        {bike.extensions && <Fields>{rows(EXTENSION_ROWS)}</Fields>}
      </Sheet>
    </Desk>
  );
}

interface OneFieldProps {
  label: string;
  how?: string;
  unit: string;
  value: number | null;
  computed: Figured | null;
  schema: (typeof BIKE_BOUNDS)[BoundKey];
  needed?: boolean;
  onChange: (value: number | null) => void;
}

/** One measurement; while it is open, what follows for it from the others stands under it. */
function OneField({ label, how, unit, value, computed, schema, needed, onChange }: OneFieldProps) {
  const { lengthUnit } = useSettings();
  const help =
    value === null && computed?.from === 'computed'
      ? `follows: ${lengthWithUnit(computed.mm, lengthUnit)}`
      : how;
  const shared = { label, value, schema, help };
  if (unit === 'mm') return <LengthField {...shared} optional onChange={onChange} />;
  return needed ? (
    <NumberField {...shared} unit={unit} onChange={onChange} />
  ) : (
    <NumberField {...shared} optional unit={unit} onChange={onChange} />
  );
}

/** What follows from the numbers: contradictions first, then faults, then the figures that a fitter computes by hand. */
function Follows({ bike, resolved }: { bike: BikeSetup; resolved: ResolvedBike }) {
  const { lengthUnit } = useSettings();
  const faults = bikeFaults(bike, resolved);
  const mm = (v: number | null): string => (v === null ? 'open' : lengthWithUnit(Math.round(v), lengthUnit));
  const overlap = (side: 'left' | 'right'): string => {
    const o = resolved.overlap[side];
    if (!o) return 'open';
    return o.closesAtSteerDeg === null
      ? `${mm(Math.round(o.gapMm))} free`
      : `touches from ${o.closesAtSteerDeg}° of steering`;
  };
  const below = (what: string, drop: number | null): [string, string] => [
    `${what} ${drop !== null && drop < 0 ? 'above' : 'below'} saddle`,
    mm(drop === null ? null : Math.abs(drop)),
  ];
  const figures: [string, string][] = [
    ['Saddle to hood', mm(resolved.reachFromSitMm)],
    ['Nose to hood', mm(resolved.reachFromNoseMm)],
    below('Bar', resolved.barDropMm),
    below('Hood', resolved.hoodDropMm),
    [
      'Effective seat angle',
      resolved.seatAngleDeg === null ? 'open' : `${resolved.seatAngleDeg.toFixed(1)}°`,
    ],
    ['Stance, left', mm(resolved.stanceMm.left)],
    ['Stance, right', mm(resolved.stanceMm.right)],
    ['Toe overlap, left', overlap('left')],
    ['Toe overlap, right', overlap('right')],
  ];
  return (
    <>
      {resolved.contradictions.length > 0 && (
        <Box role="alert" sx={{ border: 2, borderColor: 'warning.main', p: 1.5, mb: 2 }}>
          <Typography variant="h2">Can’t both be true</Typography>
          {resolved.contradictions.map((c) => (
            <Box key={c.what} sx={{ mt: 1 }}>
              <Typography sx={{ fontWeight: 560 }}>
                {c.what}: {lengthWithUnit(Math.round(Math.abs(c.missMm)), lengthUnit)} apart
              </Typography>
              <Typography variant="body2">{c.slip}</Typography>
            </Box>
          ))}
        </Box>
      )}
      <Typography variant="h2" gutterBottom>
        As it came in
      </Typography>
      {faults.length === 0 ? (
        <Typography color="text.secondary">Nothing plainly wrong in what is measured so far.</Typography>
      ) : (
        <Box component="ul" sx={{ m: 0, pl: 2.5 }}>
          {faults.map((f) => (
            <li key={f.what}>
              <Typography
                component="span"
                sx={{ fontWeight: 560, color: f.weight === 'danger' ? 'error.main' : undefined }}
              >
                {f.weight === 'danger' ? 'Danger: ' : ''}
                {f.what}
              </Typography>
              <Typography variant="body2" color="text.secondary">
                {f.why}
              </Typography>
            </li>
          ))}
        </Box>
      )}
      <Typography variant="h2" sx={{ mt: 3, mb: 1 }}>
        Computed
      </Typography>
      <Box
        component="dl"
        sx={{ m: 0, display: 'grid', gridTemplateColumns: '1fr auto', rowGap: 0.75, columnGap: 2 }}
      >
        {figures.map(([name, value]) => (
          <Box key={name} sx={{ display: 'contents' }}>
            <Typography component="dt" color="text.secondary">
              {name}
            </Typography>
            <Typography
              component="dd"
              sx={{ m: 0, textAlign: 'right', fontWeight: 560 }}
              data-testid={`computed-${name}`}
            >
              {value}
            </Typography>
          </Box>
        ))}
      </Box>
    </>
  );
}
