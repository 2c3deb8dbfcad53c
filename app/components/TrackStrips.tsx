import Box from '@mui/material/Box';
import { useTheme } from '@mui/material/styles';
import Typography from '@mui/material/Typography';
import { useEffect, useRef } from 'react';
import { LANDMARK_GUIDES } from '../../core/stroke/landmarks.ts';
import type { Tracks } from '../../core/stroke/tracks.ts';

const HEIGHT = 18;

/** One strip a landmark along the film: tall where it is surely seen, low where doubtful, empty where lost. */
export function TrackStrips({
  tracks,
  frame,
  onGo,
}: {
  tracks: Tracks;
  frame: number;
  onGo: (frame: number) => void;
}) {
  return (
    <Box aria-label="Confidence of each landmark along the film" role="group">
      <Typography variant="overline" color="textSecondary">
        Seen, along the film
      </Typography>
      {LANDMARK_GUIDES.filter((g) => tracks.landmarks[g.key]).map((g) => (
        <Strip
          key={g.key}
          name={g.plain}
          confidence={tracks.landmarks[g.key].confidence}
          frame={frame}
          onGo={onGo}
        />
      ))}
    </Box>
  );
}

function Strip({
  name,
  confidence,
  frame,
  onGo,
}: {
  name: string;
  confidence: Float32Array;
  frame: number;
  onGo: (frame: number) => void;
}) {
  const canvas = useRef<HTMLCanvasElement | null>(null);
  const { palette } = useTheme();
  useEffect(() => {
    const element = canvas.current;
    const context = element?.getContext('2d');
    if (!element || !context) return;
    element.width = confidence.length;
    context.fillStyle = palette.text.primary;
    confidence.forEach((c, i) => {
      if (c > 0) context.fillRect(i, HEIGHT * (1 - c), 1, HEIGHT * c);
    });
  }, [confidence, palette.text.primary]);
  const lost = confidence.reduce((n, c) => n + (c > 0 ? 0 : 1), 0);
  const last = confidence.length - 1;
  return (
    <Box
      sx={{ display: 'grid', gridTemplateColumns: '64px 1fr 64px', alignItems: 'center', gap: 1, mb: 0.5 }}
    >
      <Typography variant="body2">{name}</Typography>
      <Box
        sx={{
          position: 'relative',
          height: HEIGHT,
          borderBottom: 1,
          borderColor: 'text.secondary',
          cursor: 'pointer',
        }}
        onClick={(e) => {
          const box = e.currentTarget.getBoundingClientRect();
          onGo(((e.clientX - box.left) / box.width) * last);
        }}
      >
        <canvas
          ref={canvas}
          height={HEIGHT}
          style={{ width: '100%', height: '100%', opacity: 0.55, display: 'block' }}
          aria-hidden
        />
        <Box
          sx={{
            position: 'absolute',
            top: '-2px',
            bottom: '-2px',
            width: '2px',
            bgcolor: 'primary.main',
            left: `${(100 * frame) / Math.max(1, last)}%`,
          }}
        />
      </Box>
      <Typography variant="body2" color="textSecondary" data-testid={`lost-${name}`}>
        {lost === 0 ? 'all' : `${lost} not`}
      </Typography>
    </Box>
  );
}
