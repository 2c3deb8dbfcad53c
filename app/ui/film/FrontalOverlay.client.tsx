import { useTheme } from '@mui/material/styles';
import { Group, Layer, Line, Stage } from './canvas';
import { isSeen, type Vec2 } from '../../../core/math/vec.ts';
import { LINES } from '../../../core/landmarks/landmarks.ts';
import { pointAt, type Tracks } from '../../../core/tracking/tracks.ts';
import type { ViewSize } from './ClipView';

/** How much of a knee's way is drawn behind it, frames. */
const TRAIL_FRAMES = 90;

/** The body from the front or the rear: centre lines along what was marked, and the knees' ways so far. */
export function FrontalOverlay({ size, tracks, frame }: { size: ViewSize; tracks: Tracks; frame: number }) {
  const { palette } = useTheme();
  const k = size.scale;
  const screen = (p: Vec2): [number, number] => [(p.x + 0.5) * k, (p.y + 0.5) * k];
  const trail = (key: string): number[] => {
    const out: number[] = [];
    for (let i = Math.max(0, frame - TRAIL_FRAMES); i <= frame; i += 1) {
      const p = pointAt(tracks, key, i);
      if (isSeen(p)) out.push(...screen(p));
    }
    return out;
  };
  return (
    <Stage width={size.widthPx} height={size.heightPx} listening={false}>
      <Layer listening={false}>
        {['kneeR', 'kneeL'].map((key) => (
          <Line key={key} points={trail(key)} stroke={palette.primary.main} strokeWidth={2} opacity={0.8} />
        ))}
        {LINES.front.map(([a, b]) => {
          const [p, q] = [pointAt(tracks, a, frame), pointAt(tracks, b, frame)];
          if (!isSeen(p) || !isSeen(q)) return null;
          const points = [...screen(p), ...screen(q)];
          return (
            <Group key={`${a}-${b}`}>
              <Line points={points} stroke={palette.ink.plate} strokeWidth={4.5} />
              <Line points={points} stroke={palette.ink.line} strokeWidth={1.4} dash={[16, 4, 3, 4]} />
            </Group>
          );
        })}
      </Layer>
    </Stage>
  );
}
