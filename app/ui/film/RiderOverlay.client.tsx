import { useTheme } from '@mui/material/styles';
import { Arc, Group, Layer, Line, Rect, Stage, Text } from './canvas';
import { isSeen, type Vec2 } from '../../../core/math/vec.ts';
import { jointAngleDeg, type AngleKey } from '../../../core/kinematics/angles.ts';
import { SIDE_BONES, SIDE_LANDMARKS, type SideLandmark } from '../../../core/landmarks/landmarks.ts';
import { toPlane, type PlaneMap } from '../../../core/camera/plane.ts';
import { pointAt, type Tracks } from '../../../core/tracking/tracks.ts';
import { degrees, quoted, type Convention } from '../words/angleText';
import type { ViewSize } from './ClipView';
import { dimensionOf, PLATE_HEIGHT, spreadPlates } from './dimensions';

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
  const shown = SHOWN.flatMap((key) => {
    const value = jointAngleDeg(key, plane);
    if (!Number.isFinite(value)) return [];
    const text = degrees(quoted(key, value, convention), 0);
    const width = text.length * 9.5 + 8;
    return [{ key, text, width, ...dimensionOf(key, { film, screen, map, convention, plateWidth: width }) }];
  });
  const plates = spreadPlates(shown.map((d) => ({ ...d.plate, width: d.width })));
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
        {shown.map((d) => (
          <Group key={d.key}>
            {d.baseTo && (
              <>
                <Line
                  points={[d.vertex.x, d.vertex.y, d.baseTo.x, d.baseTo.y]}
                  stroke={palette.ink.plate}
                  strokeWidth={4}
                />
                <Line
                  points={[d.vertex.x, d.vertex.y, d.baseTo.x, d.baseTo.y]}
                  stroke={palette.ink.line}
                  strokeWidth={1}
                  dash={[5, 4]}
                />
              </>
            )}
            {[
              { stroke: palette.ink.plate, strokeWidth: 5 },
              { stroke: palette.primary.main, strokeWidth: 2 },
            ].map((pen) => (
              <Arc
                key={pen.strokeWidth}
                {...d.vertex}
                innerRadius={d.radius}
                outerRadius={d.radius}
                rotation={d.startDeg}
                angle={d.sweepDeg}
                {...pen}
              />
            ))}
          </Group>
        ))}
        {shown.map((d, i) => (
          <Group key={d.key} x={plates[i].x - d.width / 2} y={plates[i].y - PLATE_HEIGHT / 2}>
            <Rect width={d.width} height={PLATE_HEIGHT} fill={palette.ink.plate} cornerRadius={2} />
            <Text
              width={d.width}
              y={3}
              align="center"
              text={d.text}
              fontSize={17}
              fontStyle="600"
              fontFamily="Archivo Variable"
              fill={palette.ink.line}
            />
          </Group>
        ))}
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
