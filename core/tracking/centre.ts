import type { ImagePoint } from '../math/vec.ts';
import { bounds, colourAt, colourGap, type PlanarFrame, type Yuv } from './frame.ts';
import { discColour, type Located, type Sticker } from './sticker.ts';

const SECTORS = 24;
/** The sector of each whole-pixel offset from the centre, so that the inner loops need no trigonometry. */
const SECTOR_REACH = 48;
const SECTOR_SIDE = 2 * SECTOR_REACH + 1;
const SECTOR_OF = Uint8Array.from({ length: SECTOR_SIDE * SECTOR_SIDE }, (_, k) => {
  const dx = (k % SECTOR_SIDE) - SECTOR_REACH;
  const dy = Math.floor(k / SECTOR_SIDE) - SECTOR_REACH;
  return Math.floor(((Math.atan2(dy, dx) / (2 * Math.PI) + 1) % 1) * SECTORS) % SECTORS;
});
/** Luma contrast, grey levels, from which chroma is not asked for the edge; and chroma's weight below that. */
const LUMA_ALONE = 45;
const CHROMA_TELLS = 18;
const CHROMA_EDGE = 0.4;

/**
 * Places a sticker's centre: each pixel's share of sticker against the background of its own side (sectors of a ring round
 * the spot), then the centre of gravity of those shares, repeated until it stands still. Motion blur only smears the
 * shares along the path, and the centre stays at mid-exposure.
 * @param near where it should be within about a radius, px  @param blur how far it moved while the shutter was open, px
 * @returns the centre with how whole it is, or null where nothing there looks like it
 */
// eslint-disable-next-line max-lines-per-function -- the innermost loop, written out: it runs dozens of times for a frame
export function centreOn(f: PlanarFrame, s: Sticker, near: ImagePoint, blur: ImagePoint): Located | null {
  const { left, top, right, bottom } = bounds(f);
  const half = Math.hypot(blur.x, blur.y) / 2;
  const reach = s.radiusPx + 1;
  const ux = half > 0.3 ? blur.x / (2 * half) : 1;
  const uy = half > 0.3 ? blur.y / (2 * half) : 0;
  let cx = near.x;
  let cy = near.y;
  let area = 0;
  let smearPx = 0;
  const ringFrom = (s.radiusPx + 1.1) ** 2;
  const ringClose = (s.radiusPx + 1.8) ** 2;
  const ringTo = (s.radiusPx + 2.9) ** 2;
  const reach2 = reach * reach;
  const outer = s.radiusPx + 3.4 + half;
  for (let round = 0; round < 8; round += 1) {
    const x0 = Math.max(left, Math.ceil(cx - outer));
    const x1 = Math.min(right, Math.floor(cx + outer));
    const y0 = Math.max(top, Math.ceil(cy - outer));
    const y1 = Math.min(bottom, Math.floor(cy + outer));
    if (x1 - x0 < 2 * s.radiusPx || y1 - y0 < 2 * s.radiusPx) return null;
    // Background of each side, measured on a ring round the spot (a capsule, where it is smeared); the spot's own pixels are
    // noted on the way.
    sides.fill(0);
    let inside = 0;
    for (let y = y0; y <= y1; y += 1) {
      const dy = y - cy;
      const yRow = y * f.yStride;
      const cRow = (y >> 1) * f.chromaStride;
      for (let x = x0; x <= x1; x += 1) {
        const dx = x - cx;
        const along = dx * ux + dy * uy;
        const over = along > half ? along - half : along < -half ? along + half : 0;
        const across = dy * ux - dx * uy;
        const d2 = over * over + across * across;
        if (d2 > ringTo) continue;
        if (d2 <= reach2 && inside < SPOT_MOST) {
          spotX[inside] = x;
          spotY[inside] = y;
          spotSide[inside] = sectorOf(dx, dy);
          inside += 1;
        } else if (d2 >= ringFrom) {
          const k = SIDE_FIELDS * sectorOf(dx, dy);
          const c = cRow + (x >> 1) * f.chromaStep;
          const luma = f.y[yRow + x];
          sides[k] += luma;
          sides[k + 1] += f.u[c];
          sides[k + 2] += f.v[c];
          sides[k + 3] += 1;
          sides[k + 9] += luma * luma;
          if (d2 < ringClose) {
            sides[k + 10] += luma;
            sides[k + 11] += 1;
          }
        }
      }
    }
    for (let k = 0; k < sides.length; k += SIDE_FIELDS) contrastOfSide(k, s.colour);
    spotCount = inside;
    let sa = 0;
    let sx = 0;
    let sy = 0;
    let along2 = 0;
    let across2 = 0;
    for (let i = 0; i < inside; i += 1) {
      const k = SIDE_FIELDS * spotSide[i];
      spotShare[i] = 0;
      if (sides[k + 3] === 0) continue;
      const x = spotX[i];
      const y = spotY[i];
      const luma2 = sides[k + 7];
      const chroma2 = sides[k + 8];
      const trust = sides[k + 9];
      const lumaDot = (f.y[y * f.yStride + x] - sides[k]) * sides[k + 4];
      let alpha: number;
      if (chroma2 < CHROMA_TELLS * CHROMA_TELLS) {
        if (luma2 + CHROMA_EDGE * chroma2 < 16) continue;
        alpha = luma2 > 16 ? lumaDot / luma2 : 0;
      } else {
        const c = chromaBetween(f, x, y);
        const chromaDot = (c.u - sides[k + 1]) * sides[k + 5] + (c.v - sides[k + 2]) * sides[k + 6];
        // Chroma is half as sharp: where luma sets the sticker off, luma places the edge and chroma only has its say on
        // what is bright but of another colour (skin between a sticker and a dark hem).
        alpha =
          trust * luma2 > LUMA_ALONE * LUMA_ALONE
            ? Math.min(lumaDot / luma2, chromaDot / chroma2 + 0.2)
            : (trust * lumaDot + CHROMA_EDGE * chromaDot) / (trust * luma2 + CHROMA_EDGE * chroma2);
      }
      // A dead zone at either end, so that an uneven background or sticker does not pull.
      const share = Math.min(1, Math.max(0, (alpha - 0.15) / 0.7));
      spotShare[i] = share;
      if (share === 0) continue;
      sa += share;
      sx += share * x;
      sy += share * y;
      const along = (x - cx) * ux + (y - cy) * uy;
      const across = (y - cy) * ux - (x - cx) * uy;
      along2 += share * along * along;
      across2 += share * across * across;
    }
    if (sa < 0.15 * Math.PI * s.radiusPx * s.radiusPx) return null;
    const nx = sx / sa;
    const ny = sy / sa;
    const shift = Math.hypot(nx - cx, ny - cy);
    cx = nx;
    cy = ny;
    area = sa;
    smearPx = Math.sqrt(Math.max(0, (12 * (along2 - across2)) / sa));
    if (Math.hypot(cx - near.x, cy - near.y) > 2 * s.radiusPx + half + 2) return null;
    // Each round leaves about a twentieth of the shift before it.
    if (shift < 0.2) break;
  }
  const shown = s.shown ?? 1;
  const middle =
    shown < 1 ? shownColour(f) : discColour(f, { x: cx, y: cy }, Math.max(1.2, s.radiusPx * 0.4));
  const centre = shown < 1 ? byRim(enclosing({ x: cx, y: cy }, s.radiusPx), s.radiusPx) : { x: cx, y: cy };
  return {
    ...centre,
    areaRatio: area / (Math.PI * s.radiusPx * s.radiusPx * shown),
    colourMiss: colourGap(middle, s.colour) / s.contrast,
    smearPx,
    colour: middle,
  };
}

/** Working memory of `centreOn`, which runs dozens of times a frame: the spot's pixels with their sector. */
const SPOT_MOST = 8192;
const spotX = new Int16Array(SPOT_MOST);
const spotY = new Int16Array(SPOT_MOST);
const spotSide = new Uint8Array(SPOT_MOST);
const spotShare = new Float32Array(SPOT_MOST);
let spotCount = 0;
/**
 * Of each sector, in this order: the background's sums, then means, of luma, u and v; its count of pixels; the sticker less the
 * background in y, u, v; the squares of that in luma and in chroma; the sum of luma², then how far luma is trusted, 0…1; the
 * sum and count of luma close to the edge.
 */
const SIDE_FIELDS = 12;
/** Variance of luma along the ring, grey levels², from which a side counts as uneven. */
const UNEVEN = 6;
const sides = new Float64Array(SECTORS * SIDE_FIELDS);

/** From this share on a pixel is the sticker's. */
const OF_STICKER = 0.5;
const ENCLOSE_ROUNDS = 30;

/**
 * The middle of the disc of a known radius that holds what is seen of it: from the centre of gravity, away from nothing but what sticks out.
 * Of the spot that was looked at last.
 */
function enclosing(from: ImagePoint, radiusPx: number): ImagePoint {
  let { x: cx, y: cy } = from;
  for (let round = 0; round < ENCLOSE_ROUNDS; round += 1) {
    let [px, py, n] = [0, 0, 0];
    for (let i = 0; i < spotCount; i += 1) {
      if (spotShare[i] < OF_STICKER) continue;
      const [dx, dy] = [spotX[i] - cx, spotY[i] - cy];
      const d = Math.hypot(dx, dy);
      // A pixel half covered has its middle on the edge.
      const out = d - radiusPx + 0.5 * (1 - spotShare[i]);
      if (out <= 0) continue;
      px += (out * dx) / d;
      py += (out * dy) / d;
      n += 1;
    }
    if (n === 0) break;
    cx += (0.7 * px) / n;
    cy += (0.7 * py) / n;
  }
  return { x: cx, y: cy };
}

/** Centres tried about the first guess, px; what hides a part has an edge too, but a straight one: the rim has the most pixels. */
const RIM_TRIED_PX = 3;
const RIM_STEP_PX = 1;
const TRIED_WITHIN_PX = 1.2;
/** Pixels this close to where the rim must be are of it, px; those beyond it speak against the place. */
const OF_RIM_PX = 0.8;
const RIM_ROUNDS = 5;
const RIM_LEAST = 5;
/** Of twelve parts of the way round so many show the rim: a little less than half of it. */
const RIM_PARTS = 12;
const RIM_LEAST_PARTS = 5;

/** How far a pixel of the spot looked at last is from the rim of a disc, px, outwards +: a half-covered one has the rim through its middle. */
function offRim(i: number, cx: number, cy: number, radiusPx: number): number {
  return Math.hypot(spotX[i] - cx, spotY[i] - cy) + 0.7 * (spotShare[i] - 0.5) - radiusPx;
}

/** The middle of the disc of a known radius by its rim alone: the place where the most half-covered pixels lie on it, then least squares. */
function byRim(from: ImagePoint, radiusPx: number): ImagePoint {
  const rim: number[] = [];
  for (let i = 0; i < spotCount; i += 1) if (spotShare[i] > 0 && spotShare[i] < 1) rim.push(i);
  let best = { x: from.x, y: from.y, score: -Infinity };
  for (let dy = -RIM_TRIED_PX; dy <= RIM_TRIED_PX; dy += RIM_STEP_PX)
    for (let dx = -RIM_TRIED_PX; dx <= RIM_TRIED_PX; dx += RIM_STEP_PX) {
      const [x, y] = [from.x + dx, from.y + dy];
      let score = 0;
      for (const i of rim) {
        const miss = offRim(i, x, y, radiusPx);
        if (miss > TRIED_WITHIN_PX) score -= 1;
        else if (miss > -TRIED_WITHIN_PX) score += 1 - (miss / TRIED_WITHIN_PX) ** 2;
      }
      if (score > best.score) best = { x, y, score };
    }
  let { x: cx, y: cy } = best;
  let around = 0;
  for (let round = 0; round < RIM_ROUNDS; round += 1) {
    let [xx, xy, yy, bx, by, n] = [0, 0, 0, 0, 0, 0];
    around = 0;
    for (const i of rim) {
      const miss = offRim(i, cx, cy, radiusPx);
      if (Math.abs(miss) > OF_RIM_PX) continue;
      const d = Math.max(1e-6, Math.hypot(spotX[i] - cx, spotY[i] - cy));
      const [ux, uy] = [(spotX[i] - cx) / d, (spotY[i] - cy) / d];
      around |= 1 << Math.floor(((Math.atan2(uy, ux) / (2 * Math.PI) + 1) % 1) * RIM_PARTS);
      xx += ux * ux;
      xy += ux * uy;
      yy += uy * uy;
      bx += ux * miss;
      by += uy * miss;
      n += 1;
    }
    const det = xx * yy - xy * xy;
    if (n < RIM_LEAST || det < 1) return from;
    cx += (yy * bx - xy * by) / det;
    cy += (xx * by - xy * bx) / det;
  }
  // A smaller disc touches the rim on one side alone.
  let parts = 0;
  for (let k = 0; k < RIM_PARTS; k += 1) parts += (around >> k) & 1;
  return parts >= RIM_LEAST_PARTS && Math.hypot(cx - from.x, cy - from.y) < radiusPx
    ? { x: cx, y: cy }
    : from;
}

/** Mean colour of what is seen of the spot that was looked at last. */
function shownColour(f: PlanarFrame): Yuv {
  const sum: Yuv = [0, 0, 0];
  let n = 0;
  for (let i = 0; i < spotCount; i += 1) {
    if (spotShare[i] < 0.9) continue;
    const c = colourAt(f, spotX[i], spotY[i]);
    for (let k = 0; k < 3; k += 1) sum[k] += c[k];
    n += 1;
  }
  return n > 0 ? [sum[0] / n, sum[1] / n, sum[2] / n] : [0, 0, 0];
}

/** How far what is seen of a sticker reaches from its centre of gravity, px: a whole disc's reach is its radius. Null where nothing is. */
export function reachOf(
  f: PlanarFrame,
  s: Sticker,
  near: ImagePoint,
): { reachPx: number; area: number } | null {
  const found = centreOn(f, { ...s, shown: undefined }, near, { x: 0, y: 0 });
  if (!found) return null;
  let [reachPx, area] = [0, 0];
  for (let i = 0; i < spotCount; i += 1) {
    area += spotShare[i];
    if (spotShare[i] >= OF_STICKER)
      reachPx = Math.max(reachPx, Math.hypot(spotX[i] - found.x, spotY[i] - found.y));
  }
  return { reachPx, area };
}

/**
 * Turns a sector's sums into means and the contrast of the sticker against them. Where luma is uneven (the edge of the shoe, a
 * sole, a wall seen through the smear) only what lies close to the sticker speaks for the background, and chroma counts for more.
 */
function contrastOfSide(k: number, colour: Yuv): void {
  const n = sides[k + 3];
  if (n === 0) return;
  for (let p = 0; p < 3; p += 1) sides[k + p] /= n;
  const trust = 1 / (1 + Math.max(0, sides[k + 9] / n - sides[k] ** 2) / UNEVEN);
  if (sides[k + 11] > 0) sides[k] += (1 - trust) * (sides[k + 10] / sides[k + 11] - sides[k]);
  for (let p = 0; p < 3; p += 1) sides[k + 4 + p] = colour[p] - sides[k + p];
  sides[k + 7] = sides[k + 4] ** 2;
  sides[k + 8] = sides[k + 5] ** 2 + sides[k + 6] ** 2;
  sides[k + 9] = trust;
}

const chroma = { u: 0, v: 0 };

/**
 * Chroma at a luma pixel, bilinear. Samples sit on the even luma columns and between two luma rows: the siting of MPEG-2,
 * H.264 and VP9 unless they say otherwise. Taking them as centred would shift a colour edge by half a pixel.
 */
function chromaBetween(f: PlanarFrame, x: number, y: number): { u: number; v: number } {
  const lastCol = ((f.width + 1) >> 1) - 1;
  const lastRow = ((f.height + 1) >> 1) - 1;
  const x0 = Math.min(lastCol, x >> 1);
  const x1 = x & 1 ? Math.min(lastCol, x0 + 1) : x0;
  const y0 = Math.min(lastRow, Math.max(0, (y - 1) >> 1));
  const y1 = Math.min(lastRow, y0 + 1);
  const fy = y & 1 ? 0.25 : 0.75;
  const a = y0 * f.chromaStride;
  const b = y1 * f.chromaStride;
  const p = x0 * f.chromaStep;
  const q = x1 * f.chromaStep;
  chroma.u = 0.5 * ((1 - fy) * (f.u[a + p] + f.u[a + q]) + fy * (f.u[b + p] + f.u[b + q]));
  chroma.v = 0.5 * ((1 - fy) * (f.v[a + p] + f.v[a + q]) + fy * (f.v[b + p] + f.v[b + q]));
  return chroma;
}

/** Which sector a direction falls in. */
function sectorOf(dx: number, dy: number): number {
  const i = (dx + SECTOR_REACH + 0.5) | 0;
  const j = (dy + SECTOR_REACH + 0.5) | 0;
  return SECTOR_OF[nearest(j) * SECTOR_SIDE + nearest(i)];
}

/** Within the table: only the largest stickers reach past it, where the outermost direction is as good. */
function nearest(i: number): number {
  return i < 0 ? 0 : i >= SECTOR_SIDE ? SECTOR_SIDE - 1 : i;
}
