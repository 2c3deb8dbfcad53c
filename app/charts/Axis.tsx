import { useTheme } from '@mui/material/styles';

export interface Tick {
  /** Where it stands along the axis, px of the drawing. */
  at: number;
  text: string | number;
  anchor?: 'start' | 'middle' | 'end';
}

/**
 * The ticks of an axis with their words: an upright one at `at` from the left, or one along the bottom at `at` from the top. Lines over
 * the drawing from one edge to the other where `grid` says how far.
 */
export function Axis({
  side,
  at,
  ticks,
  grid = null,
}: {
  side: 'left' | 'bottom';
  at: number;
  ticks: readonly Tick[];
  /** From where to where each tick's line runs, px; null: short ticks alone along the bottom, none upright. */
  grid?: readonly [from: number, to: number] | null;
}) {
  const { palette } = useTheme();
  const upright = side === 'left';
  const [from, to] = grid ?? (upright ? [at, at] : [at + 2, at + 8]);
  return ticks.map((t) => (
    <g key={t.at}>
      {from !== to && (
        <line
          {...(upright ? { x1: from, x2: to, y1: t.at, y2: t.at } : { x1: t.at, x2: t.at, y1: from, y2: to })}
          stroke={grid ? palette.ink.faint : palette.text.secondary}
          strokeWidth={grid ? 0.7 : 1}
        />
      )}
      <text
        {...(upright ? { x: at - 9, y: t.at + 4 } : { x: t.at, y: at + 22 })}
        textAnchor={t.anchor ?? (upright ? 'end' : 'middle')}
      >
        {t.text}
      </text>
    </g>
  ));
}
