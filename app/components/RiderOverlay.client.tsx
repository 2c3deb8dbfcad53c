import { useTheme } from '@mui/material/styles';
import { Arc, Group, Layer, Line, Rect, Stage, Text } from 'react-konva';
import { DEG_PER_RAD, RAD_PER_DEG, turnDeg } from '../../core/geometry/angles.ts';
import { isSeen, type Vec2 } from '../../core/geometry/vec.ts';
import { ANGLE_SHAPES, jointAngleDeg, type AngleKey } from '../../core/stroke/angles.ts';
import { SIDE_BONES, SIDE_LANDMARKS, type SideLandmark } from '../../core/stroke/landmarks.ts';
import { toPlane, type PlaneMap } from '../../core/stroke/plane.ts';
import { pointAt, type Tracks } from '../../core/stroke/tracks.ts';
import { degrees, quoted, type Convention } from './angleText';
import type { ViewSize } from './ClipView';

const SHOWN: readonly AngleKey[] = [
  'kneeFlexionDeg',
  'hipAngleDeg',
  'backAngleDeg',
  'elbowFlexionDeg',
  'shoulderAngleDeg',
  'footPitchDeg',
];
/** Dashed where the landmark was hard to see; nothing is drawn to one that was lost. */
const DOUBTFUL = 0.5;

interface DimensionProps {
  angle: AngleKey;
  film: Record<SideLandmark, Vec2>;
  screen: (p: Vec2) => Vec2;
  map: PlaneMap;
  text: string;
  convention: Convention;
}

interface Props {
  size: ViewSize;
  tracks: Tracks;
  frame: number;
  map: PlaneMap;
  convention: Convention;
}

/** The body on the film: centre lines along the limbs, and each joint's angle drawn as a dimension on a drawing. */
export function RiderOverlay({ size, tracks, frame, map, convention }: Props) {
  const { palette } = useTheme();
  const k = size.scale;
  const film = Object.fromEntries(SIDE_LANDMARKS.map((key) => [key, pointAt(tracks, key, frame)])) as Record<
    SideLandmark,
    Vec2
  >;
  const screen = (p: Vec2): Vec2 => ({ x: (p.x + 0.5) * k, y: (p.y + 0.5) * k });
  const sure = (key: SideLandmark): boolean => (tracks.landmarks[key]?.confidence[frame] ?? 0) >= DOUBTFUL;
  const plane = Object.fromEntries(SIDE_LANDMARKS.map((key) => [key, toPlane(map, film[key])])) as Record<
    SideLandmark,
    Vec2
  >;
  const lost = SIDE_LANDMARKS.filter((key) => tracks.landmarks[key] && !isSeen(film[key]));
  return (
    <Stage width={size.widthPx} height={size.heightPx} listening={false}>
      <Layer listening={false}>
        {SIDE_BONES.map(([a, b]) => {
          if (!isSeen(film[a]) || !isSeen(film[b])) return null;
          const p = screen(film[a]);
          const q = screen(film[b]);
          return (
            <Group key={`${a}-${b}`}>
              <Line points={[p.x, p.y, q.x, q.y]} stroke={palette.ink.plate} strokeWidth={4.5} />
              <Line
                points={[p.x, p.y, q.x, q.y]}
                stroke={palette.ink.line}
                strokeWidth={1.4}
                dash={sure(a) && sure(b) ? [16, 4, 3, 4] : [3, 5]}
              />
            </Group>
          );
        })}
        {SHOWN.map((key) => {
          const value = jointAngleDeg(key, plane);
          return Number.isFinite(value) ? (
            <Dimension
              key={key}
              angle={key}
              film={film}
              screen={screen}
              map={map}
              convention={convention}
              text={degrees(quoted(key, value, convention), 0)}
            />
          ) : null;
        })}
        {lost.length > 0 && (
          <Group x={10} y={10}>
            <Rect width={lost.join(', ').length * 7.5 + 116} height={26} fill={palette.ink.plate} />
            <Text
              x={8}
              y={6}
              text={`not seen here: ${lost.join(', ')}`}
              fontSize={14}
              fontFamily="Archivo Variable"
              fill={palette.ink.line}
            />
          </Group>
        )}
      </Layer>
    </Stage>
  );
}

/**
 * An angle as a dimension on a drawing: its arc with the figure on a plate beyond it. A bend is drawn as what it is, from the
 * upper limb's line carried on; an inside angle between the limbs; a direction from the horizontal.
 */
function Dimension({ angle, film, screen, map, text, convention }: DimensionProps) {
  const { palette } = useTheme();
  const shape = ANGLE_SHAPES[angle];
  const right = map.facing === 'right';
  const vertex = screen(shape.kind === 'inside' ? film[shape.vertex] : film[shape.from]);
  const bearing = (to: Vec2): number => {
    const q = screen(to);
    return Math.atan2(q.y - vertex.y, q.x - vertex.x) * DEG_PER_RAD;
  };
  const bend = shape.kind === 'inside' && shape.flexion && convention === 'bend';
  const from =
    shape.kind === 'inside'
      ? bearing(film[shape.ends[0]]) + (bend ? 180 : 0)
      : (right ? 0 : 180) - (right ? 1 : -1) * map.levelDeg;
  const to = bearing(shape.kind === 'inside' ? film[shape.ends[1]] : film[shape.to]);
  const sweep = turnDeg(to, from);
  const radius = { backAngleDeg: 64, footPitchDeg: 60 }[angle as string] ?? (bend ? 40 : 32);
  const start = sweep < 0 ? from + sweep : from;
  const width = text.length * 9.5 + 8;
  const baseline = bend || shape.kind === 'direction';
  const base = from * RAD_PER_DEG;
  const reach = shape.kind === 'direction' ? radius * 1.4 : radius * 1.3;
  // The plate stands beyond the arc, or at the end of the horizontal, so that stickers and other figures stay free.
  const out = shape.kind === 'direction' ? base : (from + sweep / 2) * RAD_PER_DEG;
  const off = shape.kind === 'direction' ? reach + width / 2 + 2 : radius + 20;
  return (
    <Group x={vertex.x} y={vertex.y}>
      {baseline && (
        <>
          <Line
            points={[0, 0, reach * Math.cos(base), reach * Math.sin(base)]}
            stroke={palette.ink.plate}
            strokeWidth={4}
          />
          <Line
            points={[0, 0, reach * Math.cos(base), reach * Math.sin(base)]}
            stroke={palette.ink.line}
            strokeWidth={1}
            dash={[5, 4]}
          />
        </>
      )}
      <Arc
        innerRadius={radius}
        outerRadius={radius}
        angle={Math.abs(sweep)}
        rotation={start}
        stroke={palette.ink.plate}
        strokeWidth={5}
      />
      <Arc
        innerRadius={radius}
        outerRadius={radius}
        angle={Math.abs(sweep)}
        rotation={start}
        stroke={palette.primary.main}
        strokeWidth={2}
      />
      <Group x={off * Math.cos(out) - width / 2} y={off * Math.sin(out) - 11}>
        <Rect width={width} height={22} fill={palette.ink.plate} cornerRadius={2} />
        <Text
          width={width}
          y={3}
          align="center"
          text={text}
          fontSize={17}
          fontStyle="600"
          fontFamily="Archivo Variable"
          fill={palette.ink.line}
        />
      </Group>
    </Group>
  );
}
