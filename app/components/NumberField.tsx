import InputAdornment from '@mui/material/InputAdornment';
import TextField from '@mui/material/TextField';
import type Joi from 'joi';
import { useState } from 'react';

/** A measured number with its unit; checked when left or on Enter, refused in a sentence under the field. */
export function NumberField({
  label,
  unit,
  value,
  schema,
  onChange,
  help,
}: {
  label: string;
  unit: string;
  value: number | null;
  schema: Joi.NumberSchema;
  onChange: (value: number) => void;
  help?: string;
}) {
  const [text, setText] = useState<string | null>(null);
  const [trouble, setTrouble] = useState<string | null>(null);
  const settle = (): void => {
    if (text === null) return;
    const { error, value: number } = schema
      .required()
      .validate(text.trim().replace(',', '.') || undefined) as { error?: Error; value: number };
    if (error) {
      setTrouble(text.trim() === '' ? `Type a number in ${unit === '°' ? 'degrees' : unit}.` : error.message);
      return;
    }
    setTrouble(null);
    setText(null);
    if (number !== value) onChange(number);
  };
  return (
    <TextField
      label={label}
      value={text ?? (value === null ? '' : String(value))}
      onChange={(e) => {
        setText(e.target.value);
        setTrouble(null);
      }}
      onBlur={settle}
      onKeyDown={(e) => {
        if (e.key === 'Enter') settle();
        if (e.key === 'Escape') {
          setText(null);
          setTrouble(null);
        }
      }}
      error={trouble !== null}
      helperText={trouble ?? help}
      size="small"
      slotProps={{
        input: { endAdornment: <InputAdornment position="end">{unit}</InputAdornment> },
        htmlInput: { inputMode: 'decimal' },
      }}
    />
  );
}
