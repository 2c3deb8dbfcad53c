import Box from '@mui/material/Box';
import { useTheme } from '@mui/material/styles';
import { lineRadial, scaleLinear, curveLinearClosed } from 'd3';
import { useMemo, type PointerEvent } from 'react';
import { RAD_PER_DEG } from '../../../core/math/angles.ts';
import { HiddenTable } from '../../charts/HiddenTable';
import { GRID_DEG } from '../../../core/kinematics/curves.ts';

interface Props {
  label: string;
  values: readonly number[];
  spread: readonly number[];
  cursorDeg: number | null;
  onCursor: (thetaDeg: number) => void;
  /** The rider faces left in the film: the crank then turns the other way round here too. */
  mirrored: boolean;
}

const R = 100;
const COLUMNS = ['Hour', 'Mean, degrees'];

/** The same curve on the crank's own clock: the crank's position round the dial, the angle outwards. */
export function StrokeClock({ label, values, spread, cursorDeg, onCursor, mirrored }: Props) {
  const { palette } = useTheme();
  // The cursor moves many times a second; these figures do not.
  const hours = useMemo(
    () => Array.from({ length: 12 }, (_, h) => [h === 0 ? 12 : h, values[12 * h].toFixed(1)]),
    [values],
  );
  const low = Math.min(...values);
  const high = Math.max(...values);
  const r = scaleLinear([low - 0.35 * Math.max(4, high - low), high], [0, R]);
  const turn = mirrored ? -1 : 1;
  const shape = (offset: number): string =>
    lineRadial<number>()
      .angle((_, i) => turn * GRID_DEG[i] * RAD_PER_DEG)
      .radius((v, i) => Math.max(0, r(v + offset * 1.96 * spread[i])))
      .curve(curveLinearClosed)([...values]) ?? '';
  const rings = r.ticks(4).filter((t) => r(t) > 12);
  const hand = cursorDeg === null ? null : turn * cursorDeg * RAD_PER_DEG;
  const move = (e: PointerEvent<SVGSVGElement>): void => {
    if (e.pointerType !== 'mouse' && e.buttons === 0) return;
    const box = e.currentTarget.getBoundingClientRect();
    const dx = e.clientX - box.left - box.width / 2;
    const dy = e.clientY - box.top - box.height / 2;
    if (Math.hypot(dx, dy) < 12) return;
    onCursor(((((turn * Math.atan2(dx, -dy)) / RAD_PER_DEG) % 360) + 360) % 360);
  };
  const front = mirrored ? -1 : 1;
  return (
    <Box
      sx={{
        position: 'relative',
        '& svg': { width: '100%', height: 'auto', display: 'block', touchAction: 'none' },
        '& text': { fontSize: 12, fill: palette.text.secondary },
      }}
    >
      <svg
        viewBox="-132 -122 264 244"
        role="img"
        aria-label={`${label} on the crank’s clock`}
        onPointerMove={move}
        onPointerDown={move}
      >
        {rings.map((t) => (
          <circle key={t} r={r(t)} fill="none" stroke={palette.ink.faint} strokeWidth={0.7} />
        ))}
        <circle r={R + 4} fill="none" stroke={palette.text.secondary} strokeWidth={1} />
        {Array.from({ length: 12 }, (_, k) => {
          const a = k * 30 * RAD_PER_DEG;
          const long = k % 3 === 0 ? 9 : 5;
          return (
            <line
              key={k}
              x1={(R + 4) * Math.sin(a)}
              y1={-(R + 4) * Math.cos(a)}
              x2={(R + 4 - long) * Math.sin(a)}
              y2={-(R + 4 - long) * Math.cos(a)}
              stroke={palette.text.secondary}
            />
          );
        })}
        <text y={-R - 9} textAnchor="middle">
          12
        </text>
        <text y={R + 18} textAnchor="middle">
          6
        </text>
        <text x={front * (R + 17)} y={4} textAnchor="middle">
          3
        </text>
        <text x={-front * (R + 17)} y={4} textAnchor="middle">
          9
        </text>
        <path d={shape(1)} fill={palette.ink.measured} opacity={0.2} />
        <path d={shape(-1)} fill={palette.background.default} />
        <path d={shape(0)} fill="none" stroke={palette.ink.measured} strokeWidth={2} />
        {rings.map((t) => (
          <text key={t} x={3} y={-r(t) + 11}>
            {t}°
          </text>
        ))}
        {hand !== null && (
          <g>
            <line
              x1={0}
              y1={0}
              x2={(R + 4) * Math.sin(hand)}
              y2={-(R + 4) * Math.cos(hand)}
              stroke={palette.text.primary}
              strokeWidth={1.6}
            />
            <circle r={3} fill={palette.text.primary} />
          </g>
        )}
      </svg>
      <HiddenTable caption={`${label} on the crank’s clock`} columns={COLUMNS} rows={hours} />
    </Box>
  );
}
