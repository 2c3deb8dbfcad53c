import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';

/** One of a few; tapping the chosen one again takes the choice back. */
export function Choice<K extends string>({
  label,
  options,
  value,
  onChange,
  hideLabel = false,
}: {
  label: string;
  options: readonly (readonly [key: K, words: string])[];
  value: K | null;
  onChange: (value: K | null) => void;
  hideLabel?: boolean;
}) {
  return (
    <Box>
      {!hideLabel && (
        <Typography variant="body2" color="textSecondary" sx={{ mb: 0.25 }}>
          {label}
        </Typography>
      )}
      <ToggleButtonGroup
        exclusive
        size="small"
        aria-label={label}
        value={value}
        onChange={(_, v: K | null) => onChange(v)}
        sx={{ flexWrap: 'wrap', '& .MuiToggleButton-root': { px: 1.25, lineHeight: 1.2 } }}
      >
        {options.map(([key, words]) => (
          <ToggleButton key={key} value={key}>
            {words}
          </ToggleButton>
        ))}
      </ToggleButtonGroup>
    </Box>
  );
}
