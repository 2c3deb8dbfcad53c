import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import type { Intake } from '../../core/intake/intake.ts';
import type { FitSession } from '../../core/records/types.ts';
import { Consent } from './Consent';

/** In place of what films: why not yet, and the consent itself. */
export function ConsentFirst({
  session,
  name,
  held,
  onChange,
}: {
  session: FitSession;
  name: string;
  /** Why filming is held back. */
  held: string;
  onChange: (c: Intake['filmConsent']) => void;
}) {
  return (
    <Box sx={{ flex: 1, display: 'grid', placeItems: 'center', p: { xs: 2, md: 4 } }}>
      <Box sx={{ maxWidth: 640, borderLeft: 3, borderColor: 'primary.main', pl: 3 }}>
        <Typography variant="h1" component="h2" gutterBottom>
          Consent first
        </Typography>
        <Typography sx={{ mb: 2 }}>{held}</Typography>
        <Consent session={session} name={name} onChange={onChange} />
      </Box>
    </Box>
  );
}
