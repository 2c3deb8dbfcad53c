import Box from '@mui/material/Box';
import { useTheme } from '@mui/material/styles';
import { area, line, scaleLinear } from 'd3';
import { useId, type KeyboardEvent, type PointerEvent } from 'react';
import type { Band } from '../../core/prescribe/judge.ts';
import { GRID_DEG } from '../../core/stroke/curves.ts';

export interface ChartCurve {
  /** On GRID_DEG, in the convention shown. */
  values: readonly number[];
  kind: 'measured' | 'predicted';
}

interface Props {
  label: string;
  unit: string;
  curves: readonly ChartCurve[];
  /** Spread of the measured curve between strokes (SD), on GRID_DEG. */
  spread?: readonly number[];
  /** Target for the lowest or highest point, in the convention shown, with the words on it. */
  target?: { band: Band; text: string } | null;
  cursorDeg: number | null;
  onCursor?: (thetaDeg: number) => void;
  height?: number;
}

const WIDTH = 520;
const M = { top: 14, right: 12, bottom: 34, left: 44 };
const PLACES = [
  { deg: 0, text: 'top' },
  { deg: 90, text: 'forward' },
  { deg: 180, text: 'bottom' },
  { deg: 270, text: 'back' },
  { deg: 360, text: 'top' },
];

/** One angle over the crank's turn: mean curve, its spread, its target band with a notch, and the cursor shared with the film. */
export function StrokeChart({
  label,
  unit,
  curves,
  spread,
  target,
  cursorDeg,
  onCursor,
  height = 250,
}: Props) {
  const { palette } = useTheme();
  const clipId = useId();
  const closed = curves.map((c) => ({ ...c, values: [...c.values, c.values[0]] }));
  const grid = [...GRID_DEG, 360];
  const sd = spread ? [...spread, spread[0]] : null;
  const lows = closed.flatMap((c) => c.values);
  const band = target?.band ?? { low: null, high: null };
  const all = [...lows, ...[band.low, band.high].filter((v): v is number => v !== null)];
  const low = Math.min(...all);
  const high = Math.max(...all);
  const pad = Math.max(2, 0.08 * (high - low));
  const x = scaleLinear([0, 360], [M.left, WIDTH - M.right]);
  const y = scaleLinear([low - pad, high + pad], [height - M.bottom, M.top]).nice(5);
  const path = line<number>(
    (_, i) => x(grid[i]),
    (v) => y(v),
  );
  const first = closed.find((c) => c.kind === 'measured');
  const ribbon =
    first && sd
      ? area<number>(
          (_, i) => x(grid[i]),
          (v, i) => y(v - 1.96 * sd[i]),
          (v, i) => y(v + 1.96 * sd[i]),
        )([...first.values])
      : null;
  const colour = { measured: palette.ink.measured, predicted: palette.ink.predicted };
  const move = (e: PointerEvent<SVGSVGElement>): void => {
    if (!onCursor || (e.pointerType !== 'mouse' && e.buttons === 0)) return;
    const box = e.currentTarget.getBoundingClientRect();
    onCursor(Math.min(359.9, Math.max(0, x.invert(((e.clientX - box.left) / box.width) * WIDTH))));
  };
  const keys = (e: KeyboardEvent<SVGSVGElement>): void => {
    const by = { ArrowLeft: -2.5, ArrowRight: 2.5, PageUp: 90, PageDown: -90 }[e.key];
    if (!by || !onCursor) return;
    e.preventDefault();
    onCursor(((((cursorDeg ?? 0) + by) % 360) + 360) % 360);
  };
  const bandTop = band.high === null ? y.range()[1] : y(band.high);
  const bandLow = band.low === null ? y.range()[0] : y(band.low);
  return (
    <Box
      sx={{
        '& svg': { width: '100%', height: 'auto', display: 'block', touchAction: 'none' },
        '& text': { fontSize: 13, fill: palette.text.secondary },
      }}
    >
      <svg
        viewBox={`0 0 ${WIDTH} ${height}`}
        role={onCursor ? 'slider' : 'img'}
        aria-label={
          onCursor ? `${label} over the crank’s turn: crank position` : `${label} over the crank’s turn`
        }
        {...(onCursor && {
          tabIndex: 0,
          'aria-valuemin': 0,
          'aria-valuemax': 360,
          'aria-valuenow': Math.round(cursorDeg ?? 0),
          'aria-valuetext': `${Math.round(cursorDeg ?? 0)} degrees from the top`,
        })}
        onPointerMove={move}
        onPointerDown={move}
        onKeyDown={keys}
      >
        <clipPath id={clipId}>
          <rect x={M.left} y={M.top} width={WIDTH - M.left - M.right} height={height - M.top - M.bottom} />
        </clipPath>
        {target && (
          <g>
            <rect
              x={M.left}
              width={WIDTH - M.left - M.right}
              y={bandTop}
              height={Math.max(0, bandLow - bandTop)}
              fill={palette.ink.band}
            />
            {[band.low, band.high].map((v) =>
              v === null ? null : (
                <path
                  key={v}
                  d={`M${M.left},${y(v)} H${WIDTH - M.right} M${M.left - 6},${y(v) - 4} L${M.left},${y(v)} L${M.left - 6},${y(v) + 4}`}
                  stroke={palette.text.secondary}
                  strokeWidth={1}
                  fill="none"
                />
              ),
            )}
            <text x={WIDTH - M.right - 4} y={bandTop + 15} textAnchor="end">
              {target.text}
            </text>
          </g>
        )}
        {y.ticks(5).map((t) => (
          <g key={t}>
            <line
              x1={M.left}
              x2={WIDTH - M.right}
              y1={y(t)}
              y2={y(t)}
              stroke={palette.ink.faint}
              strokeWidth={0.7}
            />
            <text x={M.left - 9} y={y(t) + 4} textAnchor="end">
              {t}
              {unit}
            </text>
          </g>
        ))}
        {PLACES.map((p) => (
          <g key={p.deg}>
            <line
              x1={x(p.deg)}
              x2={x(p.deg)}
              y1={M.top}
              y2={height - M.bottom + 5}
              stroke={palette.ink.faint}
            />
            <text
              x={x(p.deg)}
              y={height - 14}
              textAnchor={p.deg === 0 ? 'start' : p.deg === 360 ? 'end' : 'middle'}
            >
              {p.text}
            </text>
          </g>
        ))}
        <g clipPath={`url(#${clipId})`}>
          {ribbon && <path d={ribbon} fill={palette.ink.measured} opacity={0.2} />}
          {closed.map((c) => (
            <path
              key={c.kind}
              d={path(c.values) ?? ''}
              fill="none"
              stroke={colour[c.kind]}
              strokeWidth={2.2}
              strokeDasharray={c.kind === 'predicted' ? '7 5' : undefined}
            />
          ))}
        </g>
        {cursorDeg !== null && (
          <g>
            <line
              x1={x(cursorDeg)}
              x2={x(cursorDeg)}
              y1={M.top}
              y2={height - M.bottom}
              stroke={palette.text.primary}
              strokeWidth={1.2}
            />
            <path
              d={`M${x(cursorDeg) - 5},${height - M.bottom + 8} h10 l-5,-8 z`}
              fill={palette.text.primary}
            />
          </g>
        )}
      </svg>
    </Box>
  );
}
