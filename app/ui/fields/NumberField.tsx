import InputAdornment from '@mui/material/InputAdornment';
import TextField from '@mui/material/TextField';
import type Joi from 'joi';
import { lengthText, parseLength, type Parsed } from '../../../core/units/length.ts';
import { massText, parseMass } from '../../../core/units/mass.ts';
import { useStudio } from '../../session/useStudio';
import { useTyped } from '../../session/useTyped';

interface Shared<V> {
  label: string;
  value: number | null;
  schema: Joi.NumberSchema;
  onChange: (value: V) => void;
  help?: string;
  /** Its name stands beside it already: it is not drawn a second time. */
  hideLabel?: boolean;
}
/** Left empty it is null; otherwise a number is asked for. */
type Optional = { optional: true } & Shared<number | null>;
type Required = { optional?: false } & Shared<number>;
type Props = Optional | Required;

interface Written {
  unit: string;
  parse: (text: string) => Parsed;
  show: (value: number) => string;
}

/** A measured value in its unit; handed over while it is typed, refused in a sentence under the field once it is left. */
function ValueField(props: Props & Written) {
  const { label, value, schema, help, hideLabel = false, unit, parse, show } = props;
  const { text, trouble, type, leave, drop } = useTyped<number | null>(label, {
    value,
    read: (typed) => {
      if (typed.trim() === '' && props.optional) return { ok: true, value: null };
      const read = parse(typed);
      if (!read.ok) return read;
      const { error } = schema.required().validate(read.value, { convert: false });
      return error ? { ok: false, message: error.message } : read;
    },
    onChange: (v) => (props.optional ? props.onChange(v) : v !== null && props.onChange(v)),
  });
  return (
    <TextField
      label={hideLabel ? undefined : label}
      value={text ?? (value === null ? '' : show(value))}
      onChange={(e) => type(e.target.value)}
      onBlur={leave}
      onKeyDown={(e) => {
        if (e.key === 'Enter') leave();
        if (e.key === 'Escape') drop();
      }}
      error={trouble !== null}
      helperText={trouble ?? help}
      size="small"
      slotProps={{
        input: { endAdornment: <InputAdornment position="end">{unit}</InputAdornment> },
        htmlInput: { inputMode: 'decimal', ...(hideLabel && { 'aria-label': label }) },
        // A long label would run into the unit of an empty field.
        inputLabel: { shrink: true },
      }}
    />
  );
}

const parseNumber =
  (unit: string) =>
  (text: string): Parsed => {
    const value = Number(text.trim().replace(',', '.').replace('−', '-'));
    return text.trim() !== '' && Number.isFinite(value)
      ? { ok: true, value }
      : { ok: false, message: `Type a number in ${unit === '°' ? 'degrees' : unit}.` };
  };

const plain = (v: number): string => String(v).replace('-', '−');

/** A number in a unit of its own: degrees, years, hours. */
export const NumberField = ({ unit, ...props }: Props & { unit: string }) => (
  <ValueField {...props} unit={unit} parse={parseNumber(unit)} show={plain} />
);

/** A length in the studio's unit; “31 1/2 in”, “80cm” and “803” are all understood. Millimetres in and out. */
export function LengthField(props: Props) {
  const { lengthUnit } = useStudio();
  return (
    <ValueField
      {...props}
      unit={lengthUnit}
      parse={(text) => {
        const read = parseLength(text, lengthUnit);
        // A tape is not read closer than a tenth of a millimetre.
        return read.ok ? { ok: true, value: Math.round(read.value * 10) / 10 } : read;
      }}
      show={(mm) => lengthText(mm, lengthUnit)}
    />
  );
}

/** A mass in the studio's unit; kilograms in and out. */
export function MassField(props: Props) {
  const { massUnit } = useStudio();
  return (
    <ValueField
      {...props}
      unit={massUnit}
      parse={(text) => {
        const read = parseMass(text, massUnit);
        return read.ok ? { ok: true, value: Math.round(read.value * 10) / 10 } : read;
      }}
      show={(kg) => massText(kg, massUnit)}
    />
  );
}
