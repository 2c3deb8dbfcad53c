import Box from '@mui/material/Box';
import ToggleButton from '@mui/material/ToggleButton';
import Typography from '@mui/material/Typography';
import { REGIONS, type RegionKey } from '../../../core/intake/intake.ts';

/** Where a change is felt: any of the places that riders speak of. */
export function FeltWhere({
  felt,
  onChange,
}: {
  felt: readonly RegionKey[];
  onChange: (felt: RegionKey[]) => void;
}) {
  return (
    <Box role="group" aria-label="Felt where">
      <Typography variant="body2" color="textSecondary" sx={{ mb: 0.25 }}>
        Felt where
      </Typography>
      <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 0.5 }}>
        {REGIONS.map((r) => (
          <ToggleButton
            key={r.key}
            value={r.key}
            size="small"
            selected={felt.includes(r.key)}
            onChange={() =>
              onChange(felt.includes(r.key) ? felt.filter((k) => k !== r.key) : [...felt, r.key])
            }
            sx={{ px: 1, py: 0.25, lineHeight: 1.2 }}
          >
            {r.name}
          </ToggleButton>
        ))}
      </Box>
    </Box>
  );
}
