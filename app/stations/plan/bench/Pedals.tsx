import Pause from '@mui/icons-material/Pause';
import PlayArrow from '@mui/icons-material/PlayArrow';
import Box from '@mui/material/Box';
import IconButton from '@mui/material/IconButton';
import Slider from '@mui/material/Slider';
import Typography from '@mui/material/Typography';
import { memo, useEffect, useRef } from 'react';

/** Where the crank stands, by hand or turning. */
export const Pedals = memo(function Pedals({
  playing,
  onPlaying,
  cursor,
  onCursor,
}: {
  playing: boolean;
  onPlaying: (playing: boolean) => void;
  cursor: number;
  onCursor: (deg: number) => void;
}) {
  return (
    <Box sx={{ display: 'flex', alignItems: 'center', gap: 1.5 }}>
      <IconButton aria-label={playing ? 'Stop pedalling' : 'Pedal'} onClick={() => onPlaying(!playing)}>
        {playing ? <Pause /> : <PlayArrow />}
      </IconButton>
      <Slider
        aria-label="Crank angle"
        size="small"
        value={cursor}
        min={0}
        max={357.5}
        step={2.5}
        onChange={(_, v) => {
          onPlaying(false);
          onCursor(v as number);
        }}
      />
      <Typography sx={{ width: 48, textAlign: 'right' }}>{cursor.toFixed(0)}°</Typography>
    </Box>
  );
});

/** The crank turns at the filmed cadence, a third of its speed so that the eye can follow. */
export function usePedalling(
  on: boolean,
  cadenceRpm: number,
  set: (update: (deg: number) => number) => void,
): void {
  const last = useRef(0);
  useEffect(() => {
    if (!on) return undefined;
    let frame = 0;
    last.current = performance.now();
    const tick = (now: number): void => {
      const by = ((now - last.current) / 1000) * 6 * cadenceRpm * 0.33;
      last.current = now;
      set((deg) => (deg + by) % 360);
      frame = requestAnimationFrame(tick);
    };
    frame = requestAnimationFrame(tick);
    return () => cancelAnimationFrame(frame);
  }, [on, cadenceRpm, set]);
}
