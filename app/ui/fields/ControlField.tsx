import Joi from 'joi';
import { memo, useMemo } from 'react';
import { CONTROLS, type ControlKey } from '../../../core/plan/controls/controlTable.ts';
import { LengthField, NumberField } from './NumberField';

const tenth = (v: number): number => Math.round(10 * v) / 10;

const within = (least: number, most: number): Joi.NumberSchema =>
  Joi.number()
    .min(least)
    .max(most)
    .messages({ 'number.min': `At least ${least}.`, 'number.max': `At most ${most}.` });

/** A control's value typed in, within what it can be moved by; the change alone where it was never measured. */
export const ControlField = memo(function ControlField({
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
  const schema = useMemo(() => within(base + least, base + most), [base, least, most]);
  const field = {
    label,
    value: tenth(base + by),
    schema,
    onChange: (v: number) => onChange(tenth(v - base)),
  };
  return unit === 'mm' ? <LengthField {...field} /> : <NumberField {...field} unit={unit} />;
});
