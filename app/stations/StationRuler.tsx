import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import { useEffect, useRef } from 'react';
import { NavLink, useLocation } from 'react-router';
import type { Station } from '../../core/visit/stations.ts';

/** The stations as graduations on a rule: a long tick where one has what the next needs, a short one where it has not. */
export function StationRuler({ stations, visitId }: { stations: readonly Station[]; visitId: string }) {
  const rule = useRef<HTMLElement | null>(null);
  const { pathname } = useLocation();
  // On a narrow screen the open station may lie beyond the edge.
  useEffect(() => {
    rule.current?.querySelector('.active')?.scrollIntoView({ block: 'nearest', inline: 'nearest' });
  }, [pathname]);
  return (
    <Box
      ref={rule}
      component="nav"
      aria-label="Stations"
      className="no-print"
      sx={{
        display: 'flex',
        borderBottom: 1,
        borderColor: 'text.primary',
        px: { xs: 1, md: 2 },
        overflowX: 'auto',
        flexShrink: 0,
      }}
    >
      {stations.map((s, i) => (
        <Box
          key={s.path}
          component={NavLink}
          to={`/sessions/${visitId}/${s.path}`}
          sx={{
            position: 'relative',
            // On a tablet all eleven stand side by side, each as wide as its name.
            flex: { xs: '1 0 auto', md: '1 1 0' },
            minWidth: { xs: 0, md: 88 },
            pr: { xs: 0.75, md: 0 },
            minHeight: 56,
            pl: { xs: 1, md: 1.5 },
            pt: 0.75,
            color: 'text.secondary',
            textDecoration: 'none',
            '&:hover': { color: 'text.primary' },
            '&::before': {
              content: '""',
              position: 'absolute',
              left: 0,
              bottom: 0,
              width: s.ready ? '3px' : '1px',
              height: s.ready ? '72%' : '26%',
              bgcolor: 'text.primary',
            },
            '&.active': { color: 'text.primary' },
            '&.active::after': {
              content: '""',
              position: 'absolute',
              left: 0,
              right: 12,
              bottom: 0,
              height: '4px',
              bgcolor: 'primary.main',
            },
            '&:focus-visible': { outline: '2px solid', outlineColor: 'primary.main', outlineOffset: '-2px' },
          }}
        >
          <Typography
            component="span"
            sx={{
              display: 'block',
              fontWeight: 600,
              whiteSpace: 'nowrap',
              fontSize: { xs: '0.9rem', md: '1rem' },
            }}
          >
            {i + 1} {s.name}
          </Typography>
          <Typography
            component="span"
            variant="body2"
            sx={{
              display: 'block',
              fontSize: { xs: '0.75rem', md: '0.8rem' },
              lineHeight: { xs: 1.15, md: 1.43 },
              pb: { xs: 0.5, md: 0 },
              pr: 0.5,
              // The name alone says how wide it is.
              width: { xs: 0, md: 'auto' },
              minWidth: { xs: '100%', md: 0 },
              whiteSpace: { xs: 'normal', md: 'nowrap' },
              // A word that is a little wider than the name may stand out.
              overflow: { xs: 'visible', md: 'hidden' },
              textOverflow: 'ellipsis',
            }}
          >
            {s.ready ? '' : '◦ '}
            {s.note}
          </Typography>
        </Box>
      ))}
    </Box>
  );
}
