import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import type { ReactNode } from 'react';

/** A station at the desk: what is asked on the left, what it means on the right, both in sight. */
export function Desk({
  children,
  side,
  sideLabel,
}: {
  children: ReactNode;
  side: ReactNode;
  sideLabel: string;
}) {
  return (
    <Box
      sx={{
        flex: 1,
        minHeight: 0,
        display: 'flex',
        flexDirection: { xs: 'column', md: 'row' },
      }}
    >
      <Box
        sx={{
          flex: 1,
          minWidth: 0,
          overflowY: { md: 'auto' },
          p: { xs: 2, md: 3 },
          '& > section + section': { mt: 4 },
        }}
      >
        {children}
      </Box>
      <Box
        component="aside"
        aria-label={sideLabel}
        sx={{
          width: { md: 400 },
          flexShrink: 0,
          borderLeft: { md: 1 },
          borderTop: { xs: 1, md: 0 },
          borderColor: { xs: 'divider', md: 'divider' },
          p: 2.5,
          overflowY: { md: 'auto' },
        }}
      >
        {side}
      </Box>
    </Box>
  );
}

/** A part of the desk with its heading on a thin rule. */
export function Sheet({ title, note, children }: { title: string; note?: string; children: ReactNode }) {
  return (
    <Box component="section" aria-label={title}>
      <Box
        sx={{
          display: 'flex',
          alignItems: 'baseline',
          gap: 2,
          borderBottom: 1,
          borderColor: 'text.primary',
          mb: 1.5,
          pb: 0.25,
        }}
      >
        <Typography variant="h2">{title}</Typography>
        {note && (
          <Typography variant="body2" color="textSecondary">
            {note}
          </Typography>
        )}
      </Box>
      {children}
    </Box>
  );
}

/** Fields side by side, as many as fit. */
export const Fields = ({ children, least = 190 }: { children: ReactNode; least?: number }) => (
  <Box
    sx={{
      display: 'grid',
      gridTemplateColumns: `repeat(auto-fill, minmax(${least}px, 1fr))`,
      gap: 1.5,
      alignItems: 'start',
    }}
  >
    {children}
  </Box>
);
