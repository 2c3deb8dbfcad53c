/** A point or a vector in any plane. Where the plane is known, one of the two below says which: they cannot be mixed. */
export interface Vec2 {
  x: number;
  y: number;
}

/** Which plane a point lies in: for the compiler alone, no value ever has it. */
declare const plane: unique symbol;

/** In a film's picture: pixels, origin top left, y down. */
export interface ImagePoint extends Vec2 {
  readonly [plane]?: 'image, px';
}

/** In the bike's plane: millimetres about the bottom bracket, x forward, y up. */
export interface PlanePoint extends Vec2 {
  readonly [plane]?: 'bike, mm';
}

/** a − b. */
export const sub = (a: Vec2, b: Vec2): Vec2 => ({ x: a.x - b.x, y: a.y - b.y });

/** a · b. */
export const dot = (a: Vec2, b: Vec2): number => a.x * b.x + a.y * b.y;

/** The distance between two points, in their own unit. `Math.hypot` sees to squares that overflow, and takes several times as long. */
export const distance = (a: Vec2, b: Vec2): number => Math.sqrt((a.x - b.x) ** 2 + (a.y - b.y) ** 2);

/** True where neither coordinate is NaN or infinite: an unseen landmark is held as NaN. */
export const isSeen = (p: Vec2): boolean => Number.isFinite(p.x) && Number.isFinite(p.y);
