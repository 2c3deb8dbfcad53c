import Box from '@mui/material/Box';
import { useTheme } from '@mui/material/styles';
import { extent, line as d3line, scaleLinear, type ScaleLinear } from 'd3';
import type { Band } from '../../../core/protocol/judge.ts';
import { Axis } from '../../charts/Axis';
import { HiddenTable } from '../../charts/HiddenTable';
import { TargetBand } from '../../charts/TargetBand';
import type { Sweep } from '../../../core/plan/terms/sweep.ts';

export interface LadderLine {
  name: string;
  unit: string;
  points: { setting: number; value: number }[];
  band: Band | null;
  filmedAt: { setting: number; value: number } | null;
  /** Measured while the camera ran, each with its ±. */
  measured: { setting: number; value: number; uncertainty: number }[];
}

const W = 900;
const FELT = { top: 26, bottom: 190 };
const READ = { top: 236, bottom: 380 };
const H = 424;
const LEFT = 84;
const RIGHT = W - 24;

const number = (n: number): string => String(Math.round(10 * n) / 10).replace('-', '−');

const bandText = ({ low, high }: Band): string =>
  low === null
    ? `band up to ${number(high!)}`
    : high === null
      ? `band from ${number(low)}`
      : `band ${number(low)} to ${number(high)}`;

type Scale = ScaleLinear<number, number>;

/** A measure over the same setting, under the rider's word. */
function MeasureOver({ line, x, v }: { line: LadderLine; x: Scale; v: Scale }) {
  const { palette } = useTheme();
  return (
    <g>
      <text x={LEFT} y={READ.top - 16} style={{ fill: palette.text.primary }}>
        {line.name}, {line.unit}
      </text>
      <Axis side="left" at={LEFT} ticks={v.ticks(4).map((t) => ({ at: v(t), text: number(t) }))} />
      <line x1={LEFT} x2={RIGHT} y1={READ.bottom} y2={READ.bottom} stroke={palette.divider} />
      <path
        d={
          d3line<LadderLine['points'][number]>(
            (p) => x(p.setting),
            (p) => v(p.value),
          )(line.points) ?? ''
        }
        fill="none"
        stroke={palette.ink.predicted}
        strokeWidth={2}
        strokeDasharray={line.filmedAt ? '7 5' : undefined}
      />
      {!line.filmedAt &&
        line.points.map((p, i) => (
          <circle key={i} cx={x(p.setting)} cy={v(p.value)} r={4} fill={palette.ink.predicted} />
        ))}
      {line.measured.map((p) => (
        <g key={p.setting} stroke={palette.ink.measured} fill={palette.ink.measured}>
          <line
            x1={x(p.setting)}
            x2={x(p.setting)}
            y1={v(p.value - p.uncertainty)}
            y2={v(p.value + p.uncertainty)}
            strokeWidth={1.4}
          />
          <rect x={x(p.setting) - 4} y={v(p.value) - 4} width={8} height={8} stroke="none" />
        </g>
      ))}
      {line.filmedAt && (
        <circle cx={x(line.filmedAt.setting)} cy={v(line.filmedAt.value)} r={6} fill={palette.ink.measured} />
      )}
    </g>
  );
}

/** The settings between which nothing feels different. */
function Plateau({ from, to, x, bottom }: { from: number; to: number; x: Scale; bottom: number }) {
  const { palette } = useTheme();
  return (
    <g>
      <rect
        x={x(from) - 9}
        width={x(to) - x(from) + 18}
        y={FELT.top - 12}
        height={bottom - FELT.top + 12}
        fill={palette.ink.band}
        fillOpacity={0.75}
      />
      <text
        x={(x(from) + x(to)) / 2}
        y={FELT.top - 16}
        textAnchor="middle"
        style={{ fill: palette.text.primary }}
      >
        plateau
      </text>
    </g>
  );
}

/** The rider's word over the setting, and under it a measure over the same setting. */
export function LadderChart({ sweep, unit, line }: { sweep: Sweep; unit: string; line: LadderLine | null }) {
  const { palette } = useTheme();
  const settings = sweep.points.map((p) => p.setting);
  const [low = 0, high = 1] = extent([...settings, ...(line?.filmedAt ? [line.filmedAt.setting] : [])]);
  const pad = Math.max(0.5, 0.08 * (high - low));
  const x = scaleLinear([low - pad, high + pad], [LEFT, RIGHT]);
  const felt = sweep.points.filter((p) => p.answered);
  const [least = 0, most = 1] = extent(felt.map((p) => p.felt));
  const y = scaleLinear([Math.min(0, least) - 0.5, Math.max(1, most) + 0.5], [FELT.bottom, FELT.top]);
  const values = [...(line?.points ?? []), ...(line?.measured ?? [])].map((p) => p.value);
  const band = line?.band ?? null;
  const [vLow = 0, vHigh = 1] = extent([
    ...values,
    ...[band?.low, band?.high].filter((v): v is number => v !== null && v !== undefined),
  ]);
  const vPad = Math.max(1, 0.12 * (vHigh - vLow));
  const v = scaleLinear([vLow - vPad, vHigh + vPad], [READ.bottom, READ.top]).nice(4);
  const ticks = [...new Set(settings)].sort((a, b) => a - b);
  const bottom = line ? READ.bottom : FELT.bottom;
  return (
    <Box sx={{ position: 'relative', '& text': { fontSize: 13, fill: palette.text.secondary } }}>
      <svg
        viewBox={`0 0 ${W} ${H}`}
        width="100%"
        role="img"
        aria-label="Step ladder"
        style={{ display: 'block' }}
      >
        {band && (band.low !== null || band.high !== null) && (
          <TargetBand
            band={band}
            scale={v}
            values="upright"
            extent={[READ.bottom, READ.top]}
            across={[LEFT, RIGHT]}
            text={bandText(band)}
            inside
          />
        )}
        {sweep.plateau && <Plateau {...sweep.plateau} x={x} bottom={bottom} />}
        {sweep.turnsAt !== null && (
          <g stroke={palette.primary.main}>
            <line
              x1={x(sweep.turnsAt)}
              x2={x(sweep.turnsAt)}
              y1={FELT.top - 12}
              y2={bottom}
              strokeDasharray="2 4"
            />
            <path
              d={`M${x(sweep.turnsAt) - 5},${FELT.top - 12} h10 l-5,9 z`}
              fill={palette.primary.main}
              stroke="none"
            />
            <text
              x={x(sweep.turnsAt)}
              y={FELT.top - 16}
              textAnchor="middle"
              stroke="none"
              style={{ fill: palette.primary.main }}
            >
              turns
            </text>
          </g>
        )}
        <text x={LEFT - 70} y={FELT.top + 4}>
          better
        </text>
        <text x={LEFT - 70} y={FELT.bottom}>
          worse
        </text>
        <line x1={LEFT} x2={RIGHT} y1={y(0)} y2={y(0)} stroke={palette.divider} />
        <path
          d={
            d3line<(typeof felt)[number]>(
              (p) => x(p.setting),
              (p) => y(p.felt),
            )(felt) ?? ''
          }
          fill="none"
          stroke={palette.text.primary}
          strokeWidth={1.6}
        />
        {sweep.points.map((p, i) => (
          <g key={i}>
            <rect
              x={x(p.setting) - 6}
              y={y(p.felt) - 6}
              width={12}
              height={12}
              fill={p.answered ? palette.text.primary : palette.background.default}
              stroke={palette.text.primary}
            />
            <text x={x(p.setting) + (i === 0 ? -6 : 10)} y={y(p.felt) + (i === 0 ? 24 : -9)}>
              {i === 0 ? 'start' : i}
            </text>
          </g>
        ))}
        <Axis side="bottom" at={bottom} ticks={ticks.map((t) => ({ at: x(t), text: number(t) }))} />
        <text x={RIGHT} y={bottom + 42} textAnchor="end">
          {unit === '°' ? 'degrees' : unit}
        </text>
        {line && <MeasureOver line={line} x={x} v={v} />}
      </svg>
      <HiddenTable
        caption="Step ladder"
        columns={['Step', unit === '°' ? 'Setting, degrees' : `Setting, ${unit}`, 'Felt']}
        rows={sweep.points.map((p, i) => [
          i === 0 ? 'start' : i,
          number(p.setting),
          i === 0 ? 'start' : p.answered ? number(p.felt) : 'not said',
        ])}
      />
    </Box>
  );
}
