import ArrowForward from '@mui/icons-material/ArrowForward';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { Link, useLocation } from 'react-router';
import type { Station } from '../../core/visit/stations.ts';

/** Places to look and mend: where nothing is lacking there, the way from the film leads past them. */
const MENDING: readonly string[] = ['scale', 'mark', 'track'];

/** What the open station still lacks, its main act, and the way to the next one: in the same place on every station. */
export function NextBar({
  stations,
  visitId,
  place,
}: {
  stations: readonly Station[];
  visitId: string;
  /** Takes the element that the station’s own act is drawn into. */
  place: (element: HTMLElement | null) => void;
}) {
  const { pathname } = useLocation();
  const at = stations.findIndex((s) => pathname.endsWith(`/${s.path}`));
  const here = stations[at];
  const next = stations
    .slice(at + 1)
    .find((s) => here?.path !== 'film' || !MENDING.includes(s.path) || s.lacks !== null);
  return (
    <Box
      component="section"
      aria-label="What is next"
      className="no-print"
      sx={{
        display: 'flex',
        alignItems: 'center',
        gap: 1.5,
        px: { xs: 1.5, sm: 2.5 },
        minHeight: 52,
        borderTop: 1,
        borderColor: 'divider',
        bgcolor: 'background.default',
        flexShrink: 0,
        position: 'sticky',
        bottom: 0,
        zIndex: 3,
      }}
    >
      <Typography variant="body2" color="textSecondary" sx={{ flex: 1, minWidth: 0 }} data-testid="lacks">
        {here?.lacks}
      </Typography>
      <Box ref={place} sx={{ display: 'flex', gap: 1.5 }} />
      {at >= 0 && !next && (
        <Button component={Link} to="/" variant="outlined">
          All riders
        </Button>
      )}
      {next && (
        <Button
          component={Link}
          to={`/sessions/${visitId}/${next.path}`}
          variant={here && here.lacks === null && here.path !== 'film' ? 'contained' : 'outlined'}
          endIcon={<ArrowForward />}
          sx={{ whiteSpace: 'nowrap' }}
        >
          Next: {next.name}
        </Button>
      )}
    </Box>
  );
}
