import type { ImagePoint } from '../math/vec.ts';
import { bounds, CHROMA_WEIGHT, type PlanarFrame } from './frame.ts';
import type { Sticker } from './sticker.ts';

/** A place that looks like the sticker, coarsely: 0…1, how much more of its disc has the colour than of what surrounds it. */
export interface Candidate extends ImagePoint {
  score: number;
}

/** Likeness in whole numbers: 0 for another colour, this for the sticker's very own. */
const FULL = 1024;
/** Below this a place is not worth a closer look. */
const LEAST_SCORE = 0.25;
/** Working memory, kept between calls: this runs eight times a frame. */
let table = new Int32Array(0);
let scores = new Float32Array(0);

interface Window {
  x0: number;
  y0: number;
  w: number;
  h: number;
}

/** Sums each pixel's likeness to the sticker into `table`: a summed-area table, one row and column wider than the window. */
function sumLikeness(f: PlanarFrame, s: Sticker, { x0, y0, w, h }: Window): void {
  const line = w + 1;
  if (table.length < line * (h + 1)) table = new Int32Array(line * (h + 1));
  const sums = table;
  const { y: luma, u: chromaU, v: chromaV, chromaStep } = f;
  const [ys, us, vs] = s.colour;
  const tau2 = (0.65 * s.contrast) ** 2;
  const perDistance = FULL / tau2;
  sums.fill(0, 0, line);
  for (let j = 0; j < h; j += 1) {
    const yRow = (y0 + j) * f.yStride + x0;
    const cRow = ((y0 + j) >> 1) * f.chromaStride;
    const to = (j + 1) * line + 1;
    let row = 0;
    sums[to - 1] = 0;
    for (let i = 0; i < w; i += 1) {
      const dy = luma[yRow + i] - ys;
      const luma2 = dy * dy;
      if (luma2 < tau2) {
        const c = cRow + ((x0 + i) >> 1) * chromaStep;
        const du = chromaU[c] - us;
        const dv = chromaV[c] - vs;
        const d2 = luma2 + CHROMA_WEIGHT * (du * du + dv * dv);
        if (d2 < tau2) row += (FULL - d2 * perDistance) | 0;
      }
      sums[to + i] = sums[to + i - line] + row;
    }
  }
}

/** Of every place in the window, into `scores`: the likeness of a box of the sticker's size less that of the frame round it. */
// eslint-disable-next-line max-params -- called for every pixel row: no object is made for it
function scoreBoxes(w: number, gw: number, gh: number, half: number, around: number): void {
  if (scores.length < gw * gh) scores = new Float32Array(gw * gh);
  const sums = table;
  const out = scores;
  const line = w + 1;
  const side = 2 * half + 1;
  const frameSide = 2 * around + 1;
  const inner = side * side;
  const outer = frameSide * frameSide - inner;
  const least = 0.3 * inner * FULL;
  const gap = around - half;
  for (let j = 0; j < gh; j += 1) {
    const top = j * line;
    const low = top + frameSide * line;
    const boxTop = (j + gap) * line + gap;
    const boxLow = boxTop + side * line;
    for (let i = 0; i < gw; i += 1) {
      const box = sums[boxLow + i + side] - sums[boxLow + i] - sums[boxTop + i + side] + sums[boxTop + i];
      if (box < least) out[j * gw + i] = 0;
      else {
        const whole = sums[low + i + frameSide] - sums[low + i] - sums[top + i + frameSide] + sums[top + i];
        out[j * gw + i] = (box / inner - (whole - box) / outer) / FULL;
      }
    }
  }
}

/** Where `scores` is higher than to the right and below, and no lower than to the left and above. */
function peaks(gw: number, gh: number): Candidate[] {
  const v = scores;
  const found: Candidate[] = [];
  for (let j = 0; j < gh; j += 1) {
    for (let i = 0; i < gw; i += 1) {
      const k = j * gw + i;
      const score = v[k];
      if (score < LEAST_SCORE) continue;
      if (i > 0 && v[k - 1] > score) continue;
      if (j > 0 && v[k - gw] > score) continue;
      if (i < gw - 1 && v[k + 1] >= score) continue;
      if (j < gh - 1 && v[k + gw] >= score) continue;
      found.push({ x: i, y: j, score });
    }
  }
  return found;
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
  { near, reachPx, most }: { near: ImagePoint; reachPx: number; most: number },
): Candidate[] {
  const half = Math.max(1, Math.round(s.radiusPx * 0.8));
  const around = half + Math.max(3, Math.round(s.radiusPx * 0.8));
  const pad = around + 1;
  const { left, top, right, bottom } = bounds(f);
  const x0 = Math.max(left, Math.floor(near.x - reachPx) - pad);
  const y0 = Math.max(top, Math.floor(near.y - reachPx) - pad);
  const w = Math.min(right, Math.ceil(near.x + reachPx) + pad) - x0 + 1;
  const h = Math.min(bottom, Math.ceil(near.y + reachPx) + pad) - y0 + 1;
  if (w < 2 * pad + 1 || h < 2 * pad + 1) return [];
  sumLikeness(f, s, { x0, y0, w, h });
  const gw = w - 2 * around;
  const gh = h - 2 * around;
  scoreBoxes(w, gw, gh, half, around);
  const found = peaks(gw, gh).map(({ x, y, score }) => {
    const at = { x: x0 + around + x, y: y0 + around + y };
    const far = Math.hypot(at.x - near.x, at.y - near.y) / Math.max(1, reachPx);
    return { ...at, score, worth: score - 0.2 * far };
  });
  found.sort((p, q) => q.worth - p.worth);
  const apart2 = (1.2 * s.radiusPx) ** 2;
  const kept: Candidate[] = [];
  for (const { x, y, score } of found) {
    if (kept.length >= most) break;
    if (kept.every((k) => (k.x - x) ** 2 + (k.y - y) ** 2 > apart2)) kept.push({ x, y, score });
  }
  return kept;
}
