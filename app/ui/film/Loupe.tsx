import Box from '@mui/material/Box';
import { useTheme } from '@mui/material/styles';
import { useEffect, useRef } from 'react';
import type { ImagePoint } from '../../../core/math/vec.ts';
import type { HoverStore } from './hover';

const SIDE = 216;
const ZOOM = 6;

/** A close-up of the film about a point, with a fine cross on it: about the pointer's place while that leads, else about `at`. */
export function Loupe({
  source,
  at,
  pointer,
  frame,
}: {
  source: HTMLCanvasElement;
  at: ImagePoint | null;
  pointer: HoverStore;
  frame: number;
}) {
  const canvas = useRef<HTMLCanvasElement | null>(null);
  const line = useTheme().palette.primary.main;
  useEffect(() => {
    const draw = (): void => {
      const context = canvas.current?.getContext('2d');
      const centre = pointer.getState().at ?? at;
      if (!context || !centre || source.width === 0) return;
      const span = SIDE / ZOOM;
      context.imageSmoothingEnabled = false;
      context.clearRect(0, 0, SIDE, SIDE);
      // Pixel centres are whole numbers in the film's coordinates.
      context.drawImage(
        source,
        centre.x + 0.5 - span / 2,
        centre.y + 0.5 - span / 2,
        span,
        span,
        0,
        0,
        SIDE,
        SIDE,
      );
      context.strokeStyle = line;
      context.lineWidth = 1.5;
      const m = SIDE / 2;
      context.beginPath();
      for (const [x0, y0, x1, y1] of [
        [m, 0, m, m - 10],
        [m, m + 10, m, SIDE],
        [0, m, m - 10, m],
        [m + 10, m, SIDE, m],
      ]) {
        context.moveTo(x0, y0);
        context.lineTo(x1, y1);
      }
      context.moveTo(m - 3, m);
      context.lineTo(m + 3, m);
      context.moveTo(m, m - 3);
      context.lineTo(m, m + 3);
      context.stroke();
    };
    draw();
    return pointer.subscribe(draw);
  }, [source, at, pointer, frame, line]);
  return (
    <Box
      sx={{
        width: SIDE,
        height: SIDE,
        border: 1,
        borderColor: 'divider',
        bgcolor: 'action.hover',
        overflow: 'hidden',
      }}
    >
      <canvas ref={canvas} width={SIDE} height={SIDE} role="img" aria-label="Close-up of the spot" />
    </Box>
  );
}
