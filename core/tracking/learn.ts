import type { ImagePoint } from '../math/vec.ts';
import { centreOn } from './centre.ts';
import { colourAt, colourDistance2, type PlanarFrame, type Yuv } from './frame.ts';
import { discColour, type Sticker } from './sticker.ts';

/** Grey levels by which a spot must be set off to be a sticker. */
const MIN_CONTRAST = 9;

/** No sticker is looked for beyond this from the point on it, px. */
const REACH_PX = 22;
const SIDE_PX = 2 * REACH_PX + 1;
/** On which one-pixel ring about the middle each pixel of a square lies, row by row; those in the corners on none that counts. */
const RING_OF = Uint8Array.from({ length: SIDE_PX ** 2 }, (_, k) =>
  Math.round(Math.hypot((k % SIDE_PX) - REACH_PX, Math.floor(k / SIDE_PX) - REACH_PX)),
);
/** The corners' rings with them. */
const RINGS = Math.max(...RING_OF) + 1;
const ON_RING = Array.from({ length: REACH_PX + 1 }, (_, ring) => RING_OF.filter((r) => r === ring).length);

/** Mean distance from a colour on each one-pixel ring about a point; beyond the picture's edge its last pixels stand. */
function ringDistances(f: PlanarFrame, c: ImagePoint, colour: Yuv): number[] {
  const sum = new Float64Array(RINGS);
  const [x0, y0] = [Math.round(c.x) - REACH_PX, Math.round(c.y) - REACH_PX];
  for (let row = 0, n = 0; row < SIDE_PX; row += 1) {
    const y = Math.min(f.height - 1, Math.max(0, y0 + row));
    for (let col = 0; col < SIDE_PX; col += 1, n += 1) {
      const x = Math.min(f.width - 1, Math.max(0, x0 + col));
      // As `colourAt` does, but for two thousand pixels: no colour is made for each.
      const k = (y >> 1) * f.chromaStride + (x >> 1) * f.chromaStep;
      sum[RING_OF[n]] += Math.sqrt(colourDistance2(f.y[y * f.yStride + x], f.u[k], f.v[k], colour));
    }
  }
  return ON_RING.map((count, ring) => sum[ring] / count);
}

/** How many edges are tried, from the inmost: a blot in a sticker's middle is one too. */
const EDGES_TRIED = 3;

/**
 * Learns the sticker under a point, if there is one: a spot of one colour, round, set off from what surrounds it.
 * @param f the picture  @param at a point on the sticker, px
 * @returns the sticker and its centre, or null where there is no such spot
 */
export function learnSticker(
  f: PlanarFrame,
  at: ImagePoint,
): { sticker: Sticker; centre: ImagePoint } | null {
  // From the middle of the patch under the point: from near its edge a part of it would be taken for what surrounds it.
  const middle = middleOfPatch(f, at);
  return (middle && learnAt(f, middle)) ?? learnAt(f, at);
}

function learnAt(f: PlanarFrame, at: ImagePoint): { sticker: Sticker; centre: ImagePoint } | null {
  let least = 2;
  for (let k = 0; k < EDGES_TRIED; k += 1) {
    const { learned, edgePx } = learnFrom(f, at, least);
    if (learned) return learned;
    if (!edgePx) return null;
    least = Math.floor(edgePx) + 2;
  }
  return null;
}

/** Pixels are of the patch up to this share of the distance to what is unlike it most. */
const OF_PATCH = 0.3;

/** The middle of the connected pixels of one colour about a point; null where they reach out of sight, as a limb's or a wall's do. */
function middleOfPatch(f: PlanarFrame, at: ImagePoint): ImagePoint | null {
  const colour = discColour(f, at, 1.2);
  const rings = ringDistances(f, at, colour);
  const tau2 = (OF_PATCH * Math.max(...rings.slice(2))) ** 2;
  const seen = new Uint8Array(SIDE_PX ** 2);
  const [cx, cy] = [Math.round(at.x), Math.round(at.y)];
  const open = [REACH_PX * SIDE_PX + REACH_PX];
  seen[open[0]] = 1;
  let [n, sx, sy] = [0, 0, 0];
  while (open.length > 0) {
    const k = open.pop()!;
    const [i, j] = [k % SIDE_PX, Math.floor(k / SIDE_PX)];
    const [x, y] = [cx + i - REACH_PX, cy + j - REACH_PX];
    const p = colourAt(f, x, y);
    if (colourDistance2(p[0], p[1], p[2], colour) > tau2) continue;
    if (i === 0 || j === 0 || i === SIDE_PX - 1 || j === SIDE_PX - 1) return null;
    n += 1;
    sx += x;
    sy += y;
    for (const next of [k - 1, k + 1, k - SIDE_PX, k + SIDE_PX])
      if (!seen[next]) {
        seen[next] = 1;
        open.push(next);
      }
  }
  return n > 4 ? { x: sx / n, y: sy / n } : null;
}

/**
 * The same with the inmost edge that lies no closer than some pixels.
 * @returns also where that edge was first seen, 0 where there is none
 */
function learnFrom(
  f: PlanarFrame,
  at: ImagePoint,
  leastPx: number,
): { learned: { sticker: Sticker; centre: ImagePoint } | null; edgePx: number } {
  let centre = at;
  let sticker: Sticker | null = null;
  let edgePx = 0;
  const none = (): { learned: null; edgePx: number } => ({ learned: null, edgePx });
  for (let round = 0; round < 3; round += 1) {
    const colour = discColour(f, centre, 1.8);
    const rings = ringDistances(f, centre, colour);
    // The edge: where the distance first passes half of what it reaches a few pixels further out.
    let radiusPx = 0;
    let contrast = 0;
    for (let r = leastPx; r < REACH_PX - 5 && !radiusPx; r += 1) {
      const outer = Math.max(rings[r + 1], rings[r + 2], rings[r + 3], rings[r + 4]);
      const half = (outer + rings[0]) / 2;
      if (outer - rings[1] > MIN_CONTRAST && rings[r] >= half) {
        const rise = Math.max(1e-6, rings[r] - rings[r - 1]);
        radiusPx = r - 1 + Math.min(1, Math.max(0, (half - rings[r - 1]) / rise));
        contrast = outer;
      }
    }
    edgePx ||= radiusPx;
    if (!radiusPx) return none();
    // The inner colour again, from more of the disc, now that its size is known.
    sticker = { colour: discColour(f, centre, Math.max(1.5, radiusPx * 0.6)), radiusPx, contrast };
    const refined = centreOn(f, sticker, centre, { x: 0, y: 0 });
    if (!refined || Math.hypot(refined.x - at.x, refined.y - at.y) > 1.5 * radiusPx + 2) return none();
    centre = { x: refined.x, y: refined.y };
    // Σα measures the area better than the ring profile does.
    sticker.radiusPx *= Math.sqrt(Math.min(1.4, Math.max(0.6, refined.areaRatio)));
  }
  if (!sticker || sticker.radiusPx < 1.6) return none();
  const final = centreOn(f, sticker, centre, { x: 0, y: 0 });
  if (!final || final.areaRatio < 0.75 || final.areaRatio > 1.35 || !isRound(f, sticker, final))
    return none();
  return { learned: { sticker, centre: { x: final.x, y: final.y } }, edgePx };
}

/** A fold, an edge or a letter is not a sticker: the surroundings must differ on every side. */
function isRound(f: PlanarFrame, s: Sticker, c: ImagePoint): boolean {
  const far = s.radiusPx + 2.5;
  let off = 0;
  for (let k = 0; k < 16; k += 1) {
    const a = (k / 16) * 2 * Math.PI;
    const p = colourAt(f, c.x + far * Math.cos(a), c.y + far * Math.sin(a));
    if (Math.sqrt(colourDistance2(p[0], p[1], p[2], s.colour)) > 0.45 * s.contrast) off += 1;
  }
  return off >= 12;
}
