import Box from '@mui/material/Box';
import { useTheme } from '@mui/material/styles';
import Typography from '@mui/material/Typography';
import { line, scaleLinear } from 'd3';
import { GRID_DEG } from '../../../core/kinematics/curves.ts';

const W = 110;
const H = 46;
const x = scaleLinear([0, 360], [1, W - 1]);

/** One small curve on GRID_DEG, as it is quoted. */
export interface SmallCurve<K extends string> {
  key: K;
  name: string;
  unit: '°' | 'mm';
  values: readonly number[];
}

/** No curve is stretched beyond this, so that a wave of a degree does not look like a swing. */
const LEAST_SPAN = { '°': 8, mm: 15 };

/** Whole numbers, without a minus before nothing. */
const whole = (v: number): string => String(Math.round(v) || 0).replace('-', '−');

/** All curves at a glance, each small; a tap brings one into the large chart. */
export function Multiples<K extends string>({
  curves,
  selected,
  cursorDeg,
  onSelect,
}: {
  curves: readonly SmallCurve<K>[];
  selected: K;
  cursorDeg: number | null;
  onSelect: (key: K) => void;
}) {
  const { palette } = useTheme();
  return (
    <Box
      role="group"
      aria-label="Curve shown"
      sx={{ display: 'grid', gridTemplateColumns: 'repeat(auto-fill, minmax(108px, 1fr))', gap: 0.75, mb: 1 }}
    >
      {curves.map(({ key, name, unit, values }) => {
        const [low, high] = [Math.min(...values), Math.max(...values)];
        const spare = Math.max(0, LEAST_SPAN[unit] - (high - low)) / 2;
        const y = scaleLinear([low - spare, high + spare], [H - 4, 4]);
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
              {name}
            </Typography>
            <svg viewBox={`0 0 ${W} ${H}`} width="100%" aria-hidden>
              <path d={path ?? ''} fill="none" stroke={palette.ink.measured} strokeWidth={1.6} />
              {cursorDeg !== null && (
                <line x1={x(cursorDeg)} x2={x(cursorDeg)} y1={0} y2={H} stroke={palette.text.primary} />
              )}
            </svg>
            <Typography component="span" sx={{ fontSize: '0.75rem', color: 'text.secondary' }}>
              {`${whole(low)} to ${whole(high)}${unit === 'mm' ? ' mm' : '°'}`}
            </Typography>
          </Box>
        );
      })}
    </Box>
  );
}
