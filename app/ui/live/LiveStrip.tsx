import Box from '@mui/material/Box';
import { useTheme } from '@mui/material/styles';
import { extent, scaleLinear } from 'd3';
import { isMeanFigure, type LiveKey, type Turn } from '../../../core/kinematics/live/turns.ts';
import { quoted, quotedBand, type Convention } from '../../../core/protocol/convention.ts';
import type { Band } from '../../../core/protocol/judge.ts';
import { Axis } from '../../charts/Axis';
import { HiddenTable } from '../../charts/HiddenTable';
import { TargetBand } from '../../charts/TargetBand';
import type { Mark } from '../../jobs/live';

const SHOWN_S = 120;
const [W, H, LEFT, RIGHT, TOP, BOTTOM] = [680, 138, 52, 668, 20, 104];

/** Closer to another one than this a change is told by its number alone. */
const CROWDED_S = 28;
const isCrowded = (m: Mark, all: readonly Mark[]): boolean =>
  all.some((other) => other !== m && Math.abs(other.atS - m.atS) < CROWDED_S);

/** A figure of the last two minutes, turn by turn, against its band; where the bike was changed stands a line. */
export function LiveStrip({
  name,
  of,
  band,
  convention,
  turns,
  marks,
  nowS,
}: {
  name: string;
  of: LiveKey;
  band: Band;
  convention: Convention;
  turns: readonly Turn[];
  marks: readonly Mark[];
  nowS: number;
}) {
  const { palette } = useTheme();
  const fromS = nowS - SHOWN_S;
  const points = turns
    .filter((t) => t.endS > fromS)
    .flatMap((t) => {
      const v = t.figures[of];
      return v === undefined ? [] : [{ atS: t.endS, value: quoted(of, v, convention) }];
    });
  const wanted = quotedBand(of, band, convention);
  const [least = 0, most = 1] = extent(
    [...points.map((p) => p.value), wanted.low ?? NaN, wanted.high ?? NaN].filter(Number.isFinite),
  );
  const x = scaleLinear([-SHOWN_S, 0], [LEFT, RIGHT]);
  const y = scaleLinear([least - 1, most + 1], [BOTTOM, TOP]).nice(4);
  return (
    <Box sx={{ '& text': { fill: palette.text.secondary, fontSize: 14 } }}>
      <svg viewBox={`0 0 ${W} ${H}`} width="100%" role="img" aria-label={`${name}, the last two minutes`}>
        <TargetBand band={wanted} scale={y} values="upright" extent={[BOTTOM, TOP]} across={[LEFT, RIGHT]} />
        <Axis
          side="left"
          at={LEFT}
          ticks={y.ticks(3).map((t) => ({ at: y(t), text: `${t}°`.replace('-', '−') }))}
        />
        <Axis
          side="bottom"
          at={BOTTOM}
          ticks={[-120, -90, -60, -30, 0].map((t) => ({
            at: x(t),
            text: t === 0 ? 'now' : `−${-t} s`,
            anchor: t === 0 ? ('end' as const) : ('middle' as const),
          }))}
        />
        {marks
          .filter((m) => m.atS > fromS)
          .map((m, k) => (
            <g key={m.id}>
              <line
                x1={x(m.atS - nowS)}
                x2={x(m.atS - nowS)}
                y1={TOP - 8}
                y2={BOTTOM}
                stroke={palette.text.primary}
                strokeDasharray={m.isBack ? '4 4' : undefined}
              />
              <text
                x={x(m.atS - nowS) + (m.atS > nowS - 20 ? -5 : 5)}
                y={TOP - 8}
                textAnchor={m.atS > nowS - 20 ? 'end' : 'start'}
              >
                {m.isBack ? 'undone' : isCrowded(m, marks) ? k + 1 : `change ${k + 1}`}
              </text>
            </g>
          ))}
        {points.map((p) => (
          <circle key={p.atS} cx={x(p.atS - nowS)} cy={y(p.value)} r={4} fill={palette.primary.main} />
        ))}
      </svg>
      <HiddenTable
        caption={`${name}${isMeanFigure(of) ? ', mean over each turn' : ''}`}
        columns={['seconds ago', 'degrees']}
        rows={points.slice(-10).map((p) => [Math.round(nowS - p.atS), p.value.toFixed(1)])}
      />
    </Box>
  );
}
