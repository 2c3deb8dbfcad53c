import Pause from '@mui/icons-material/Pause';
import Play from '@mui/icons-material/PlayArrow';
import Box from '@mui/material/Box';
import IconButton from '@mui/material/IconButton';
import MenuItem from '@mui/material/MenuItem';
import Select from '@mui/material/Select';
import Slider from '@mui/material/Slider';
import Typography from '@mui/material/Typography';
import { memo, useCallback, useEffect, useImperativeHandle, useRef, useState } from 'react';
import type { Take } from '../../../core/records/types.ts';
import type { PhasePair } from '../../../core/kinematics/crankPhase.ts';
import { ClipView } from '../../ui/film/ClipView';
import { isTyping } from '../../ui/typing';
import { SPEEDS, useClip, type Clip } from '../../ui/film/useClip';

/** Degrees of the crank by a key. */
const STEP_DEG = 5;
/** Shown while playing, and asked for ahead of time. */
const PICTURES_PER_S = 60;
const REQUESTED_AHEAD = 5;

/** Both films' pictures for a crank angle, on their way; null for a film whose frame stands already. */
interface Coming {
  deg: number;
  frames: readonly [number, number];
  pictures: (ImageData | null)[] | null;
}

/** One of the two films; drawn by itself, so that a frame of one does not draw the other anew. */
const PhaseFilm = memo(function PhaseFilm({
  take,
  name,
  film,
}: {
  take: Take;
  name: string;
  film: React.RefObject<Clip | null>;
}) {
  const clip = useClip(take, take.markedFrame);
  useImperativeHandle(film, () => clip, [clip]);
  return (
    <Box sx={{ minWidth: 0, display: 'flex', flexDirection: 'column', aspectRatio: '16 / 10' }}>
      <Typography variant="body2" color="textSecondary">
        {name}: {take.clipName}, frame <span data-testid={`phase-${name}`}>{clip.shown}</span>
      </Typography>
      <ClipView clip={clip} label={`The film ${name}`} />
    </Box>
  );
});

/** Both films in crank phase: at every moment both cranks stand alike, whatever the cadences. Space plays, arrows step. */
export function PhasePlayer({
  before,
  after,
  pair,
  deg,
  onDeg,
}: {
  before: Take;
  after: Take;
  pair: PhasePair;
  deg: number;
  onDeg: (deg: number) => void;
}) {
  const films = [useRef<Clip | null>(null), useRef<Clip | null>(null)] as const;
  const [playing, setPlaying] = useState(false);
  const [speed, setSpeed] = useState(0.5);
  const at = useRef(deg);
  const [firstFilm, secondFilm] = films;
  const show = useCallback(
    (to: number): void => {
      at.current = to;
      const frames = pair.frameAt(to);
      firstFilm.current?.goTo(frames[0]);
      secondFilm.current?.goTo(frames[1]);
    },
    [pair, firstFilm, secondFilm],
  );
  const goTo = useCallback(
    (to: number): void => {
      const held = Math.min(pair.lengthDeg, Math.max(0, to));
      show(held);
      onDeg(held);
    },
    [pair, show, onDeg],
  );
  // A crank angle pointed at on a chart is shown by both films; while they play they lead.
  useEffect(() => {
    if (!playing && deg !== at.current) show(deg);
  }, [deg, playing, show]);
  useEffect(() => show(at.current), [show]);
  useEffect(() => {
    if (!playing) return undefined;
    const films = [firstFilm.current, secondFilm.current];
    if (!films[0] || !films[1]) return undefined;
    const stepDeg = (pair.degPerS * speed) / PICTURES_PER_S;
    const queue: Coming[] = [];
    let [requested, frames] = [at.current, pair.frameAt(at.current)];
    const ask = (): void => {
      // Round again from the first top, without a stop.
      requested =
        requested + stepDeg >= pair.lengthDeg ? requested + stepDeg - pair.lengthDeg : requested + stepDeg;
      const next = pair.frameAt(requested);
      const coming: Coming = { deg: requested, frames: next, pictures: null };
      // Slower than the film a frame stands for several steps: it is asked for once.
      void Promise.all(films.map((f, k) => (next[k] === frames[k] ? null : f!.ahead(next[k])))).then(
        (got) => {
          coming.pictures = got;
        },
      );
      frames = next;
      queue.push(coming);
    };
    let [last, reported] = [0, 0];
    let handle = requestAnimationFrame(function tick(t: number): void {
      handle = requestAnimationFrame(tick);
      // Some are always on their way, so that decoding goes on while one is shown.
      while (queue.length < REQUESTED_AHEAD) ask();
      const [first] = queue;
      // A machine that can't keep up plays slower, both films together, never by leaps.
      if (!first.pictures || t - last < 0.75 * (1000 / PICTURES_PER_S)) return;
      queue.shift();
      last = t;
      at.current = first.deg;
      // The drawing beside follows some times a second: films come first.
      const tell = t - reported > 200;
      first.pictures.forEach((picture, k) => picture && films[k]!.paint(first.frames[k], picture, tell));
      if (tell) {
        reported = t;
        onDeg(at.current);
      }
    });
    return () => {
      cancelAnimationFrame(handle);
      show(at.current);
      onDeg(at.current);
    };
  }, [playing, speed, pair, show, onDeg, firstFilm, secondFilm]);
  useEffect(() => {
    const onKey = (e: KeyboardEvent): void => {
      if (e.ctrlKey || e.metaKey || e.altKey || isTyping(e)) return;
      const by = { '.': STEP_DEG, ',': -STEP_DEG, '>': 90, '<': -90 }[e.key];
      if (by) goTo(at.current + by);
      else if (e.key === ' ') setPlaying((p) => !p);
      else return;
      e.preventDefault();
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [goTo]);
  const turns = pair.lengthDeg / 360;
  return (
    <Box component="section" aria-label="Both films in crank phase">
      <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 1 }}>
        <PhaseFilm take={before} name="before" film={firstFilm} />
        <PhaseFilm take={after} name="after" film={secondFilm} />
      </Box>
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 1 }}>
        <IconButton
          aria-label={playing ? 'Pause (Space)' : 'Play (Space)'}
          onClick={() => setPlaying(!playing)}
        >
          {playing ? <Pause /> : <Play />}
        </IconButton>
        <Slider
          aria-label="Crank, both films"
          size="small"
          min={0}
          max={pair.lengthDeg}
          step={1}
          value={deg}
          valueLabelFormat={(v) => `${Math.round(v % 360)}°`}
          onChange={(_, v) => goTo(v as number)}
          sx={{ flex: 1, mx: 1 }}
        />
        <Typography variant="body2" sx={{ minWidth: 190, textAlign: 'right' }} data-testid="phase-readout">
          turn {Math.min(turns, Math.floor(deg / 360) + 1)} of {turns}, crank {Math.round(deg % 360)}°
        </Typography>
        <Select
          variant="standard"
          value={speed}
          onChange={(e) => setSpeed(Number(e.target.value))}
          inputProps={{ 'aria-label': 'Playing speed' }}
          sx={{ minWidth: 62 }}
        >
          {SPEEDS.map((s) => (
            <MenuItem key={s} value={s}>
              × {s}
            </MenuItem>
          ))}
        </Select>
      </Box>
    </Box>
  );
}
