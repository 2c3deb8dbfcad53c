import { median } from '../math/statistics.ts';
import type { Vec2 } from '../math/vec.ts';
import type { PlanarFrame } from '../tracking/frame.ts';

/** How far a picture stands from the first one, px; null where it can’t be known (a cut, a hand before the lens). */
export type Shift = { x: number; y: number } | null;

/** Places with a pattern that are looked for again on every picture. */
interface Pattern {
  x: number;
  y: number;
  luma: Float32Array;
  /** Summed squares of the place's own pattern: how much there is to go by. */
  pattern: number;
}

const SIDE_PX = 20;
const COLUMNS = 9;
const ROWS = 6;
/** Of the places with a pattern so many are kept. */
const KEPT = 20;
/** Searched this far about where the picture stood last, and so far when it is not there. */
const NEAR_PX = 2;
const FAR_PX = 16;
const COARSE_PX = 2;
/** A place whose pattern is off by more than this share of it is hidden, or another picture. */
const MISS = 0.6;
const LEAST_PLACES = 5;

function cut(f: PlanarFrame, x: number, y: number): Float32Array {
  const out = new Float32Array(SIDE_PX * SIDE_PX);
  let sum = 0;
  for (let j = 0; j < SIDE_PX; j += 1)
    for (let i = 0; i < SIDE_PX; i += 1) {
      const v = f.y[(y + j) * f.yStride + x + i];
      out[j * SIDE_PX + i] = v;
      sum += v;
    }
  const middle = sum / out.length;
  for (let k = 0; k < out.length; k += 1) out[k] -= middle;
  return out;
}

/** How unlike a place's pattern is what stands at a pixel, light apart, by every `step`th of its pixels; Infinity beyond the picture. */
// eslint-disable-next-line max-params -- called for every place that is tried: no object is made for it
function missAt(f: PlanarFrame, p: Pattern, x: number, y: number, step = 1): number {
  if (x < 0 || y < 0 || x + SIDE_PX > f.width || y + SIDE_PX > f.height) return Infinity;
  let [sum, squares, product, ownSum, n] = [0, 0, 0, 0, 0];
  for (let j = 0; j < SIDE_PX; j += step) {
    const row = (y + j) * f.yStride + x;
    for (let i = 0; i < SIDE_PX; i += step) {
      const v = f.y[row + i];
      sum += v;
      squares += v * v;
      product += v * p.luma[j * SIDE_PX + i];
      ownSum += p.luma[j * SIDE_PX + i];
      n += 1;
    }
  }
  // What is left of the pattern when it is laid over in the light of this picture: Σp²·(1 − r²), r their correlation.
  const own = squares - (sum * sum) / n;
  const alike = product - (sum * ownSum) / n;
  return own > 0 && alike > 0 ? p.pattern - (alike * alike) / own : p.pattern;
}

interface Hit {
  x: number;
  y: number;
  miss: number;
}

/** Where a pattern lies best within a reach of a place, px; `step`: from one try to the next, and between the pixels that are compared. */
function search(
  f: PlanarFrame,
  p: Pattern,
  { about, reach, step }: { about: Vec2; reach: number; step: number },
): Hit {
  let best = { x: about.x, y: about.y, miss: Infinity };
  for (let dy = -reach; dy <= reach; dy += step)
    for (let dx = -reach; dx <= reach; dx += step) {
      const miss = missAt(f, p, p.x + about.x + dx, p.y + about.y + dy, step);
      if (miss < best.miss) best = { x: about.x + dx, y: about.y + dy, miss };
    }
  return best;
}

/** As `search`, to a fraction of a pixel; far off by coarse steps first. */
function place(f: PlanarFrame, p: Pattern, about: Vec2, reach: number): Hit {
  const from = reach > NEAR_PX ? search(f, p, { about, reach, step: COARSE_PX }) : about;
  // A camera that stands has it where it was: no further tries then.
  const next = search(f, p, { about: from, reach: 1, step: 1 });
  const stands = next.x === from.x && next.y === from.y;
  const best = stands ? next : search(f, p, { about: from, reach: NEAR_PX, step: 1 });
  // Between the pixels: the parabola through the best one and its neighbours.
  const bend = (a: number, b: number): number => {
    const c = a - 2 * best.miss + b;
    return c > 0 && Number.isFinite(c) ? (0.5 * (a - b)) / c : 0;
  };
  const [px, py] = [p.x + best.x, p.y + best.y];
  return {
    x: best.x + bend(missAt(f, p, px - 1, py), missAt(f, p, px + 1, py)),
    y: best.y + bend(missAt(f, p, px, py - 1), missAt(f, p, px, py + 1)),
    miss: best.miss,
  };
}

/**
 * Watches whether the camera stands still: places with a pattern, all over the first picture, are looked for on each that follows;
 * the median of their shifts is the camera's, whoever moves before some of them.
 * @returns a function that gives the shift of each next picture
 */
export function watchSteadiness(first: PlanarFrame): (f: PlanarFrame) => Shift {
  const places: Pattern[] = [];
  for (let j = 0; j < ROWS; j += 1)
    for (let i = 0; i < COLUMNS; i += 1) {
      const x = Math.round(((i + 0.5) / COLUMNS) * first.width - SIDE_PX / 2);
      const y = Math.round(((j + 0.5) / ROWS) * first.height - SIDE_PX / 2);
      const luma = cut(first, x, y);
      places.push({ x, y, luma, pattern: luma.reduce((s, v) => s + v * v, 0) });
    }
  // A pattern in one direction alone slides along itself: what it is worth is its weaker direction.
  const kept = places.sort((a, b) => b.pattern - a.pattern).slice(0, KEPT);
  let last = { x: 0, y: 0 };
  const shiftBy = (f: PlanarFrame, reach: number): Shift => {
    const hits = kept
      .map((p) => ({ p, hit: place(f, p, last, reach) }))
      .filter(({ p, hit }) => hit.miss < MISS * p.pattern);
    if (hits.length < LEAST_PLACES) return null;
    return { x: median(hits.map(({ hit }) => hit.x)), y: median(hits.map(({ hit }) => hit.y)) };
  };
  return (f) => {
    let now = shiftBy(f, NEAR_PX);
    const atEdge = now && Math.max(Math.abs(now.x - last.x), Math.abs(now.y - last.y)) > NEAR_PX - 0.6;
    if (!now || atEdge) now = shiftBy(f, FAR_PX) ?? now;
    if (now) last = { x: Math.round(now.x), y: Math.round(now.y) };
    return now;
  };
}
