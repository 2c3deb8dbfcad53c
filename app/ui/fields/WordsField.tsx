import TextField from '@mui/material/TextField';
import { useTyped } from '../../session/useTyped';

/** A text that is stored while it is typed. */
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
  const { text, type, leave, drop } = useTyped<string>(label, {
    value,
    read: (typed) => ({ ok: true, value: typed }),
    onChange,
  });
  return (
    <TextField
      label={label}
      size="small"
      multiline={lines > 1}
      minRows={lines}
      value={text ?? value}
      onChange={(e) => type(e.target.value)}
      onBlur={leave}
      onKeyDown={(e) => {
        if (e.key === 'Escape') drop();
        if (e.key === 'Enter' && lines === 1) leave();
      }}
      slotProps={{ htmlInput: { maxLength: most } }}
    />
  );
}
