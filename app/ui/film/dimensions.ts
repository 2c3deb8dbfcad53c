import { DEG_PER_RAD, RAD_PER_DEG, turnDeg } from '../../../core/math/angles.ts';
import type { Vec2 } from '../../../core/math/vec.ts';
import { ANGLE_SHAPES, type AnyAngleKey, type SideKey } from '../../../core/kinematics/angles.ts';
import type { PlaneMap } from '../../../core/camera/plane.ts';
import type { Convention } from '../words/angleText';

/** Where an angle's parts are drawn on the screen, pixels and degrees clockwise. */
export interface Dimension {
  vertex: Vec2;
  /** End of the line that the angle is counted from, where no limb stands for it. */
  baseTo: Vec2 | null;
  radius: number;
  startDeg: number;
  sweepDeg: number;
  /** Middle of the figure's plate. */
  plate: Vec2;
}

/**
 * An angle as a dimension on a drawing: a bend from the upper limb's line carried on, an inside angle between the limbs, a
 * direction from the horizontal.
 * @param film landmarks in the film's pixels  @param screen film to screen
 */
export function dimensionOf(
  angle: AnyAngleKey,
  {
    film,
    screen,
    map,
    convention,
    plateWidth,
  }: {
    film: Readonly<Partial<Record<SideKey, Vec2>>>;
    screen: (p: Vec2) => Vec2;
    map: PlaneMap;
    convention: Convention;
    plateWidth: number;
  },
): Dimension {
  const shape = ANGLE_SHAPES[angle];
  const right = map.facing === 'right';
  const at = (key: SideKey): Vec2 => film[key] ?? { x: NaN, y: NaN };
  const vertex = screen(at(shape.kind === 'inside' ? shape.vertex : shape.from));
  const bearing = (to: Vec2): number => {
    const q = screen(to);
    return Math.atan2(q.y - vertex.y, q.x - vertex.x) * DEG_PER_RAD;
  };
  const direction = shape.kind === 'direction';
  const bend = shape.kind === 'inside' && shape.flexion && convention === 'bend';
  const from =
    shape.kind === 'inside'
      ? bearing(at(shape.ends[0])) + (bend ? 180 : 0)
      : (right ? 0 : 180) + (shape.backward ? 180 : 0) - (right ? 1 : -1) * map.levelDeg;
  const sweepDeg = turnDeg(bearing(at(shape.kind === 'inside' ? shape.ends[1] : shape.to)), from);
  const radius = direction ? 62 : bend ? 40 : 32;
  const along = (deg: number, by: number): Vec2 => ({
    x: vertex.x + by * Math.cos(deg * RAD_PER_DEG),
    y: vertex.y + by * Math.sin(deg * RAD_PER_DEG),
  });
  const reach = radius * (direction ? 1.4 : 1.3);
  return {
    vertex,
    baseTo: bend || direction ? along(from, reach) : null,
    radius,
    startDeg: sweepDeg < 0 ? from + sweepDeg : from,
    sweepDeg: Math.abs(sweepDeg),
    // At the end of the horizontal, or beyond the arc, so that the stickers stay free.
    plate: direction ? along(from, reach + plateWidth / 2 + 2) : along(from + sweepDeg / 2, radius + 20),
  };
}

export const PLATE_HEIGHT = 22;

/** Moves plates that would cover an earlier one down, or up where that is nearer, until none overlap. */
export function spreadPlates(plates: readonly (Vec2 & { width: number })[]): Vec2[] {
  const placed: (Vec2 & { width: number })[] = [];
  for (const plate of plates) {
    const free = (y: number): boolean =>
      placed.every(
        (p) =>
          Math.abs(p.x - plate.x) >= (p.width + plate.width) / 2 + 2 || Math.abs(p.y - y) >= PLATE_HEIGHT + 2,
      );
    let y = plate.y;
    for (let k = 1; !free(y) && k < 60; k += 1) y = plate.y + (k % 2 ? 1 : -1) * Math.ceil(k / 2) * 4;
    placed.push({ ...plate, y });
  }
  return placed;
}
