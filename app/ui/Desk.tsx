import Box from '@mui/material/Box';
import ButtonBase from '@mui/material/ButtonBase';
import Typography from '@mui/material/Typography';
import type { ReactNode } from 'react';

/** A station at the desk: what is asked on the left, what it means on the right, both in sight. */
export function Desk({
  children,
  side,
  sideLabel,
  sideWidth = 400,
}: {
  children: ReactNode;
  side: ReactNode;
  sideLabel: string;
  sideWidth?: number;
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
          // Folded parts stand close, as a list.
          '& > section + section.folded': { mt: 2 },
          '& > section.folded + section.folded': { mt: 0 },
        }}
      >
        {children}
      </Box>
      <Box
        component="aside"
        aria-label={sideLabel}
        // Scrolled by keys where nothing in it can be reached by them.
        tabIndex={0}
        sx={{
          width: { md: Math.min(sideWidth, 400), lg: sideWidth },
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

/** A part that stands folded until it is asked for, with how much of it is there. */
export function FoldedSheet({
  title,
  note,
  open,
  onOpen,
  children,
}: {
  title: string;
  note: string;
  open: boolean;
  onOpen: (open: boolean) => void;
  children: ReactNode;
}) {
  return (
    <Box component="section" className="folded" aria-label={title} sx={{ pb: open ? 3 : 0 }}>
      <ButtonBase
        aria-expanded={open}
        onClick={() => onOpen(!open)}
        sx={{
          display: 'flex',
          width: '100%',
          alignItems: 'baseline',
          justifyContent: 'flex-start',
          gap: 2,
          minHeight: 44,
          borderBottom: 1,
          borderColor: open ? 'text.primary' : 'divider',
          mb: open ? 1.5 : 0,
          '&:hover': { bgcolor: 'action.hover' },
          '&:focus-visible': { outline: '2px solid', outlineColor: 'primary.main' },
        }}
      >
        <Typography variant="h2" component="span">
          {title}
        </Typography>
        <Typography
          variant="body2"
          color="textSecondary"
          component="span"
          sx={{ flex: 1, textAlign: 'left' }}
        >
          {note}
        </Typography>
        <Typography variant="body2" color="primary" component="span" sx={{ fontWeight: 600 }}>
          {open ? 'Hide' : 'Show'}
        </Typography>
      </ButtonBase>
      {open && children}
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
