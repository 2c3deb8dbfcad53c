import Box from '@mui/material/Box';
import { useTheme } from '@mui/material/styles';
import { memo, type SVGProps } from 'react';
import type { ResolvedBike } from '../../../core/bike/resolve.ts';
import type { Vec2 } from '../../../core/math/vec.ts';
import type { Outline } from '../../../core/model/predict.ts';

const W = 620;
/** What rider and bike take up at the most, both wheels and the head among it, mm. */
const LEFT = -810;
const RIGHT = 1010;
const LOW = -280;
const HIGH = 1580;
const px = W / (RIGHT - LEFT);
const H = (HIGH - LOW) * px;
const X = (x: number): number => (x - LEFT) * px;
const Y = (y: number): number => H - (y - LOW) * px;
const at = (p: Vec2): string => `${X(p.x).toFixed(1)},${Y(p.y).toFixed(1)}`;

/** A limb as a tapering outline between two joints. */
function limb(a: Vec2, b: Vec2, ra: number, rb: number): string {
  const l = Math.hypot(b.x - a.x, b.y - a.y) || 1;
  const [nx, ny] = [-(b.y - a.y) / l, (b.x - a.x) / l];
  const p = (c: Vec2, r: number): Vec2 => ({ x: c.x + nx * r, y: c.y + ny * r });
  return `M${at(p(a, ra))} L${at(p(b, rb))} A${rb * px},${rb * px} 0 0 1 ${at(p(b, -rb))} L${at(p(a, -ra))} A${ra * px},${ra * px} 0 0 1 ${at(p(a, ra))} Z`;
}

/** The body as outlines of its limbs, not as bones. */
const bodyPath = (o: Outline): string =>
  [
    limb(o.hip, o.knee, 62, 46),
    limb(o.knee, o.ankle, 46, 30),
    limb(o.hip, o.shoulder, 78, 66),
    limb(o.shoulder, o.elbow, 36, 28),
    limb(o.elbow, o.wrist, 28, 20),
    limb(o.heel, o.toe, 24, 22),
    headPath(o),
  ].join(' ');

/** A head where heads are: ahead of and above the shoulder, the neck in line with neither trunk nor upright. */
function headPath({ hip, shoulder }: Outline): string {
  const back = Math.atan2(shoulder.y - hip.y, shoulder.x - hip.x);
  const lean = (back + Math.PI / 2) / 2;
  const along = (by: number): Vec2 => ({
    x: shoulder.x + by * Math.cos(lean),
    y: shoulder.y + by * Math.sin(lean),
  });
  const c = along(205);
  const [rx, ry] = [76 * px, 96 * px];
  return `${limb(along(60), along(130), 40, 34)} M${X(c.x) - rx},${Y(c.y)} a${rx},${ry} 0 1 0 ${2 * rx},0 a${rx},${ry} 0 1 0 ${-2 * rx},0 Z`;
}

type Stroke = Pick<SVGProps<SVGLineElement>, 'stroke' | 'strokeWidth' | 'strokeLinecap'>;

/** The saddle from where it is sat on to its nose, moved by so much, mm. */
function Saddle({
  points: { sit, nose },
  by = { x: 0, y: 0 },
  ...line
}: { points: ResolvedBike['points']; by?: Vec2 } & Stroke) {
  if (!sit || !nose) return null;
  return (
    <line
      x1={X(sit.x - 60 + by.x)}
      y1={Y(sit.y + by.y)}
      x2={X(nose.x + by.x)}
      y2={Y(nose.y + by.y)}
      {...line}
    />
  );
}

const Crank = ({ spindle, ...line }: { spindle: Vec2 } & Stroke) => (
  <line x1={X(0)} y1={Y(0)} x2={X(spindle.x)} y2={Y(spindle.y)} {...line} />
);

const WHEEL_MM = 335;

/** Bike and rider as measured: what stands still while something is tried. */
const Still = memo(function Still({
  measured,
  points,
  crankMm,
}: {
  measured: Outline;
  points: ResolvedBike['points'];
  crankMm: number;
}) {
  const { palette } = useTheme();
  return (
    <>
      <line x1={0} x2={W} y1={Y(-WHEEL_MM + 70)} y2={Y(-WHEEL_MM + 70)} stroke={palette.divider} />
      {[points.rearAxle, points.frontAxle].map(
        (p, i) =>
          p && (
            <circle
              key={i}
              cx={X(p.x)}
              cy={Y(p.y)}
              r={WHEEL_MM * px}
              fill="none"
              stroke={palette.divider}
              strokeWidth={1.4}
            />
          ),
      )}
      <circle
        cx={X(0)}
        cy={Y(0)}
        r={crankMm * px}
        fill="none"
        stroke={palette.divider}
        strokeDasharray="2 4"
      />
      <circle cx={X(0)} cy={Y(0)} r={4} fill={palette.text.secondary} />
      <Saddle points={points} stroke={palette.text.secondary} strokeWidth={4} strokeLinecap="round" />
      <path d={bodyPath(measured)} fill={palette.ink.faint} fillOpacity={0.75} stroke="none" />
      <Crank spindle={measured.spindle} stroke={palette.text.secondary} strokeWidth={4} />
    </>
  );
});

/** The rider as measured and, over it, as predicted or as filmed again, both to scale on the bike's own points, at one crank angle. */
export function OutlineDrawing({
  measured,
  predicted,
  points,
  crankMm,
  sitShiftMm,
  trouble,
  label = 'The rider as measured, with what is predicted over it, to scale',
}: {
  measured: Outline;
  predicted: Outline | null;
  points: ResolvedBike['points'];
  crankMm: number;
  /** By how far the saddle moves. */
  sitShiftMm: Vec2;
  /** Why nothing is predicted: written over the drawing. */
  trouble: string | null;
  label?: string;
}) {
  const { palette } = useTheme();
  return (
    <Box sx={{ position: 'relative', maxWidth: 560, mx: 'auto' }}>
      <svg viewBox={`0 0 ${W} ${H}`} width="100%" role="img" aria-label={label} style={{ display: 'block' }}>
        <Still measured={measured} points={points} crankMm={crankMm} />
      </svg>
      {predicted && (
        // On a layer of its own: what stands still is not painted anew under it.
        <svg
          viewBox={`0 0 ${W} ${H}`}
          width="100%"
          aria-hidden
          style={{ position: 'absolute', inset: 0, willChange: 'transform' }}
        >
          <Saddle points={points} by={sitShiftMm} stroke={palette.ink.predicted} strokeWidth={2.5} />
          <Crank spindle={predicted.spindle} stroke={palette.ink.predicted} strokeWidth={2} />
          <path
            d={bodyPath(predicted)}
            fill="none"
            stroke={palette.ink.predicted}
            strokeWidth={1.8}
            strokeDasharray="6 3"
          />
          <circle cx={X(predicted.wrist.x)} cy={Y(predicted.wrist.y)} r={4} fill={palette.ink.predicted} />
        </svg>
      )}
      {trouble && (
        <Box
          role="alert"
          sx={{
            position: 'absolute',
            left: '8%',
            right: '8%',
            top: '36%',
            p: 2,
            bgcolor: 'background.paper',
            border: 2,
            borderColor: 'error.main',
            fontSize: '1.15rem',
            fontWeight: 600,
          }}
        >
          Impossible: {trouble}.
        </Box>
      )}
    </Box>
  );
}
