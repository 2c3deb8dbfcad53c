import Box from '@mui/material/Box';
import { useTheme } from '@mui/material/styles';
import { extent, line as d3line, scaleLinear } from 'd3';
import type { RampKey, RampWay } from '../../../core/kinematics/live/ramp.ts';
import { quoted, quotedBand, type Convention } from '../../../core/protocol/convention.ts';
import type { Band } from '../../../core/protocol/judge.ts';
import { Axis } from '../../charts/Axis';
import { HiddenTable } from '../../charts/HiddenTable';
import { TargetBand } from '../../charts/TargetBand';

const [W, H, LEFT, RIGHT, TOP, BOTTOM] = [680, 210, 64, 660, 16, 168];

/** A figure of a ramp against watts or minutes, each stage with its ±, over the band. */
export function RampChart({
  name,
  of,
  way,
  band,
  convention,
}: {
  name: string;
  of: RampKey;
  way: RampWay;
  band: Band | null;
  convention: Convention;
}) {
  const { palette } = useTheme();
  const unit = of.endsWith('Mm') ? ' mm' : '°';
  const inOver = way.over === 'power' ? 'W' : 'min';
  const points = way.points[of]!.map((p) => ({ ...p, value: quoted(of, p.value, convention) }));
  const wanted = band && quotedBand(of, band, convention);
  const [least = 0, most = 1] = extent([
    ...points.flatMap((p) => [p.value - p.uncertainty, p.value + p.uncertainty]),
    ...[wanted?.low, wanted?.high].filter((v) => typeof v === 'number'),
  ]);
  const [from = 0, to = 1] = extent(points, (p) => p.at);
  const edge = 0.08 * (to - from);
  const x = scaleLinear([from - edge, to + edge], [LEFT, RIGHT]);
  const y = scaleLinear([least - 1, most + 1], [BOTTOM, TOP]).nice(4);
  const text = (v: number, ending: string): string => `${v}${ending}`.replace('-', '−');
  return (
    <Box sx={{ mt: 1, '& text': { fill: palette.text.secondary, fontSize: 14 } }}>
      <svg viewBox={`0 0 ${W} ${H}`} width="100%" role="img" aria-label={`${name} against ${inOver}`}>
        {wanted && (
          <TargetBand
            band={wanted}
            scale={y}
            values="upright"
            extent={[BOTTOM, TOP]}
            across={[LEFT, RIGHT]}
          />
        )}
        <Axis side="left" at={LEFT} ticks={y.ticks(4).map((t) => ({ at: y(t), text: text(t, unit) }))} />
        <Axis
          side="bottom"
          at={BOTTOM}
          ticks={x.ticks(5).map((t) => ({ at: x(t), text: text(t, ` ${inOver}`) }))}
        />
        <path
          d={
            d3line<(typeof points)[number]>(
              (p) => x(p.at),
              (p) => y(p.value),
            )(points) ?? ''
          }
          fill="none"
          stroke={palette.ink.measured}
          strokeWidth={1.4}
        />
        {points.map((p) => (
          <g key={p.at} stroke={palette.ink.measured} fill={palette.ink.measured}>
            <line x1={x(p.at)} x2={x(p.at)} y1={y(p.value - p.uncertainty)} y2={y(p.value + p.uncertainty)} />
            <circle cx={x(p.at)} cy={y(p.value)} r={4.5} />
          </g>
        ))}
      </svg>
      <HiddenTable
        caption={name}
        columns={[inOver, unit.trim(), '±', 'turns']}
        rows={points.map((p) => [
          way.over === 'power' ? Math.round(p.at) : p.at,
          p.value.toFixed(1),
          p.uncertainty.toFixed(1),
          p.turns,
        ])}
      />
    </Box>
  );
}
