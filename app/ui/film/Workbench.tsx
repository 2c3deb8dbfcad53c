import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import type { HTMLAttributes, ReactNode } from 'react';
import { ClipView, type ViewSize } from './ClipView';
import { Transport } from './Transport';
import { useZoom } from './zoom';
import type { Clip } from './useClip';

interface Props {
  clip: Clip;
  /** What the picture is, for those who can't see it. */
  label: string;
  /** Drawn over the film. */
  overlay?: (size: ViewSize) => ReactNode;
  /** Stands over the film. */
  top?: ReactNode;
  /** Width of the side panel where there is room for one, px. */
  sideWidth?: number;
  /** A film is held over the page, about to be dropped. */
  over?: boolean;
  handlers?: HTMLAttributes<HTMLElement>;
  /** The side panel; under the film on a narrow screen. */
  children: ReactNode;
}

/** The film with its transport, and a panel of what is done with it: how every station that works on the film is laid out. */
export function Workbench({
  clip,
  label,
  overlay,
  top,
  sideWidth = 330,
  over = false,
  handlers,
  children,
}: Props) {
  const zoom = useZoom();
  return (
    <Box
      {...handlers}
      sx={{
        display: 'flex',
        flex: 1,
        minHeight: 0,
        flexDirection: { xs: 'column', md: 'row' },
        outline: over ? '2px solid' : 'none',
        outlineColor: 'primary.main',
      }}
    >
      <Box
        sx={{
          flex: 1,
          minWidth: 0,
          // On a phone no taller than a film that lies, with its buttons, needs.
          minHeight: { xs: top ? 'min(560px, 124vw)' : 'min(520px, 94vw)', md: 0 },
          display: 'flex',
          flexDirection: 'column',
          p: 1,
        }}
      >
        {top}
        <ClipView clip={clip} label={label} zoom={zoom}>
          {overlay}
        </ClipView>
        {clip.broken && (
          <Alert severity="warning" variant="outlined" sx={{ my: 0.5, py: 0 }}>
            Frame {clip.broken.frame} of this film can’t be decoded: the file is damaged there. The frames
            that can are shown; trim the film to them, or film again.
          </Alert>
        )}
        <Transport clip={clip} zoom={zoom} />
      </Box>
      <Box
        component="aside"
        sx={{
          width: { md: sideWidth },
          flexShrink: 0,
          borderLeft: { md: 1 },
          borderTop: { xs: 1, md: 0 },
          borderColor: { xs: 'divider', md: 'divider' },
          p: 2,
          overflowY: 'auto',
          display: 'flex',
          flexDirection: 'column',
          gap: 1.5,
          '& > *': { flexShrink: 0 },
        }}
      >
        {children}
      </Box>
    </Box>
  );
}
