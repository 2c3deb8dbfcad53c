import { bisectLeft } from 'd3';
import type { Vec2 } from '../../core/math/vec.ts';

export type Rgb = readonly [number, number, number];

/** A picture being drawn: interleaved 8-bit RGB. A layer also carries how much of each pixel it covers (0…1). */
export interface Raster {
  width: number;
  height: number;
  rgb: Uint8ClampedArray;
  cover?: Float32Array;
  /** What was drawn on lies within this, since it was last forgotten. */
  drawn: Box;
}

/** Whole pixels, both ends counted in; empty where it ends before it begins. */
export interface Box {
  x0: number;
  y0: number;
  x1: number;
  y1: number;
}

export const noBox = (): Box => ({ x0: Infinity, y0: Infinity, x1: -1, y1: -1 });

/** Makes a box reach round another one too. */
export function grow(box: Box, by: Box): void {
  box.x0 = Math.min(box.x0, by.x0);
  box.y0 = Math.min(box.y0, by.y0);
  box.x1 = Math.max(box.x1, by.x1);
  box.y1 = Math.max(box.y1, by.y1);
}

/** Shows another picture of the same size within a box. */
export function clear(r: Raster, to: Raster, { x0, y0, x1, y1 }: Box): void {
  for (let y = y0; y <= y1; y += 1) {
    const [from, end] = [3 * (y * r.width + x0), 3 * (y * r.width + x1 + 1)];
    r.rgb.set(to.rgb.subarray(from, end), from);
  }
}

export function newRaster(width: number, height: number): Raster {
  return { width, height, rgb: new Uint8ClampedArray(width * height * 3), drawn: noBox() };
}

/** An empty layer: what is drawn on it can be laid over other pictures again and again. */
export function newLayer(width: number, height: number): Raster {
  return { ...newRaster(width, height), cover: new Float32Array(width * height) };
}

/**
 * Lays a layer over a picture of the same size, or over a part of it.
 * @param covered the layer's covered pixels, in order (see `coveredPixels`)
 */
export function layOver(r: Raster, layer: Raster, covered: Uint32Array, part: Box = layer.drawn): void {
  grow(r.drawn, part);
  const { width } = r;
  const to = width * (part.y1 + 1);
  for (let i = bisectLeft(covered, width * part.y0); i < covered.length && covered[i] < to; i += 1) {
    const n = covered[i];
    const x = n % width;
    if (x < part.x0 || x > part.x1) continue;
    const keep = 1 - layer.cover![n];
    const k = 3 * n;
    r.rgb[k] = r.rgb[k] * keep + layer.rgb[k];
    r.rgb[k + 1] = r.rgb[k + 1] * keep + layer.rgb[k + 1];
    r.rgb[k + 2] = r.rgb[k + 2] * keep + layer.rgb[k + 2];
  }
}

/** The indices of the pixels that a layer covers at all. */
export function coveredPixels(layer: Raster): Uint32Array {
  const out: number[] = [];
  layer.cover!.forEach((c, n) => {
    if (c > 0) out.push(n);
  });
  return Uint32Array.from(out);
}

/** A repeatable value −1…1 for a cell of a grid: weave, wood, tiles. */
export function cellNoise(i: number, j: number, seed: number): number {
  let h = Math.imul(i, 374761393) + Math.imul(j, 668265263) + Math.imul(seed, 2147483647);
  h = Math.imul(h ^ (h >>> 13), 1274126177);
  return ((h ^ (h >>> 16)) >>> 0) / 2147483648 - 1;
}

// eslint-disable-next-line max-params -- called for every pixel: no object is made for it
function blend(r: Raster, x: number, y: number, colour: Rgb, light: number, cover: number): void {
  const k = (y * r.width + x) * 3;
  const keep = 1 - cover;
  if (r.cover) r.cover[y * r.width + x] = r.cover[y * r.width + x] * keep + cover;
  r.rgb[k] = r.rgb[k] * keep + colour[0] * light * cover;
  r.rgb[k + 1] = r.rgb[k + 1] * keep + colour[1] * light * cover;
  r.rgb[k + 2] = r.rgb[k + 2] * keep + colour[2] * light * cover;
}

/** The whole pixels about points, a margin wider, as far as they lie in the picture, which is then drawn on there: x from, y from, x to, y to. */
function box(r: Raster, points: readonly Vec2[], margin: number): [number, number, number, number] {
  const xs = points.map((p) => p.x);
  const ys = points.map((p) => p.y);
  const about: Box = {
    x0: Math.max(0, Math.floor(Math.min(...xs) - margin)),
    y0: Math.max(0, Math.floor(Math.min(...ys) - margin)),
    x1: Math.min(r.width - 1, Math.ceil(Math.max(...xs) + margin)),
    y1: Math.min(r.height - 1, Math.ceil(Math.max(...ys) + margin)),
  };
  grow(r.drawn, about);
  return [about.x0, about.y0, about.x1, about.y1];
}

export interface ConeLook {
  colour: Rgb;
  /** 0 flat … 1 strongly rounded by the light from above. */
  roundness?: number;
  /** Contrast of the cloth's weave, share of the brightness. */
  weave?: number;
  seed?: number;
  /** From this share of the length on, the other colour: shorts to skin, sock to shoe. */
  split?: { at: number; colour: Rgb };
}

/** One end of a limb, px. */
export interface LimbEnd {
  at: Vec2;
  radiusPx: number;
}

/** A limb: a cone with round ends, lit from above, its cloth fixed to it. */
export function fillLimb(
  r: Raster,
  { at: a, radiusPx: ra }: LimbEnd,
  { at: b, radiusPx: rb }: LimbEnd,
  look: ConeLook,
): void {
  const dx = b.x - a.x;
  const dy = b.y - a.y;
  const length = Math.hypot(dx, dy) || 1e-6;
  const ux = dx / length;
  const uy = dy / length;
  const m = Math.max(ra, rb) + 1;
  const [x0, y0, x1, y1] = box(r, [a, b], m);
  const roundness = look.roundness ?? 0.5;
  for (let y = y0; y <= y1; y += 1) {
    const py = y - a.y;
    // Only the stretch of the row that the limb's slab can touch: long thin tubes have wide boxes.
    let from = x0;
    let to = x1;
    if (Math.abs(uy) > 0.05) {
      const p = (py * ux - m) / uy + a.x;
      const q = (py * ux + m) / uy + a.x;
      from = Math.max(x0, Math.floor(Math.min(p, q)));
      to = Math.min(x1, Math.ceil(Math.max(p, q)));
    }
    for (let x = from; x <= to; x += 1) {
      const px = x - a.x;
      const along = px * ux + py * uy;
      const across = py * ux - px * uy;
      const t = Math.min(1, Math.max(0, along / length));
      const radius = ra + (rb - ra) * t;
      const over = along - t * length;
      const gap = (over === 0 ? Math.abs(across) : Math.sqrt(over * over + across * across)) - radius;
      if (gap > 0.5) continue;
      const cover = gap < -0.5 ? 1 : 0.5 - gap;
      const side = (across / radius) * (ux >= 0 ? 1 : -1);
      let light = 1 - roundness * 0.5 * side * Math.abs(side) - roundness * 0.25 * side;
      if (look.weave) {
        light += look.weave * cellNoise(Math.floor(along / 3), Math.floor(across / 3), look.seed ?? 1);
      }
      const colour = look.split && along / length > look.split.at ? look.split.colour : look.colour;
      blend(r, x, y, colour, light, cover);
    }
  }
}

/** A flat disc with a soft edge. */
export function fillDisc(r: Raster, c: Vec2, radius: number, colour: Rgb): void {
  const [x0, y0, x1, y1] = box(r, [c], radius + 1);
  for (let y = y0; y <= y1; y += 1) {
    for (let x = x0; x <= x1; x += 1) {
      const gap = Math.sqrt((x - c.x) ** 2 + (y - c.y) ** 2) - radius;
      if (gap < 0.5) blend(r, x, y, colour, 1, Math.min(1, 0.5 - gap));
    }
  }
}

/** A ring (tyre, rim) stretched to an ellipse by the camera's yaw. */
export function fillRing(
  r: Raster,
  c: Vec2,
  { rx, ry, widthPx }: { rx: number; ry: number; widthPx: number },
  colour: Rgb,
): void {
  const corners = [
    { x: c.x - rx, y: c.y - ry },
    { x: c.x + rx, y: c.y + ry },
  ];
  const [x0, y0, x1, y1] = box(r, corners, widthPx);
  for (let y = y0; y <= y1; y += 1) {
    for (let x = x0; x <= x1; x += 1) {
      const ex = (x - c.x) / rx;
      const ey = (y - c.y) / ry;
      const gap = Math.abs(Math.sqrt(ex * ex + ey * ey) - 1) * Math.min(rx, ry) - widthPx / 2;
      if (gap < 0.5) blend(r, x, y, colour, 1, Math.min(1, 0.5 - gap));
    }
  }
}

/** A convex polygon, corners in either turning sense, with a soft edge. */
export function fillConvex(r: Raster, corners: readonly Vec2[], colour: Rgb, weave = 0): void {
  const [x0, y0, x1, y1] = box(r, corners, 1);
  const n = corners.length;
  let area = 0;
  corners.forEach((c, i) => {
    const d = corners[(i + 1) % n];
    area += c.x * d.y - d.x * c.y;
  });
  const sense = Math.sign(area) || 1;
  const edges = corners.map((c, i) => {
    const d = corners[(i + 1) % n];
    const l = Math.hypot(d.x - c.x, d.y - c.y) || 1e-6;
    return { c, nx: (sense * (d.y - c.y)) / l, ny: (-sense * (d.x - c.x)) / l };
  });
  for (let y = y0; y <= y1; y += 1) {
    for (let x = x0; x <= x1; x += 1) {
      let gap = -Infinity;
      for (const e of edges) gap = Math.max(gap, (x - e.c.x) * e.nx + (y - e.c.y) * e.ny);
      if (gap >= 0.5) continue;
      const light = weave ? 1 + weave * cellNoise(x >> 2, y >> 2, 5) : 1;
      blend(r, x, y, colour, light, Math.min(1, 0.5 - gap));
    }
  }
}
