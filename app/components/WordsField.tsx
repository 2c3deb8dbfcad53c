import TextField from '@mui/material/TextField';
import { useState } from 'react';

/** A text that is stored when it is left. */
export function WordsField({
  label,
  value,
  onChange,
  most,
  lines = 1,
}: {
  label: string;
  value: string;
  onChange: (value: string) => void;
  most: number;
  lines?: number;
}) {
  const [text, setText] = useState<string | null>(null);
  const settle = (): void => {
    if (text !== null && text !== value) onChange(text);
    setText(null);
  };
  return (
    <TextField
      label={label}
      size="small"
      multiline={lines > 1}
      minRows={lines}
      value={text ?? value}
      onChange={(e) => setText(e.target.value)}
      onBlur={settle}
      onKeyDown={(e) => {
        if (e.key === 'Escape') setText(null);
        if (e.key === 'Enter' && lines === 1) settle();
      }}
      slotProps={{ htmlInput: { maxLength: most } }}
    />
  );
}
