import Box from '@mui/material/Box';
import { ON_BIKE, type OnBike } from '../../../core/suspects/onBike.ts';
import { Choice } from '../../ui/fields/Choice';

/** What the tests with the rider on the bike found: evidence for and against the suspects. */
export function OnBikeTests({ found, onChange }: { found: OnBike; onChange: (found: OnBike) => void }) {
  return (
    <Box sx={{ display: 'grid', gap: 1.5 }}>
      {ON_BIKE.map(({ key, name, options }) => (
        <Choice<string>
          key={key}
          label={name}
          options={options}
          value={found[key] ?? null}
          onChange={(v) => {
            const rest = Object.fromEntries(Object.entries(found).filter(([k]) => k !== key));
            onChange(v === null ? rest : { ...rest, [key]: v });
          }}
        />
      ))}
    </Box>
  );
}
