import type { ImagePoint } from '../math/vec.ts';
import { CHROMA_WEIGHT, type PlanarFrame, type Yuv } from './frame.ts';

/** A place that is set off from all that surrounds it, as a dot is: where, how large, of what colour, how clearly. */
export interface RawSpot extends ImagePoint {
  radiusPx: number;
  colour: Yuv;
  /** Colour distance to the least unlike of its sides but one, grey levels. */
  contrast: number;
}

/** Radii looked for, share of the picture's height (3 to 12 px at 720): each two fifths larger than the one before. */
const RADII_SHARE = [0.0042, 0.0059, 0.0083, 0.0117, 0.0164];
const LEAST_RADIUS_PX = 1.8;
/** What is set off by less is lost in the grain. */
const LEAST_CONTRAST = 14;

/** Sums of a plane above and to the left of each place, one row and column wider than the plane; `line` entries a row. */
interface Sums {
  line: number;
  sum: Int32Array;
}

// eslint-disable-next-line max-params -- a plane as the decoder hands it over
function sumsOf(plane: Uint8Array, width: number, height: number, stride: number, step: number): Sums {
  const line = width + 1;
  const sum = new Int32Array(line * (height + 1));
  for (let y = 0; y < height; y += 1) {
    let row = 0;
    const from = y * stride;
    const to = (y + 1) * line + 1;
    for (let x = 0; x < width; x += 1) {
      row += plane[from + x * step];
      sum[to + x] = sum[to - line + x] + row;
    }
  }
  return { line, sum };
}

/** Sum over a box of whole pixels from a place of the table on; the box lies inside the plane. @param down the box's side, in lines */
const boxSum = (sum: Int32Array, at: number, side: number, down: number): number =>
  sum[at + down + side] - sum[at + down] - sum[at + side] + sum[at];

/** Sides about a spot, in shares of the way to them. */
const ABOUT = [
  [1, 0],
  [-1, 0],
  [0, 1],
  [0, -1],
  [0.75, 0.75],
  [-0.75, 0.75],
  [0.75, -0.75],
  [-0.75, -0.75],
] as const;

/** Whether two spots are two: further apart than one and a half radii of the larger. */
function isClearOf(a: RawSpot, b: RawSpot): boolean {
  const [dx, dy] = [a.x - b.x, a.y - b.y];
  const reach = 1.5 * Math.max(a.radiusPx, b.radiusPx);
  return dx * dx + dy * dy > reach * reach;
}

/**
 * All dots of a picture, of any colour and of sizes between: the mean colour of a box is compared with that of eight boxes about it,
 * by summed-area tables; what differs from all of them but one is a dot.
 * @returns the clearest first, at most `most`
 */
// eslint-disable-next-line max-lines-per-function -- the innermost loop, written out: it runs dozens of times for a frame
export function findSpots(f: PlanarFrame, most = 160): RawSpot[] {
  const luma = sumsOf(f.y, f.width, f.height, f.yStride, 1);
  const [cw, ch] = [f.width >> 1, f.height >> 1];
  const u = sumsOf(f.u, cw, ch, f.chromaStride, f.chromaStep);
  const v = sumsOf(f.v, cw, ch, f.chromaStride, f.chromaStep);
  const found: RawSpot[] = [];
  for (const share of RADII_SHARE) {
    const radius = share * f.height;
    if (radius < LEAST_RADIUS_PX) continue;
    // A square inside the disc; its neighbours lie clear of the disc.
    const half = Math.max(1, Math.round(0.62 * radius));
    const side = 2 * half + 1;
    const away = Math.round(radius + half + 1.5);
    const step = Math.max(1, Math.round(0.6 * radius));
    const margin = away + half + 1;
    const cHalf = Math.max(0, Math.round(half / 2 - 0.25));
    const cSide = 2 * cHalf + 1;
    // Where the colours' boxes of each column and row begin; at the edges they are pushed inside.
    const chromaX = Int32Array.from({ length: f.width }, (_, x) =>
      Math.min(cw - cSide, Math.max(0, (x >> 1) - cHalf)),
    );
    const chromaY = Int32Array.from(
      { length: f.height },
      (_, y) => u.line * Math.min(ch - cSide, Math.max(0, (y >> 1) - cHalf)),
    );
    // Where the boxes about a place begin in their tables.
    const lumaAt = (x: number, y: number): number => (y - half) * luma.line + x - half;
    const chromaAt = (x: number, y: number): number => chromaY[y] + chromaX[x];
    const [down, cDown] = [side * luma.line, cSide * u.line];
    const [area, cArea] = [side * side, cSide * cSide];
    const about = ABOUT.map(([dx, dy]) => ({ dx: Math.round(dx * away), dy: Math.round(dy * away) }));
    const steps = about.map(({ dx, dy }) => dy * luma.line + dx);
    const columns = Math.floor((f.width - 2 * margin) / step);
    const rows = Math.floor((f.height - 2 * margin) / step);
    if (columns < 3 || rows < 3) continue;
    const score = new Float32Array(columns * rows);
    for (let j = 0; j < rows; j += 1) {
      const y = margin + j * step;
      for (let i = 0; i < columns; i += 1) {
        const x = margin + i * step;
        const at = lumaAt(x, y);
        const y0 = boxSum(luma.sum, at, side, down);
        let u0 = 0;
        let v0 = 0;
        let searched = false;
        let least = Infinity;
        let second = Infinity;
        for (let k = 0; k < steps.length; k += 1) {
          const dy = (boxSum(luma.sum, at + steps[k], side, down) - y0) / area;
          let d2 = dy * dy;
          if (d2 < 4000) {
            if (!searched) {
              const own = chromaAt(x, y);
              u0 = boxSum(u.sum, own, cSide, cDown);
              v0 = boxSum(v.sum, own, cSide, cDown);
              searched = true;
            }
            const there = chromaAt(x + about[k].dx, y + about[k].dy);
            const du = (boxSum(u.sum, there, cSide, cDown) - u0) / cArea;
            const dv = (boxSum(v.sum, there, cSide, cDown) - v0) / cArea;
            d2 += CHROMA_WEIGHT * (du * du + dv * dv);
          }
          if (d2 < least) {
            second = least;
            least = d2;
          } else if (d2 < second) second = d2;
          if (second < LEAST_CONTRAST * LEAST_CONTRAST) break;
        }
        score[j * columns + i] = second < LEAST_CONTRAST * LEAST_CONTRAST ? 0 : Math.sqrt(second);
      }
    }
    for (let j = 1; j < rows - 1; j += 1)
      for (let i = 1; i < columns - 1; i += 1) {
        const k = j * columns + i;
        const s = score[k];
        if (s === 0) continue;
        if (s < score[k - 1] || s <= score[k + 1] || s < score[k - columns] || s <= score[k + columns])
          continue;
        const x = margin + i * step;
        const y = margin + j * step;
        found.push({
          x,
          y,
          radiusPx: radius,
          contrast: s,
          colour: [
            boxSum(luma.sum, lumaAt(x, y), side, down) / area,
            boxSum(u.sum, chromaAt(x, y), cSide, cDown) / cArea,
            boxSum(v.sum, chromaAt(x, y), cSide, cDown) / cArea,
          ],
        });
      }
  }
  // Of several sizes at one place the clearest stands.
  found.sort((a, b) => b.contrast - a.contrast);
  const kept: RawSpot[] = [];
  for (const s of found) {
    if (kept.length >= most) break;
    if (kept.every((k) => isClearOf(k, s))) kept.push(s);
  }
  return kept;
}
