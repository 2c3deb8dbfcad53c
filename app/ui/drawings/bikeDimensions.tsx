import { useTheme } from '@mui/material/styles';
import type { ResolvedBike } from '../../../core/bike/resolve.ts';
import type { BikeSetup } from '../../../core/bike/setup.ts';
import type { PlanePoint } from '../../../core/math/vec.ts';
import { lengthText } from '../../../core/units/length.ts';
import { useStudio } from '../../session/useStudio';

/** The dimension lines, each where both of its ends are known. */
export function Dimensions({
  bike,
  resolved,
  X,
  Y,
  foot,
  right,
}: {
  bike: BikeSetup;
  resolved: ResolvedBike;
  X: (x: number) => number;
  Y: (y: number) => number;
  /** The drawing's lower and right edge. */
  foot: number;
  right: number;
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
          x={right - 70}
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
          y={foot - 22}
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
