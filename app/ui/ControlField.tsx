import Joi from 'joi';
import { CONTROLS, type ControlKey } from '../../core/plan/controls/controlTable.ts';
import { LengthField, NumberField } from './NumberField';

const tenth = (v: number): number => Math.round(10 * v) / 10;

/** A control's value typed in, within what it can be moved by; the change alone where it was never measured. */
export function ControlField({
  control: key,
  label,
  from,
  by,
  onChange,
}: {
  control: ControlKey;
  label: string;
  from: number | null;
  by: number;
  onChange: (by: number) => void;
}) {
  const { unit, least, most } = CONTROLS[key];
  const base = from ?? 0;
  const field = {
    label,
    value: tenth(base + by),
    schema: Joi.number()
      .min(base + least)
      .max(base + most)
      .messages({
        'number.min': `At the least ${base + least}.`,
        'number.max': `At the most ${base + most}.`,
      }),
    onChange: (v: number) => onChange(tenth(v - base)),
  };
  return unit === 'mm' ? <LengthField {...field} /> : <NumberField {...field} unit={unit} />;
}
