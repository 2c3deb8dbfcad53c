import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useEffect, useState } from 'react';

const NAMES: Record<string, string> = {
  ' ': 'Space',
  ArrowRight: '→',
  ArrowLeft: '←',
  ArrowUp: '↑',
  ArrowDown: '↓',
  PageDown: 'Page Down',
  PageUp: 'Page Up',
};

const ALONE = ['Shift', 'Control', 'Alt', 'Meta', 'Tab'];

/** A key that is chosen by pressing it. @param usual what it is when none was chosen */
export function KeyField({
  label,
  usual,
  value,
  onChange,
}: {
  label: string;
  usual: string;
  value: string;
  onChange: (key: string) => void;
}) {
  const [waits, setWaits] = useState(false);
  useEffect(() => {
    if (!waits) return undefined;
    const onKey = (e: KeyboardEvent): void => {
      if (ALONE.includes(e.key)) return;
      e.preventDefault();
      e.stopPropagation();
      setWaits(false);
      if (e.key !== 'Escape') onChange(e.key);
    };
    window.addEventListener('keydown', onKey, true);
    return () => window.removeEventListener('keydown', onKey, true);
  }, [waits, onChange]);
  return (
    <Box role="group" aria-label={label}>
      <Typography variant="body2" color="textSecondary">
        {label}
      </Typography>
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 1, flexWrap: 'wrap' }}>
        <Typography role="status" sx={{ minWidth: 160 }}>
          {waits ? 'Press the key (Esc: leave it)' : value ? <strong>{NAMES[value] ?? value}</strong> : usual}
        </Typography>
        <Button size="small" variant="outlined" onClick={() => setWaits(!waits)}>
          {waits ? 'Leave it' : 'Another key…'}
        </Button>
        {value && !waits && (
          <Button size="small" onClick={() => onChange('')}>
            Usual keys
          </Button>
        )}
      </Box>
    </Box>
  );
}
