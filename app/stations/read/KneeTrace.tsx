import Box from '@mui/material/Box';
import { useTheme } from '@mui/material/styles';
import { line, scaleLinear } from 'd3';
import { memo } from 'react';
import { evaluateCurve } from '../../../core/math/harmonics.ts';
import { HiddenTable } from '../../charts/HiddenTable';
import type { FrontalReading } from '../../../core/kinematics/frontalReading.ts';

const W = 480;
const H = 300;
const MARGIN = 34;

/** How far outward the foot stands, mm. */
const footMm = (leg: FrontalReading['legs']['left']): number =>
  leg.kneeLateralMm.curve.mean - leg.kneeOverFootMm.curve.mean;

/** The paths in figures; they do not move with the cursor. */
const AsTable = memo(function AsTable({ reading: { legs } }: { reading: FrontalReading }) {
  return (
    <HiddenTable
      caption="Knee paths seen from behind, mm"
      columns={['Leg', 'Width of the path', 'Foot from the bike’s middle']}
      rows={(['left', 'right'] as const).map((side) => [
        side,
        legs[side].pathWidthMm.value.toFixed(0),
        Math.abs(footMm(legs[side])).toFixed(0),
      ])}
    />
  );
});

/**
 * Both knees' ways in the plane across the bike, to scale, seen from behind whichever way it was filmed, each over its foot: push
 * drawn full, the way back up dashed.
 */
export function KneeTrace({ reading, cursorDeg }: { reading: FrontalReading; cursorDeg: number | null }) {
  const { palette } = useTheme();
  const sides = (['left', 'right'] as const).map((side) => {
    const leg = reading.legs[side];
    const out = side === 'right' ? 1 : -1;
    const points = leg.kneeLateralMm.meanOnGrid.map((v, i): [number, number] => [
      out * v,
      leg.kneeHeightMm.meanOnGrid[i],
    ]);
    const foot = out * footMm(leg);
    const own = cursorDeg === null ? null : cursorDeg + (side === 'left' ? 180 : 0);
    const now =
      own === null
        ? null
        : ([
            out * evaluateCurve(leg.kneeLateralMm.curve, own),
            evaluateCurve(leg.kneeHeightMm.curve, own),
          ] as const);
    return { side, points, foot, now, width: leg.pathWidthMm };
  });
  const all = sides.flatMap((s) => [...s.points, [s.foot, s.points[0][1]] as [number, number]]);
  const reach = Math.max(...all.map((p) => Math.abs(p[0]))) + 30;
  const [low, high] = [Math.min(...all.map((p) => p[1])), Math.max(...all.map((p) => p[1]))];
  const k = Math.min((W - 2 * MARGIN) / (2 * reach), (H - 2 * MARGIN) / (high - low));
  const x = scaleLinear([-1, 1], [W / 2 - k, W / 2 + k]);
  const y = scaleLinear([low, low + 1], [H - MARGIN, H - MARGIN - k]);
  const path = line<[number, number]>(
    (p) => x(p[0]),
    (p) => y(p[1]),
  );
  return (
    <Box sx={{ position: 'relative', '& text': { fontSize: 13, fill: palette.text.secondary } }}>
      <svg
        viewBox={`0 0 ${W} ${H}`}
        width="100%"
        role="img"
        aria-label="Knee paths seen from behind"
        style={{ display: 'block' }}
      >
        <line x1={x(0)} x2={x(0)} y1={16} y2={H - 20} stroke={palette.ink.faint} strokeDasharray="12 3 2 3" />
        <text x={x(0)} y={H - 6} textAnchor="middle">
          bike’s middle
        </text>
        {sides.map(({ side, points, foot, now, width }) => {
          const xs = points.map((p) => p[0]);
          const [from, to] = [Math.min(...xs), Math.max(...xs)];
          return (
            <g key={side}>
              <line
                x1={x(foot)}
                x2={x(foot)}
                y1={MARGIN - 12}
                y2={H - MARGIN + 8}
                stroke={palette.text.secondary}
                strokeDasharray="3 4"
              />
              <path
                d={`M${x(foot) - 13},${H - MARGIN + 8} h26 l-4,7 h-18 z`}
                fill={palette.ink.band}
                stroke={palette.text.secondary}
              />
              <path
                d={path(points.slice(0, 73)) ?? ''}
                fill="none"
                stroke={palette.ink.measured}
                strokeWidth={2.4}
              />
              <path
                d={path([...points.slice(72), points[0]]) ?? ''}
                fill="none"
                stroke={palette.ink.measured}
                strokeWidth={1.4}
                strokeDasharray="5 4"
              />
              <path
                d={`M${x(from)},18 v8 M${x(to)},18 v8 M${x(from)},22 H${x(to)}`}
                stroke={palette.text.primary}
                fill="none"
              />
              <text x={x((from + to) / 2)} y={13} textAnchor="middle">
                {side} {width.value.toFixed(0)} mm
              </text>
              {now && (
                <circle
                  cx={x(now[0])}
                  cy={y(now[1])}
                  r={5}
                  fill={palette.primary.main}
                  stroke={palette.ink.plate}
                />
              )}
            </g>
          );
        })}
      </svg>
      <AsTable reading={reading} />
    </Box>
  );
}
