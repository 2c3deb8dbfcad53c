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

/** Sums of a plane above and to the left of each place, one row and column wider than the plane. */
interface Sums {
  line: number;
  width: number;
  height: number;
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
  return { line, width, height, sum };
}

/** Mean over a box of whole pixels; the box lies inside the plane. */
function boxMean({ line, sum }: Sums, x: number, y: number, side: number): number {
  const a = y * line + x;
  const b = a + side * line;
  return (sum[b + side] - sum[b] - sum[a + side] + sum[a]) / (side * side);
}

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
    const chromaAt = (s: Sums, x: number, y: number): number =>
      boxMean(
        s,
        Math.min(cw - cSide, Math.max(0, (x >> 1) - cHalf)),
        Math.min(ch - cSide, Math.max(0, (y >> 1) - cHalf)),
        cSide,
      );
    const columns = Math.floor((f.width - 2 * margin) / step);
    const rows = Math.floor((f.height - 2 * margin) / step);
    if (columns < 3 || rows < 3) continue;
    const score = new Float32Array(columns * rows);
    for (let j = 0; j < rows; j += 1) {
      const y = margin + j * step;
      for (let i = 0; i < columns; i += 1) {
        const x = margin + i * step;
        const y0 = boxMean(luma, x - half, y - half, side);
        let u0 = 0;
        let v0 = 0;
        let searched = false;
        let least = Infinity;
        let second = Infinity;
        for (let k = 0; k < ABOUT.length; k += 1) {
          const px = Math.round(x + ABOUT[k][0] * away);
          const py = Math.round(y + ABOUT[k][1] * away);
          const dy = boxMean(luma, px - half, py - half, side) - y0;
          let d2 = dy * dy;
          if (d2 < 4000) {
            if (!searched) {
              u0 = chromaAt(u, x, y);
              v0 = chromaAt(v, x, y);
              searched = true;
            }
            const du = chromaAt(u, px, py) - u0;
            const dv = chromaAt(v, px, py) - v0;
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
          colour: [boxMean(luma, x - half, y - half, side), chromaAt(u, x, y), chromaAt(v, x, y)],
        });
      }
  }
  // Of several sizes at one place the clearest stands.
  found.sort((a, b) => b.contrast - a.contrast);
  const kept: RawSpot[] = [];
  for (const s of found) {
    if (kept.length >= most) break;
    if (kept.every((k) => Math.hypot(k.x - s.x, k.y - s.y) > 1.5 * Math.max(k.radiusPx, s.radiusPx)))
      kept.push(s);
  }
  return kept;
}
