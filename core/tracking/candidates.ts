import type { Vec2 } from '../geometry/vec.ts';
import { colourDistance2, type PlanarFrame } from './frame.ts';
import type { Sticker } from './sticker.ts';

/** A place that looks like the sticker, coarsely: 0…1, how much more of its disc has the colour than of what surrounds it. */
export interface Candidate extends Vec2 {
  score: number;
}

/**
 * All places near a point that look like the sticker, best first.
 * Each pixel's likeness to the sticker's colour is summed over a box of the sticker's size, less the mean of a frame round it
 * (summed-area table): a dark leg is not a dark sticker. Local maxima at least a radius apart are kept; of equals the nearer
 * comes first.
 * @param reachPx half the window's side  @param most how many to return at the most
 */
export function findCandidates(
  f: PlanarFrame,
  s: Sticker,
  near: Vec2,
  reachPx: number,
  most: number,
): Candidate[] {
  const half = Math.max(1, Math.round(s.radiusPx * 0.8));
  const around = half + Math.max(3, Math.round(s.radiusPx * 0.8));
  const pad = around + 1;
  const x0 = Math.max(0, Math.floor(near.x - reachPx) - pad);
  const y0 = Math.max(0, Math.floor(near.y - reachPx) - pad);
  const x1 = Math.min(f.width - 1, Math.ceil(near.x + reachPx) + pad);
  const y1 = Math.min(f.height - 1, Math.ceil(near.y + reachPx) + pad);
  const w = x1 - x0 + 1;
  const h = y1 - y0 + 1;
  if (w < 2 * pad + 1 || h < 2 * pad + 1) return [];
  const tau2 = (0.65 * s.contrast) ** 2;
  const table = new Float64Array((w + 1) * (h + 1));
  for (let j = 0; j < h; j += 1) {
    let row = 0;
    const yRow = (y0 + j) * f.yStride;
    const cRow = ((y0 + j) >> 1) * f.chromaStride;
    for (let i = 0; i < w; i += 1) {
      const c = cRow + ((x0 + i) >> 1) * f.chromaStep;
      const d2 = colourDistance2(f.y[yRow + x0 + i], f.u[c], f.v[c], s.colour);
      row += d2 < tau2 ? 1 - d2 / tau2 : 0;
      table[(j + 1) * (w + 1) + i + 1] = table[j * (w + 1) + i + 1] + row;
    }
  }
  const sum = (i: number, j: number, reach: number): number => {
    const a = (j - reach) * (w + 1) + i - reach;
    const b = (j + reach + 1) * (w + 1) + i - reach;
    const side = 2 * reach + 1;
    return table[b + side] - table[b] - table[a + side] + table[a];
  };
  const inner = (2 * half + 1) ** 2;
  const outer = (2 * around + 1) ** 2 - inner;
  const gw = w - 2 * around;
  const gh = h - 2 * around;
  const scores = new Float32Array(gw * gh);
  for (let j = 0; j < gh; j += 1) {
    for (let i = 0; i < gw; i += 1) {
      const disc = sum(i + around, j + around, half);
      if (disc < 0.3 * inner) continue;
      scores[j * gw + i] = disc / inner - (sum(i + around, j + around, around) - disc) / outer;
    }
  }
  const found: Candidate[] = [];
  for (let j = 0; j < gh; j += 1) {
    for (let i = 0; i < gw; i += 1) {
      const v = scores[j * gw + i];
      if (v < 0.25) continue;
      const left = i > 0 ? scores[j * gw + i - 1] : 0;
      const right = i < gw - 1 ? scores[j * gw + i + 1] : 0;
      const up = j > 0 ? scores[(j - 1) * gw + i] : 0;
      const down = j < gh - 1 ? scores[(j + 1) * gw + i] : 0;
      if (v >= left && v > right && v >= up && v > down)
        found.push({ x: x0 + around + i, y: y0 + around + j, score: v });
    }
  }
  const worth = (c: Candidate): number =>
    c.score - (0.2 * Math.hypot(c.x - near.x, c.y - near.y)) / Math.max(1, reachPx);
  found.sort((a, b) => worth(b) - worth(a));
  const kept: Candidate[] = [];
  for (const c of found) {
    if (kept.length >= most) break;
    if (kept.every((k) => Math.hypot(k.x - c.x, k.y - c.y) > 1.2 * s.radiusPx)) kept.push(c);
  }
  return kept;
}
