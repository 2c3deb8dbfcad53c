import Box from '@mui/material/Box';
import { useTheme } from '@mui/material/styles';
import Typography from '@mui/material/Typography';
import { useEffect, useRef } from 'react';
import { LANDMARKS, plainName, type Landmark } from '../../../core/landmarks/landmarks.ts';
import type { Doubt, HiddenStretch } from '../../../core/kinematics/review.ts';
import type { Tracks } from '../../../core/tracking/tracks.ts';

const HEIGHT = 18;

/** One strip a landmark along the film: tall where it is surely seen, low where doubtful, empty where lost. */
export function TrackStrips({
  tracks,
  frame,
  hidden,
  doubts,
  selected,
  onGo,
  onSelect,
}: {
  tracks: Tracks;
  frame: number;
  hidden: readonly HiddenStretch[];
  doubts: readonly Doubt[];
  selected: Landmark | null;
  onGo: (frame: number) => void;
  onSelect: (key: Landmark) => void;
}) {
  return (
    <Box aria-label="Confidence of each landmark along the film" role="group">
      <Typography variant="overline" color="textSecondary">
        Seen, along the film
      </Typography>
      {LANDMARKS.filter((key) => tracks.landmarks[key]).map((key) => (
        <Strip
          key={key}
          name={plainName(key)}
          confidence={tracks.landmarks[key].confidence}
          frame={frame}
          hidden={hidden.filter((h) => h.landmark === key)}
          doubts={doubts.filter((d) => d.landmark === key)}
          selected={selected === key}
          onGo={onGo}
          onSelect={() => onSelect(key)}
        />
      ))}
    </Box>
  );
}

function Strip({
  name,
  confidence,
  frame,
  hidden,
  doubts,
  selected,
  onGo,
  onSelect,
}: {
  name: string;
  confidence: Float32Array;
  frame: number;
  hidden: readonly HiddenStretch[];
  doubts: readonly Doubt[];
  selected: boolean;
  onGo: (frame: number) => void;
  onSelect: () => void;
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
  const share = (i: number): string => `${(100 * i) / Math.max(1, confidence.length - 1)}%`;
  const last = confidence.length - 1;
  return (
    <Box
      sx={{ display: 'grid', gridTemplateColumns: '88px 1fr 56px', alignItems: 'center', gap: 1, mb: 0.75 }}
    >
      <Box
        component="button"
        aria-pressed={selected}
        onClick={onSelect}
        sx={{
          all: 'unset',
          cursor: 'pointer',
          typography: 'body2',
          fontWeight: selected ? 640 : 400,
          color: selected ? 'primary.main' : 'text.primary',
          '&:focus-visible': { outline: '2px solid', outlineColor: 'primary.main' },
        }}
      >
        {name}
      </Box>
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
        {hidden.map((h) => (
          <Box
            key={h.from}
            title="hidden"
            sx={{
              position: 'absolute',
              top: 0,
              bottom: 0,
              left: share(h.from),
              width: `calc(${share(h.to - h.from)} + 2px)`,
              backgroundImage: (t) =>
                `repeating-linear-gradient(45deg, ${t.palette.text.secondary} 0 1px, transparent 1px 5px)`,
            }}
          />
        ))}
        {doubts.map((d) => (
          <Box
            key={`${d.kind}${d.from}`}
            sx={{
              position: 'absolute',
              bottom: '-5px',
              left: share(d.from),
              width: `max(4px, ${share(d.to - d.from)})`,
              height: '4px',
              bgcolor: 'warning.main',
            }}
          />
        ))}
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
