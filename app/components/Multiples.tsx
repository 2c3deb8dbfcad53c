import Box from '@mui/material/Box';
import { useTheme } from '@mui/material/styles';
import Typography from '@mui/material/Typography';
import { line, scaleLinear } from 'd3';
import { ANGLE_KEYS, ANGLE_NAMES, type AngleKey } from '../../core/stroke/angles.ts';
import { GRID_DEG } from '../../core/stroke/curves.ts';
import type { Reading } from '../../core/stroke/read.ts';
import { degrees, quoted, type Convention } from './angleText';

const W = 110;
const H = 46;
const x = scaleLinear([0, 360], [1, W - 1]);

/** All angles at a glance, each small and on its own scale; a tap brings one into the large chart. */
export function Multiples({
  reading,
  convention,
  selected,
  cursorDeg,
  onSelect,
}: {
  reading: Reading;
  convention: Convention;
  selected: AngleKey;
  cursorDeg: number | null;
  onSelect: (key: AngleKey) => void;
}) {
  const { palette } = useTheme();
  return (
    <Box
      role="group"
      aria-label="Angle shown"
      sx={{ display: 'grid', gridTemplateColumns: 'repeat(auto-fill, minmax(108px, 1fr))', gap: 0.75, mb: 1 }}
    >
      {ANGLE_KEYS.map((key) => {
        const values = reading.angles[key].meanOnGrid.map((v) => quoted(key, v, convention));
        const [low, high] = [Math.min(...values), Math.max(...values)];
        const y = scaleLinear([low, high === low ? low + 1 : high], [H - 4, 4]);
        const path = line<number>(
          (_, i) => x(GRID_DEG[i]),
          (v) => y(v),
        )(values);
        return (
          <Box
            key={key}
            component="button"
            aria-pressed={key === selected}
            onClick={() => onSelect(key)}
            sx={{
              all: 'unset',
              cursor: 'pointer',
              px: 0.75,
              py: 0.5,
              border: 1,
              borderColor: key === selected ? 'primary.main' : 'divider',
              boxShadow: key === selected ? (t) => `inset 0 -3px ${t.palette.primary.main}` : 'none',
              '&:focus-visible': { outline: '2px solid', outlineColor: 'primary.main' },
            }}
          >
            <Typography variant="body2" component="span" sx={{ display: 'block', fontWeight: 560 }}>
              {ANGLE_NAMES[key]}
            </Typography>
            <svg viewBox={`0 0 ${W} ${H}`} width="100%" aria-hidden>
              <path d={path ?? ''} fill="none" stroke={palette.ink.measured} strokeWidth={1.6} />
              {cursorDeg !== null && (
                <line x1={x(cursorDeg)} x2={x(cursorDeg)} y1={0} y2={H} stroke={palette.text.primary} />
              )}
            </svg>
            <Typography component="span" sx={{ fontSize: '0.75rem', color: 'text.secondary' }}>
              {degrees(low, 0)} to {degrees(high, 0)}
            </Typography>
          </Box>
        );
      })}
    </Box>
  );
}
