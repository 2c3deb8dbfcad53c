/** A point or a vector in a plane: image pixels (y down) or bike-plane millimetres (y up), said by the name that holds it. */
export interface Vec2 {
  x: number;
  y: number;
}

/** a − b. */
export const sub = (a: Vec2, b: Vec2): Vec2 => ({ x: a.x - b.x, y: a.y - b.y });

/** a · b. */
export const dot = (a: Vec2, b: Vec2): number => a.x * b.x + a.y * b.y;

/** The distance between two points, in their own unit. */
export const distance = (a: Vec2, b: Vec2): number => Math.hypot(a.x - b.x, a.y - b.y);

/** True where neither coordinate is NaN or infinite: an unseen landmark is held as NaN. */
export const isSeen = (p: Vec2): boolean => Number.isFinite(p.x) && Number.isFinite(p.y);
