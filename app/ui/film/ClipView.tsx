import Alert from '@mui/material/Alert';
import AlertTitle from '@mui/material/AlertTitle';
import Box from '@mui/material/Box';
import LinearProgress from '@mui/material/LinearProgress';
import { useEffect, useRef, useState, type ReactNode } from 'react';
import type { Zoom } from './zoom';
import type { Clip } from './useClip';
import { Working } from '../Working';

export interface ViewSize {
  widthPx: number;
  heightPx: number;
  /** Screen pixels for a pixel of the film. */
  scale: number;
}

/** The film's picture, fitted to the space there is or closer, with whatever is drawn over it. */
export function ClipView({
  clip,
  children,
  label,
  zoom,
}: {
  clip: Clip;
  children?: (size: ViewSize) => ReactNode;
  label: string;
  /** How close it is looked at; left out, as a whole. */
  zoom?: Zoom;
}) {
  const own = useRef<HTMLDivElement | null>(null);
  const frame = zoom?.room ?? own;
  const by = zoom?.by ?? 1;
  const [room, setRoom] = useState<{ w: number; h: number } | null>(null);
  useEffect(() => {
    const element = frame.current;
    if (!element) return undefined;
    const observer = new ResizeObserver(([entry]) =>
      setRoom({ w: entry.contentRect.width, h: entry.contentRect.height }),
    );
    observer.observe(element);
    return () => observer.disconnect();
  }, [frame]);
  const { state, attach, seeking, drawn, broken } = clip;
  let size: ViewSize | null = null;
  if (state.status === 'ready' && room && room.w > 0 && room.h > 0) {
    const scale = by * Math.min(room.w / state.info.widthPx, room.h / state.info.heightPx);
    size = { widthPx: state.info.widthPx * scale, heightPx: state.info.heightPx * scale, scale };
  }
  return (
    <Box sx={{ flex: 1, minHeight: 200, minWidth: 0, position: 'relative', display: 'flex' }}>
      <Box
        ref={frame}
        sx={{
          flex: 1,
          minWidth: 0,
          minHeight: 0,
          overflow: by > 1 ? 'auto' : 'hidden',
          scrollbarWidth: 'thin',
          display: 'grid',
          // Closer than the room has space for it is panned by scrolling, from its very corner.
          placeItems: state.status !== 'ready' ? 'center' : by > 1 ? 'start' : 'start center',
        }}
      >
        {state.status === 'loading' && <Working words="Opening the film" sx={{ width: '60%' }} />}
        {state.status === 'trouble' && (
          <Alert severity="error" variant="outlined" sx={{ maxWidth: 560 }}>
            <AlertTitle>{state.trouble.title}</AlertTitle>
            {state.trouble.advice}
          </Alert>
        )}
        <Box
          sx={{
            position: 'relative',
            width: size?.widthPx ?? 0,
            height: size?.heightPx ?? 0,
            display: size ? 'block' : 'none',
          }}
        >
          <canvas
            ref={attach}
            role="img"
            aria-label={label}
            style={{ width: '100%', height: '100%', display: 'block' }}
          />
          {seeking && (
            <LinearProgress
              aria-label="Going to the frame"
              sx={{ position: 'absolute', top: 0, left: 0, right: 0, height: 5, zIndex: 1 }}
            />
          )}
          {size && (drawn || broken) && <Box sx={{ position: 'absolute', inset: 0 }}>{children?.(size)}</Box>}
        </Box>
      </Box>
    </Box>
  );
}
