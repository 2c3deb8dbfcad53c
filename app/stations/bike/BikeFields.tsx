import Box from '@mui/material/Box';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import Typography from '@mui/material/Typography';
import {
  BIKE_PARTS,
  ESSENTIAL_FIELDS,
  EXTENSION_FIELDS,
  FOOT_FIELDS,
  isEssential,
} from '../../../core/bike/fields.ts';
import type { Figured, ResolvedBike } from '../../../core/bike/resolve.ts';
import type { BikeSetup } from '../../../core/bike/setup.ts';
import { BIKE_BOUNDS, FOOT_BOUNDS, UNDER_CLEAT } from '../../../core/records/stationSchemas.ts';
import { lengthWithUnit } from '../../../core/units/length.ts';
import { Choice } from '../../ui/fields/Choice';
import { Fields, FoldedSheet, Sheet } from '../../ui/Desk';
import { ShowAll } from '../../ui/ShowAll';
import { useUnfolded } from '../../session/useUnfolded';
import { LengthField, NumberField } from '../../ui/fields/NumberField';
import { useStudio } from '../../session/useStudio';
import { WordsField } from '../../ui/fields/WordsField';
import { FieldPlace } from '../../session/useTyped';

type BoundKey = keyof typeof BIKE_BOUNDS;

const valueAt = (bike: BikeSetup, key: BoundKey): number | null => {
  const [part, name] = key.split('.') as ['frame', 'stackMm'];
  return (bike[part] as unknown as Record<string, number | null> | null)?.[name] ?? null;
};

/** What is measured of each part beside the essentials. */
const PARTS = BIKE_PARTS.map((part) => ({
  title: part.title,
  rows: (part.rows as readonly (readonly [BoundKey, string, string?])[]).filter(([key]) => !isEssential(key)),
}));
const ALL = [...PARTS.map((part) => part.title), 'Feet', 'Extensions'];

/** The measurements of a set-up: the essentials, and the others folded part by part. */
export function BikeFields({
  bike,
  resolved,
  put,
}: {
  bike: BikeSetup;
  resolved: ResolvedBike;
  put: (at: string) => (value: unknown) => void;
}) {
  const { isOpen, unfold } = useUnfolded('bike');
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
  const isMeasured = (key: BoundKey): boolean => valueAt(bike, key) !== null;
  const feet = (['left', 'right'] as const).flatMap((side) =>
    FOOT_FIELDS.map(([key]) => bike.feet[side][key]),
  );
  const folded = (title: string, note: string) => ({
    title,
    note,
    open: isOpen(title),
    onOpen: (open: boolean) => unfold([title], open),
  });
  return (
    <>
      <Sheet title="Essentials" note="what the plan needs; any other way to measure is under its part">
        <Fields>{rows(ESSENTIAL_FIELDS)}</Fields>
      </Sheet>
      {PARTS.map((part) => (
        <FoldedSheet
          key={part.title}
          {...folded(
            part.title,
            `${part.rows.filter(([key]) => isMeasured(key)).length} of ${part.rows.length} measured`,
          )}
        >
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
        </FoldedSheet>
      ))}
      <FoldedSheet {...folded('Feet', `${feet.filter((v) => v !== null).length} of ${feet.length} measured`)}>
        <Box sx={{ display: 'grid', gridTemplateColumns: { xs: '1fr', sm: '1fr 1fr' }, gap: 3 }}>
          {(['left', 'right'] as const).map((side) => (
            <FieldPlace key={side} value={side}>
              <FootFields side={side} foot={bike.feet[side]} put={put} />
            </FieldPlace>
          ))}
        </Box>
      </FoldedSheet>
      <FoldedSheet {...folded('Extensions', bike.extensions ? 'fitted' : 'none')}>
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
        {bike.extensions && <Fields>{rows(EXTENSION_FIELDS)}</Fields>}
      </FoldedSheet>
      <ShowAll all={ALL} isOpen={isOpen} unfold={unfold} />
    </>
  );
}

/** One foot: its shoe, its cleat, and what is under it. */
function FootFields({
  side,
  foot,
  put,
}: {
  side: 'left' | 'right';
  foot: BikeSetup['feet']['left'];
  put: (at: string) => (value: unknown) => void;
}) {
  return (
    <Box>
      <Typography variant="h3" sx={{ mb: 1 }}>
        {side === 'left' ? 'Left' : 'Right'}
      </Typography>
      <Fields least={150}>
        {FOOT_FIELDS.map(([key, label, how]) => (
          <OneField
            key={key}
            label={label}
            how={how}
            unit={key.endsWith('Deg') ? '°' : key.endsWith('Mm') ? 'mm' : 'EU'}
            value={foot[key]}
            computed={null}
            schema={FOOT_BOUNDS[key]}
            onChange={put(`feet.${side}.${key}`)}
          />
        ))}
        <NumberField
          label="Wedge"
          unit="°"
          help="inside raised is plus"
          value={foot.wedgeDeg}
          schema={UNDER_CLEAT.wedgeDeg}
          onChange={put(`feet.${side}.wedgeDeg`)}
        />
        <LengthField
          label="Shim"
          help="under the cleat"
          value={foot.shimMm}
          schema={UNDER_CLEAT.shimMm}
          onChange={put(`feet.${side}.shimMm`)}
        />
        <WordsField label="Insole" most={200} value={foot.insole} onChange={put(`feet.${side}.insole`)} />
        <Choice
          label="Washers"
          options={[
            ['0', 'none'],
            ['1', 'one'],
            ['2', 'two'],
          ]}
          value={String(foot.washers) as '0'}
          onChange={(v) => put(`feet.${side}.washers`)(Number(v ?? 0))}
        />
      </Fields>
    </Box>
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
  const { lengthUnit } = useStudio();
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
