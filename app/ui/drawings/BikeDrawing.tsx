import Box from '@mui/material/Box';
import { useTheme } from '@mui/material/styles';
import { scaleLinear } from 'd3';
import type { ResolvedBike } from '../../../core/bike/resolve.ts';
import type { BikeSetup } from '../../../core/bike/setup.ts';
import type { PlanePoint } from '../../../core/math/vec.ts';
import { Dimensions } from './bikeDimensions';

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
        {!plain && <Dimensions bike={bike} resolved={resolved} X={X} Y={Y} foot={HEIGHT} right={WIDTH} />}
        {!sit && !headTop && !rearAxle && (
          <text x={WIDTH / 2} y={HEIGHT / 2 - 60} textAnchor="middle">
            Type the first numbers, and the bike is drawn.
          </text>
        )}
      </svg>
    </Box>
  );
}

function stemFoot(headTop: PlanePoint, bike: BikeSetup): PlanePoint {
  const a = ((bike.frame.headAngleDeg ?? 73) * Math.PI) / 180;
  const by = (bike.stem.spacersMm ?? 0) + bike.stem.capMm + bike.stem.clampHeightMm / 2;
  return { x: headTop.x - by * Math.cos(a), y: headTop.y + by * Math.sin(a) };
}
