import type { ImagePoint } from '../math/vec.ts';
import type { PlanarFrame } from './frame.ts';

/** A square of luma about a landmark that carries no sticker. */
export interface Patch {
  half: number;
  luma: Float32Array;
  /** Standard deviation of the first patch, grey levels: a flat one can't be followed. */
  texture: number;
}

const HALF = 11;

/** Luma between pixels, bilinear, clamped at the edge. */
function lumaAt(f: PlanarFrame, x: number, y: number): number {
  const cx = Math.min(f.width - 1.001, Math.max(0, x));
  const cy = Math.min(f.height - 1.001, Math.max(0, y));
  const ix = Math.floor(cx);
  const iy = Math.floor(cy);
  const fx = cx - ix;
  const fy = cy - iy;
  const k = iy * f.yStride + ix;
  const top = f.y[k] + fx * (f.y[k + 1] - f.y[k]);
  const low = f.y[k + f.yStride] + fx * (f.y[k + f.yStride + 1] - f.y[k + f.yStride]);
  return top + fy * (low - top);
}

/** Cuts the patch about a point. */
export function cutPatch(f: PlanarFrame, at: ImagePoint): Patch {
  const side = 2 * HALF + 1;
  const luma = new Float32Array(side * side);
  let sum = 0;
  let sum2 = 0;
  for (let j = 0; j < side; j += 1) {
    for (let i = 0; i < side; i += 1) {
      const v = lumaAt(f, at.x + i - HALF, at.y + j - HALF);
      luma[j * side + i] = v;
      sum += v;
      sum2 += v * v;
    }
  }
  const n = side * side;
  return { half: HALF, luma, texture: Math.sqrt(Math.max(0, sum2 / n - (sum / n) ** 2)) };
}

/** Zero-mean normalised correlation of the patch with the picture about a point, −1…1; `step` skips pixels. */
// eslint-disable-next-line max-params -- called for every place looked at: no object is made for it
function correlation(f: PlanarFrame, p: Patch, x: number, y: number, step: number): number {
  const side = 2 * p.half + 1;
  let n = 0;
  let sa = 0;
  let sb = 0;
  let saa = 0;
  let sbb = 0;
  let sab = 0;
  for (let j = 0; j < side; j += step) {
    for (let i = 0; i < side; i += step) {
      const a = p.luma[j * side + i];
      const b = lumaAt(f, x + i - p.half, y + j - p.half);
      n += 1;
      sa += a;
      sb += b;
      saa += a * a;
      sbb += b * b;
      sab += a * b;
    }
  }
  const va = saa - (sa * sa) / n;
  const vb = sbb - (sb * sb) / n;
  return va > 0 && vb > 0 ? (sab - (sa * sb) / n) / Math.sqrt(va * vb) : 0;
}

/**
 * Finds the patch near a point: a coarse search on every second pixel, then finer, then a parabola below the pixel.
 * @returns the place and its correlation, or null where nothing correlates over 0.4
 */
export function findPatch(
  f: PlanarFrame,
  p: Patch,
  near: ImagePoint,
  reachPx: number,
): (ImagePoint & { score: number }) | null {
  let best = { x: near.x, y: near.y, score: -1 };
  for (let dy = -reachPx; dy <= reachPx; dy += 2) {
    for (let dx = -reachPx; dx <= reachPx; dx += 2) {
      const score = correlation(f, p, near.x + dx, near.y + dy, 3);
      if (score > best.score) best = { x: near.x + dx, y: near.y + dy, score };
    }
  }
  // The coarse score skips pixels: it is not compared with the whole one.
  best.score = correlation(f, p, best.x, best.y, 1);
  for (const [span, step] of [
    [2, 1],
    [0.5, 0.5],
  ]) {
    const { x, y } = best;
    for (let dy = -span; dy <= span; dy += step) {
      for (let dx = -span; dx <= span; dx += step) {
        const score = correlation(f, p, x + dx, y + dy, 1);
        if (score > best.score) best = { x: x + dx, y: y + dy, score };
      }
    }
  }
  if (best.score < 0.4) return null;
  const peak = (a: number, b: number, c: number): number => {
    const bend = a - 2 * b + c;
    return bend < -1e-9 ? Math.max(-0.5, Math.min(0.5, (0.5 * (a - c)) / bend)) : 0;
  };
  const h = 0.5;
  const mid = best.score;
  const x =
    best.x +
    h * peak(correlation(f, p, best.x - h, best.y, 1), mid, correlation(f, p, best.x + h, best.y, 1));
  const y =
    best.y +
    h * peak(correlation(f, p, best.x, best.y - h, 1), mid, correlation(f, p, best.x, best.y + h, 1));
  return { x, y, score: mid };
}

/** Lets the patch follow slow changes (turning limb, light): a share of the new view is mixed in. */
export function refreshPatch(f: PlanarFrame, p: Patch, at: ImagePoint, share: number): void {
  const now = cutPatch(f, at);
  for (let k = 0; k < p.luma.length; k += 1) p.luma[k] += share * (now.luma[k] - p.luma[k]);
}
