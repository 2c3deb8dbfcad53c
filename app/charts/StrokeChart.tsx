import Box from '@mui/material/Box';
import { useTheme } from '@mui/material/styles';
import { area, line, scaleLinear, type ScaleLinear } from 'd3';
import { memo, useId, useMemo, type KeyboardEvent, type PointerEvent } from 'react';
import type { Band } from '../../core/protocol/judge.ts';
import { GRID_DEG } from '../../core/kinematics/curves.ts';
import { Axis, type Tick } from './Axis';
import { HiddenTable } from './HiddenTable';
import { TargetBand } from './TargetBand';

interface Drawn {
  /** The measured curve on GRID_DEG, in the convention shown. */
  measured: readonly number[];
  /** Its spread between strokes (SD), on GRID_DEG. */
  spread?: readonly number[];
  /** 95 % half-width of the mean curve, on GRID_DEG. */
  sure?: readonly number[];
  /** What the measured curve is called beside others. */
  name?: string;
  /** Target for the lowest or highest point, in the convention shown, with the words on it. */
  target?: { band: Band; text: string } | null;
  unit: string;
  /** Curves of other takes on GRID_DEG, each shown by its own dash. */
  compared?: readonly { name: string; values: readonly number[] }[];
  /** Values that the axis must hold beside the measured curve, so that it stands still while a predicted one moves. */
  hold?: readonly number[];
  height?: number;
}

interface Props extends Drawn {
  label: string;
  /** Predicted curve on GRID_DEG, drawn dashed over the measured one. */
  predicted?: readonly number[] | null;
  cursorDeg: number | null;
  onCursor?: (thetaDeg: number) => void;
}

const WIDTH = 520;
const HEIGHT = 250;
const M = { top: 14, right: 12, bottom: 34, left: 56 };
const PLACES = [
  { deg: 0, text: 'top' },
  { deg: 90, text: 'forward' },
  { deg: 180, text: 'bottom' },
  { deg: 270, text: 'back' },
  { deg: 360, text: 'top' },
];
const GRID = [...GRID_DEG, 360];

const xOf = scaleLinear([0, 360], [M.left, WIDTH - M.right]);

const CRANK_TICKS = PLACES.map(({ deg, text }): Tick => ({
  at: xOf(deg),
  text,
  anchor: deg === 0 ? 'start' : deg === 360 ? 'end' : 'middle',
}));

const COMPARED_DASHES = ['9 4', '3 4', '12 3 2 3'] as const;

/** The dash by which a compared curve is recognised in the chart; nothing for one that is not there. */
export const Dash = ({ index }: { index: number }) =>
  index < 0 ? null : (
    <svg width="34" height="8" aria-hidden style={{ verticalAlign: 'middle', flexShrink: 0 }}>
      <line
        x1="0"
        x2="34"
        y1="4"
        y2="4"
        stroke="currentColor"
        strokeWidth="1.6"
        strokeDasharray={COMPARED_DASHES[index]}
      />
    </svg>
  );

function yScale({ measured, target, hold, compared, height = HEIGHT }: Drawn): ScaleLinear<number, number> {
  const band = target?.band ?? { low: null, high: null };
  const all = [
    ...measured,
    ...(compared ?? []).flatMap((b) => b.values).filter(Number.isFinite),
    ...(hold ?? []).filter(Number.isFinite),
    ...[band.low, band.high].filter((v): v is number => v !== null),
  ];
  const low = Math.min(...all);
  const high = Math.max(...all);
  const pad = Math.max(2, 0.08 * (high - low));
  return scaleLinear([low - pad, high + pad], [height - M.bottom, M.top]).nice(5);
}

const closed = (values: readonly number[]): number[] => [...values, values[0]];

const curvePath = (values: readonly number[], y: ScaleLinear<number, number>): string =>
  line<number>(
    (_, i) => xOf(GRID[i]),
    (v) => y(v),
  )(closed(values)) ?? '';

/** What stands still: axes, target band, the measured curve and its spread. Drawn anew only when one of them changes. */
const Still = memo(function Still(props: Drawn) {
  const { measured, spread, sure, target, unit, compared, height = HEIGHT } = props;
  const { palette } = useTheme();
  const clipId = useId();
  const y = yScale(props);
  const sd = spread ? closed(spread) : null;
  const ribbonOf = (half: readonly number[]) =>
    area<number>(
      (_, i) => xOf(GRID[i]),
      (v, i) => y(v - half[i]),
      (v, i) => y(v + half[i]),
    )(closed(measured));
  const ribbon = sd && ribbonOf(sd.map((v) => 1.96 * v));
  const narrow = sure && ribbonOf(closed(sure));
  const ticks = y.ticks(5);
  return (
    <svg viewBox={`0 0 ${WIDTH} ${height}`} aria-hidden="true">
      <clipPath id={clipId}>
        <rect x={M.left} y={M.top} width={WIDTH - M.left - M.right} height={height - M.top - M.bottom} />
      </clipPath>
      {target && (
        <TargetBand
          band={target.band}
          scale={y}
          values="upright"
          extent={[y.range()[0], y.range()[1]]}
          across={[M.left, WIDTH - M.right]}
          text={target.text}
        />
      )}
      <Axis
        side="left"
        at={M.left}
        grid={[M.left, WIDTH - M.right]}
        ticks={ticks.map((t, i) => ({
          at: y(t),
          text: unit === '°' ? `${t}°` : i === ticks.length - 1 ? `${t}${unit}` : t,
        }))}
      />
      <Axis side="bottom" at={height - M.bottom} grid={[M.top, height - M.bottom + 5]} ticks={CRANK_TICKS} />
      <g clipPath={`url(#${clipId})`}>
        {ribbon && <path d={ribbon} fill={palette.ink.measured} opacity={0.16} />}
        {narrow && <path d={narrow} fill={palette.ink.measured} opacity={0.34} />}
        <path d={curvePath(measured, y)} fill="none" stroke={palette.ink.measured} strokeWidth={2.2} />
        {compared?.map((b, k) => (
          <path
            key={`${k} ${b.name}`}
            d={b.values.length > 0 ? curvePath(b.values, y) : undefined}
            fill="none"
            stroke={palette.text.primary}
            strokeWidth={1.6}
            strokeDasharray={COMPARED_DASHES[k]}
          />
        ))}
      </g>
    </svg>
  );
});

/** The curve in figures, every 15° of the crank. */
const AsTable = memo(function AsTable({
  label,
  measured,
  sure,
  compared = [],
  unit,
  name = 'Mean',
}: Pick<Drawn, 'measured' | 'sure' | 'compared' | 'unit' | 'name'> & { label: string }) {
  const figure = (v: number | undefined): string => v?.toFixed(1) ?? '';
  return (
    <HiddenTable
      caption={`${label} over the crank’s turn, ${unit}`}
      columns={[
        'Crank, degrees from the top',
        name,
        ...(sure ? ['± of the mean'] : []),
        ...compared.map((b) => b.name),
      ]}
      rows={Array.from({ length: 24 }, (_, k) => 6 * k).map((i) => [
        GRID_DEG[i],
        figure(measured[i]),
        ...(sure ? [figure(sure[i])] : []),
        ...compared.map((b) => figure(b.values[i])),
      ])}
    />
  );
});

/**
 * One angle over the crank's turn: mean curve, its spread, its target band with a notch, a predicted curve, and the cursor shared
 * with the film. What moves lies on a drawing of its own over the rest. Give arrays that stay the same while nothing changes.
 */
export function StrokeChart({ label, predicted, cursorDeg, onCursor, ...drawn }: Props) {
  const { palette } = useTheme();
  const { measured, target, hold, unit, spread, sure, name, compared, height = HEIGHT } = drawn;
  const y = useMemo(
    () => yScale({ measured, target, hold, compared, unit, height }),
    [measured, target, hold, compared, unit, height],
  );
  const move = (e: PointerEvent<SVGSVGElement>): void => {
    if (!onCursor || (e.pointerType !== 'mouse' && e.buttons === 0)) return;
    const box = e.currentTarget.getBoundingClientRect();
    onCursor(Math.min(359.9, Math.max(0, xOf.invert(((e.clientX - box.left) / box.width) * WIDTH))));
  };
  const keys = (e: KeyboardEvent<SVGSVGElement>): void => {
    const by = { ArrowLeft: -2.5, ArrowRight: 2.5, PageUp: 90, PageDown: -90 }[e.key];
    if (!by || !onCursor) return;
    e.preventDefault();
    onCursor(((((cursorDeg ?? 0) + by) % 360) + 360) % 360);
  };
  return (
    <Box
      sx={{
        position: 'relative',
        contain: 'layout paint',
        '& svg': { width: '100%', height: 'auto', display: 'block', touchAction: 'none' },
        '& svg + svg': { position: 'absolute', inset: 0, willChange: 'transform' },
        '& text': { fontSize: 13, fill: palette.text.secondary },
      }}
    >
      <Still {...{ measured, spread, sure, target, hold, compared, unit, height }} />
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
        {predicted && (
          <path
            d={curvePath(predicted, y)}
            fill="none"
            stroke={palette.ink.predicted}
            strokeWidth={2.2}
            strokeDasharray="7 5"
          />
        )}
        {cursorDeg !== null && (
          <g>
            <line
              x1={xOf(cursorDeg)}
              x2={xOf(cursorDeg)}
              y1={M.top}
              y2={height - M.bottom}
              stroke={palette.text.primary}
              strokeWidth={1.2}
            />
            <path
              d={`M${xOf(cursorDeg) - 5},${height - M.bottom + 8} h10 l-5,-8 z`}
              fill={palette.text.primary}
            />
          </g>
        )}
      </svg>
      <AsTable {...{ label, measured, sure, compared, unit, name }} />
    </Box>
  );
}
