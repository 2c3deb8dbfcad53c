import Box from '@mui/material/Box';
import { useTheme } from '@mui/material/styles';
import { scaleLinear } from 'd3';
import type { ResolvedBike } from '../../../core/bike/resolve.ts';
import type { BikeSetup } from '../../../core/bike/setup.ts';
import type { PlanePoint } from '../../../core/math/vec.ts';
import { lengthText } from '../../../core/units/length.ts';
import { useStudio } from '../../session/useStudio';

const WIDTH = 760;
const HEIGHT = 500;
/** What a bike takes up at the most, mm: the drawing keeps its scale while numbers are typed. */
const LEFT = -830;
const RIGHT = 1060;
const LOW = -330;

/** The bike's side view to scale, with the dimension lines a fitter would pencil. What is not measured is not drawn. */
export function BikeDrawing({
  bike,
  resolved,
  plain = false,
}: {
  bike: BikeSetup;
  resolved: ResolvedBike;
  /** Without dimensions: small, beside another. */
  plain?: boolean;
}) {
  const { palette } = useTheme();
  const px = WIDTH / (RIGHT - LEFT);
  const X = scaleLinear([LEFT, RIGHT], [0, WIDTH]);
  const Y = (y: number): number => HEIGHT - (y - LOW) * px;
  const at = (p: PlanePoint): string => `${X(p.x)},${Y(p.y)}`;
  const { sit, nose, clamp, hood, rearAxle, frontAxle, headTop } = resolved.points;
  const bb = { x: 0, y: 0 };
  const wheel = bike.frame.wheelDiameterMm === null ? null : bike.frame.wheelDiameterMm / 2;
  const ink = palette.text.primary;
  const tube = { stroke: ink, strokeWidth: 2.4, fill: 'none', strokeLinejoin: 'round' as const };
  const floorY = (wheel === null ? -270 : -wheel) + (rearAxle?.y ?? 70);
  const seatTop = sit && { x: sit.x * 0.78, y: sit.y * 0.78 };
  const headLow =
    headTop && bike.frame.headAngleDeg !== null
      ? {
          x: headTop.x + 125 * Math.cos((bike.frame.headAngleDeg * Math.PI) / 180),
          y: headTop.y - 125 * Math.sin((bike.frame.headAngleDeg * Math.PI) / 180),
        }
      : null;
  const tail =
    sit && nose && bike.saddle.lengthMm
      ? {
          x: nose.x - ((nose.x - sit.x) * bike.saddle.lengthMm) / Math.hypot(nose.x - sit.x, nose.y - sit.y),
          y: nose.y - ((nose.y - sit.y) * bike.saddle.lengthMm) / Math.hypot(nose.x - sit.x, nose.y - sit.y),
        }
      : null;
  return (
    <Box sx={{ '& text': { fontSize: 13, fill: palette.text.primary } }}>
      <svg
        viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
        width="100%"
        role="img"
        aria-label="The bike from its right side, to scale"
        style={{ display: 'block' }}
      >
        <line x1={0} x2={WIDTH} y1={Y(floorY)} y2={Y(floorY)} stroke={palette.divider} />
        {[rearAxle, frontAxle].map(
          (axle, i) =>
            axle &&
            wheel !== null && (
              <g key={i} fill="none" stroke={palette.text.secondary}>
                <circle cx={X(axle.x)} cy={Y(axle.y)} r={wheel * px} strokeWidth={1.2} />
                <circle
                  cx={X(axle.x)}
                  cy={Y(axle.y)}
                  r={(wheel - (bike.frame.tyreWidthMm ?? 28)) * px}
                  strokeWidth={0.8}
                />
                <circle cx={X(axle.x)} cy={Y(axle.y)} r={2} />
              </g>
            ),
        )}
        {rearAxle && <polyline points={`${at(rearAxle)} ${at(bb)}`} {...tube} />}
        {seatTop && <polyline points={`${at(bb)} ${at(seatTop)}`} {...tube} />}
        {seatTop && rearAxle && (
          <polyline points={`${at(rearAxle)} ${at(seatTop)}`} {...tube} strokeWidth={1.6} />
        )}
        {seatTop && sit && (
          <polyline
            points={`${at(seatTop)} ${at({ x: sit.x, y: sit.y - 30 })}`}
            {...tube}
            strokeWidth={1.6}
          />
        )}
        {headTop && headLow && (
          <polyline points={`${at(headTop)} ${at(headLow)}`} {...tube} strokeWidth={4} />
        )}
        {seatTop && headTop && <polyline points={`${at(seatTop)} ${at(headTop)}`} {...tube} />}
        {headLow && <polyline points={`${at(bb)} ${at(headLow)}`} {...tube} />}
        {headLow && frontAxle && (
          <polyline points={`${at(headLow)} ${at(frontAxle)}`} {...tube} strokeWidth={1.8} />
        )}
        {bike.crank.lengthMm !== null && (
          <polyline
            points={`${at(bb)} ${at({ x: bike.crank.lengthMm, y: 0 })}`}
            {...tube}
            strokeWidth={3.2}
          />
        )}
        <circle cx={X(0)} cy={Y(0)} r={7} fill={palette.background.default} stroke={ink} strokeWidth={1.6} />
        {headTop && clamp && (
          <polyline
            points={`${at(headTop)} ${at(stemFoot(headTop, bike))} ${at(clamp)}`}
            {...tube}
            stroke={palette.primary.main}
          />
        )}
        {clamp && hood && (
          <polyline points={`${at(clamp)} ${at(hood)}`} {...tube} stroke={palette.primary.main} />
        )}
        {hood && <circle cx={X(hood.x)} cy={Y(hood.y)} r={4} fill={palette.primary.main} />}
        {nose && (tail ?? sit) && (
          <polyline
            points={`${at(tail ?? sit!)} ${at(nose)}`}
            {...tube}
            stroke={palette.primary.main}
            strokeWidth={4}
          />
        )}
        {sit && (
          <circle
            cx={X(sit.x)}
            cy={Y(sit.y)}
            r={3.5}
            fill={palette.background.default}
            stroke={palette.primary.main}
          />
        )}
        {!plain && <Dimensions bike={bike} resolved={resolved} X={X} Y={Y} />}
        {!sit && !headTop && !rearAxle && (
          <text x={WIDTH / 2} y={HEIGHT / 2 - 60} textAnchor="middle">
            Type the first numbers, and the bike is drawn.
          </text>
        )}
      </svg>
    </Box>
  );
}

/** The dimension lines, each where both of its ends are known. */
function Dimensions({
  bike,
  resolved,
  X,
  Y,
}: {
  bike: BikeSetup;
  resolved: ResolvedBike;
  X: (x: number) => number;
  Y: (y: number) => number;
}) {
  const { lengthUnit } = useStudio();
  const { sit, clamp, hood, rearAxle, frontAxle, headTop } = resolved.points;
  const text = (mm: number): string => lengthText(Math.round(mm), lengthUnit);
  const top = Y(Math.max(sit?.y ?? 0, hood?.y ?? 0));
  return (
    <>
      {sit && resolved.heightMm && (
        <Slanted
          from={{ x: 0, y: 0 }}
          to={sit}
          px={{ X, Y }}
          text={text(resolved.heightMm.mm)}
          soft={resolved.heightMm.from === 'computed'}
        />
      )}
      {sit && resolved.setback80Mm && (
        <Level
          y={top - 54}
          from={X(sit.x)}
          to={X(0)}
          drop={[Y(sit.y), Y(0)]}
          text={text(resolved.setback80Mm.mm)}
          name="setback at 80"
        />
      )}
      {sit && hood && resolved.reachFromSitMm !== null && (
        <Level
          y={top - 24}
          from={X(sit.x)}
          to={X(hood.x)}
          drop={[Y(sit.y), Y(hood.y)]}
          text={text(resolved.reachFromSitMm)}
          name="sit point to hood"
        />
      )}
      {sit && clamp && resolved.barDropMm !== null && (
        <Upright
          x={X(RIGHT) - 70}
          from={Y(sit.y)}
          to={Y(sit.y - resolved.barDropMm)}
          leads={[X(sit.x) + 10, X(clamp.x)]}
          text={text(Math.abs(resolved.barDropMm))}
          name={resolved.barDropMm >= 0 ? 'bar below saddle' : 'bar above saddle'}
        />
      )}
      {headTop && bike.frame.stackMm !== null && (
        <Upright
          x={X(headTop.x) + 24}
          from={Y(0)}
          to={Y(headTop.y)}
          leads={[X(0), X(headTop.x)]}
          text={text(bike.frame.stackMm)}
          name="stack"
        />
      )}
      {headTop && bike.frame.reachMm !== null && (
        <Level
          y={Y(headTop.y * 0.62)}
          from={X(0)}
          to={X(headTop.x)}
          drop={[Y(0), Y(headTop.y)]}
          text={text(bike.frame.reachMm)}
          name="reach"
        />
      )}
      {rearAxle && frontAxle && resolved.wheelbaseMm && (
        <Level
          y={HEIGHT - 22}
          from={X(rearAxle.x)}
          to={X(frontAxle.x)}
          drop={[Y(rearAxle.y), Y(frontAxle.y)]}
          text={text(resolved.wheelbaseMm.mm)}
          name="wheelbase"
        />
      )}
    </>
  );
}

function stemFoot(headTop: PlanePoint, bike: BikeSetup): PlanePoint {
  const a = ((bike.frame.headAngleDeg ?? 73) * Math.PI) / 180;
  const by = (bike.stem.spacersMm ?? 0) + bike.stem.capMm + bike.stem.clampHeightMm / 2;
  return { x: headTop.x - by * Math.cos(a), y: headTop.y + by * Math.sin(a) };
}

const tick = (x: number, y: number): string => `M${x - 4},${y + 4} L${x + 4},${y - 4}`;

function Plate({ x, y, text, name }: { x: number; y: number; text: string; name?: string }) {
  const { palette } = useTheme();
  const words = name ? `${text}  ${name}` : text;
  const w = words.length * 6.6 + 8;
  return (
    <g>
      <rect x={x - w / 2} y={y - 10} width={w} height={18} fill={palette.background.default} opacity={0.92} />
      <text x={x} y={y + 4} textAnchor="middle">
        {text}
        {name && (
          <tspan dx={5} style={{ fill: palette.text.secondary, fontSize: 11.5 }}>
            {name}
          </tspan>
        )}
      </text>
    </g>
  );
}

interface Dimension {
  from: number;
  to: number;
  text: string;
  name: string;
}

/** A dimension along the horizontal, with thin leads down to what it measures. */
function Level({ y, from, to, drop, text, name }: Dimension & { y: number; drop: [number, number] }) {
  const { palette } = useTheme();
  return (
    <g stroke={palette.text.secondary} strokeWidth={0.8} fill="none">
      <path d={`M${from},${y} H${to} ${tick(from, y)} ${tick(to, y)}`} />
      <path d={`M${from},${y} V${drop[0]} M${to},${y} V${drop[1]}`} strokeDasharray="2 3" />
      <g stroke="none">
        <Plate x={(from + to) / 2} y={y} text={text} name={name} />
      </g>
    </g>
  );
}

function Upright({ x, from, to, leads, text, name }: Dimension & { x: number; leads: [number, number] }) {
  const { palette } = useTheme();
  return (
    <g stroke={palette.text.secondary} strokeWidth={0.8} fill="none">
      <path d={`M${x},${from} V${to} ${tick(x, from)} ${tick(x, to)}`} />
      <path d={`M${x},${from} H${leads[0]} M${x},${to} H${leads[1]}`} strokeDasharray="2 3" />
      <g stroke="none">
        <Plate
          x={x}
          y={Math.abs(from - to) > 40 ? (from + to) / 2 : Math.max(from, to) + 18}
          text={text}
          name={name}
        />
      </g>
    </g>
  );
}

/** The saddle's height, along the line it is measured on, beside the seat tube. */
function Slanted({
  from,
  to,
  px,
  text,
  soft,
}: {
  from: PlanePoint;
  to: PlanePoint;
  px: { X: (x: number) => number; Y: (y: number) => number };
  text: string;
  soft: boolean;
}) {
  const { palette } = useTheme();
  const d = Math.hypot(to.x - from.x, to.y - from.y);
  const off = { x: (-(to.y - from.y) / d) * 70, y: ((to.x - from.x) / d) * 70 };
  const a = { x: px.X(from.x + off.x), y: px.Y(from.y + off.y) };
  const b = { x: px.X(to.x + off.x), y: px.Y(to.y + off.y) };
  return (
    <g stroke={palette.primary.main} strokeWidth={1} fill="none">
      <path
        d={`M${a.x},${a.y} L${b.x},${b.y} ${tick(a.x, a.y)} ${tick(b.x, b.y)}`}
        strokeDasharray={soft ? '5 3' : undefined}
      />
      <path
        d={`M${px.X(from.x)},${px.Y(from.y)} L${a.x},${a.y} M${px.X(to.x)},${px.Y(to.y)} L${b.x},${b.y}`}
        strokeDasharray="2 3"
        strokeWidth={0.8}
      />
      <g stroke="none">
        <Plate x={(a.x + b.x) / 2} y={(a.y + b.y) / 2} text={text} name="height" />
      </g>
    </g>
  );
}
