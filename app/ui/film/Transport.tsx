import Pause from '@mui/icons-material/Pause';
import Play from '@mui/icons-material/PlayArrow';
import StepBack from '@mui/icons-material/ChevronLeft';
import StepOn from '@mui/icons-material/ChevronRight';
import Box from '@mui/material/Box';
import IconButton from '@mui/material/IconButton';
import MenuItem from '@mui/material/MenuItem';
import Select from '@mui/material/Select';
import Slider from '@mui/material/Slider';
import Typography from '@mui/material/Typography';
import { useEffect } from 'react';
import { isTyping } from '../typing';
import { SPEEDS, type Clip } from './useClip';
import { ZoomButtons, type Zoom } from './zoom';

/** Steps, scrubs and plays the film. Keys: , and . a frame; < and > ten; Home, End; Space plays; [ and ] change the speed. */
export function Transport({ clip, zoom }: { clip: Clip; zoom: Zoom }) {
  const { state, shown, playing, speed, goTo, step, togglePlay, setSpeed } = clip;
  useEffect(() => {
    const onKey = (e: KeyboardEvent): void => {
      if (e.ctrlKey || e.metaKey || e.altKey || isTyping(e)) return;
      const at = SPEEDS.indexOf(speed as (typeof SPEEDS)[number]);
      const acts: Record<string, () => void> = {
        ',': () => step(-1),
        '.': () => step(1),
        '<': () => step(-10),
        '>': () => step(10),
        Home: () => goTo(0),
        End: () => goTo(1e9),
        ' ': togglePlay,
        '[': () => setSpeed(SPEEDS[Math.max(0, at - 1)]),
        ']': () => setSpeed(SPEEDS[Math.min(SPEEDS.length - 1, at + 1)]),
      };
      const act = acts[e.key];
      if (!act) return;
      e.preventDefault();
      act();
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [speed, step, goTo, togglePlay, setSpeed]);
  if (state.status !== 'ready') return <Box sx={{ height: 56 }} />;
  const { frames } = state.info;
  return (
    <Box
      sx={{
        display: 'flex',
        flexWrap: { xs: 'wrap', md: 'nowrap' },
        alignItems: 'center',
        gap: 0.5,
        px: 1,
        minHeight: 56,
      }}
      role="group"
      aria-label="Film"
    >
      <IconButton aria-label="Previous frame (,)" onClick={() => step(-1)}>
        <StepBack />
      </IconButton>
      <IconButton aria-label={playing ? 'Pause (Space)' : 'Play (Space)'} onClick={togglePlay}>
        {playing ? <Pause /> : <Play />}
      </IconButton>
      <IconButton aria-label="Next frame (.)" onClick={() => step(1)}>
        <StepOn />
      </IconButton>
      <Slider
        aria-label="Frame"
        size="small"
        min={0}
        max={frames - 1}
        value={shown}
        onChange={(_, v) => goTo(v as number)}
        // On a phone it has a line of its own, as wide as the film.
        sx={{ mx: 2, flex: { xs: '1 0 calc(100% - 32px)', sm: 1 }, order: { xs: -1, sm: 0 }, minWidth: 90 }}
      />
      <Typography variant="body2" sx={{ minWidth: 178, textAlign: 'right' }} data-testid="frame-readout">
        frame {shown} of {frames - 1} · {state.tS[shown]?.toFixed(4)} s
      </Typography>
      <Select
        variant="standard"
        value={speed}
        onChange={(e) => setSpeed(Number(e.target.value))}
        inputProps={{ 'aria-label': 'Playing speed' }}
        sx={{ ml: 1.5, minWidth: 62 }}
      >
        {SPEEDS.map((s) => (
          <MenuItem key={s} value={s}>
            × {s}
          </MenuItem>
        ))}
      </Select>
      <ZoomButtons zoom={zoom} />
    </Box>
  );
}
