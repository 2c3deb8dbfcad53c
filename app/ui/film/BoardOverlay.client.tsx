import { useTheme } from '@mui/material/styles';
import { memo, useState } from 'react';
import { Circle, Group, Layer, Line, Rect, Stage, Text } from './canvas';
import type { ImagePoint, Vec2 } from '../../../core/math/vec.ts';
import type { ViewSize } from './ClipView';
import type { BoardItem, BoardPoints } from './boardPoints';

interface Props {
  size: ViewSize;
  items: readonly BoardItem[];
  points: BoardPoints;
  lines: readonly (readonly [string, string])[];
  selected: string | null;
  faded: boolean;
  /** Proposed places: drawn hollow, not yet taken. */
  ghosts?: Readonly<Record<string, { x: number; y: number; name: string }>> | null;
  onHover: (at: ImagePoint) => void;
  onPlace: (at: ImagePoint) => void;
  onSelect: (key: string) => void;
  onDrag: (at: ImagePoint) => void;
  onDrop: (key: string, at: ImagePoint) => void;
}

/** Points that stand close together have their names on different sides. */
const LABEL_SIDE: Record<string, { left: boolean; up: boolean }> = {
  heel: { left: true, up: false },
  ankle: { left: false, up: true },
  hip: { left: true, up: false },
  sacrum: { left: true, up: true },
  c7: { left: true, up: true },
  wrist: { left: false, up: true },
};

const ARMS = [
  [-13, 0, -4, 0],
  [4, 0, 13, 0],
  [0, -13, 0, -4],
  [0, 4, 0, 13],
];

/** One point’s cross with its name; the layer hears what is done to it, by its id, so that the others need not be drawn anew. */
const Cross = memo(function Cross({
  id,
  name,
  quiet,
  x,
  y,
  on,
  left,
  up,
  reach,
}: {
  id: string;
  name: string;
  /** Without its name. */
  quiet: boolean;
  x: number;
  y: number;
  on: boolean;
  left: boolean;
  up: boolean;
  /** How near a pointer takes hold of it, screen px. */
  reach: number;
}) {
  const { palette } = useTheme();
  const width = name.length * 7.2 + 10;
  const colour = on ? palette.primary.main : palette.ink.line;
  return (
    <Group id={id} name="cross" x={x} y={y} draggable>
      <Circle radius={reach} fill="transparent" />
      {ARMS.map((l) => (
        <Group key={l.join()} listening={false}>
          <Line points={l} stroke={palette.ink.plate} strokeWidth={4} />
          <Line points={l} stroke={colour} strokeWidth={on ? 2.2 : 1.5} />
        </Group>
      ))}
      {!quiet && (
        <Group x={left ? -width - 9 : 9} y={up ? -25 : 7} listening={false}>
          <Rect width={width} height={18} fill={palette.ink.plate} />
          <Text x={5} y={3} text={name} fontSize={13} fontFamily="Archivo Variable" fill={colour} />
        </Group>
      )}
    </Group>
  );
});

/** Points over the film: fine crosses with their names, joined by dash-dot centre lines as on a drawing. */
export function BoardOverlay({
  size,
  items,
  points: settled,
  lines,
  selected,
  faded,
  ghosts,
  onHover,
  onPlace,
  onSelect,
  onDrag,
  onDrop,
}: Props) {
  const { palette } = useTheme();
  const [dragged, setDragged] = useState<{ key: string; at: ImagePoint } | null>(null);
  const held = dragged && settled[dragged.key];
  const points = dragged && held ? { ...settled, [dragged.key]: { ...held, ...dragged.at } } : settled;
  const placing = selected !== null && !settled[selected];
  const k = size.scale;
  // Behind is on the other side of a rider who faces left.
  const { heel, toe } = points;
  const facesLeft = heel !== undefined && toe !== undefined && toe.x < heel.x;
  const sideOf = (key: string): { left: boolean; up: boolean } => {
    const side = LABEL_SIDE[key];
    return side ? { left: side.left !== facesLeft, up: side.up } : { left: facesLeft, up: false };
  };
  // Pixel centres are whole numbers in the film's coordinates, so half a pixel lies between them and the canvas's corner.
  const toScreen = (p: ImagePoint): Vec2 => ({ x: (p.x + 0.5) * k, y: (p.y + 0.5) * k });
  const toFilm = (p: ImagePoint): ImagePoint => ({ x: p.x / k - 0.5, y: p.y / k - 0.5 });
  return (
    <Stage
      width={size.widthPx}
      height={size.heightPx}
      style={{ cursor: 'crosshair', touchAction: 'none' }}
      onPointerMove={(e) => {
        const p = e.target.getStage()?.getPointerPosition();
        if (p) onHover(toFilm(p));
      }}
      onPointerDown={(e) => {
        const stage = e.target.getStage();
        const p = stage?.getPointerPosition();
        if (p && e.target === stage) onPlace(toFilm(p));
      }}
    >
      <Layer
        opacity={faded ? 0.35 : 1}
        onPointerDown={(e) => {
          const cross = e.target.findAncestor('.cross', true);
          if (cross) onSelect(cross.id());
        }}
        onDragStart={(e) => onSelect(e.target.id())}
        onDragMove={(e) => {
          const at = toFilm(e.target.position());
          setDragged({ key: e.target.id(), at });
          onDrag(at);
        }}
        onDragEnd={(e) => {
          setDragged(null);
          onDrop(e.target.id(), toFilm(e.target.position()));
        }}
      >
        {lines.map(([a, b]) => {
          const p = points[a];
          const q = points[b];
          if (!p || !q) return null;
          const [s, t] = [toScreen(p), toScreen(q)];
          return (
            <Group key={`${a}-${b}`} listening={false}>
              <Line points={[s.x, s.y, t.x, t.y]} stroke={palette.ink.plate} strokeWidth={4} />
              <Line
                points={[s.x, s.y, t.x, t.y]}
                stroke={palette.ink.line}
                strokeWidth={1.2}
                dash={[14, 4, 3, 4]}
              />
            </Group>
          );
        })}
        {items.map((item) => {
          const point = points[item.key];
          if (!point) return null;
          const side = sideOf(item.key);
          return (
            <Cross
              key={item.key}
              name={item.plain}
              id={item.key}
              quiet={item.quiet ?? false}
              {...toScreen(point)}
              on={item.key === selected}
              left={side.left}
              up={side.up}
              // While a point is asked for, the ones that stand give way: ankle and heel are a finger's width apart.
              reach={placing ? 9 : 22}
            />
          );
        })}
      </Layer>
      {ghosts && (
        <Layer listening={false}>
          {Object.entries(ghosts).map(([key, g]) => {
            const p = toScreen(g);
            const width = g.name.length * 7.2 + 10;
            const { left } = sideOf(key);
            return (
              <Group key={`ghost-${key}`} x={p.x} y={p.y} listening={false}>
                <Circle radius={11} stroke={palette.ink.plate} strokeWidth={4} />
                <Circle radius={11} stroke={palette.primary.main} strokeWidth={1.8} dash={[4, 3]} />
                <Rect
                  x={left ? -width - 14 : 14}
                  y={-10}
                  width={width}
                  height={20}
                  fill={palette.ink.plate}
                />
                <Text
                  x={left ? -width - 9 : 19}
                  y={-6}
                  text={g.name}
                  fontSize={13}
                  fontFamily="Archivo Variable"
                  fill={palette.primary.main}
                />
              </Group>
            );
          })}
        </Layer>
      )}
    </Stage>
  );
}
