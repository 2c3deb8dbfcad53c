import type { ImagePoint } from '../math/vec.ts';
import { bounds, colourAt, colourGap, type PlanarFrame, type Region, type Yuv } from './frame.ts';
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
const CHROMA_EDGE = 0.4;
/** Less contrast than this, grey levels, tells nothing. */
const CHROMA_TELLS = 18;
const LUMA_TELLS = 4;
/** By so much chroma may fall short of luma where luma places the edge. */
const CHROMA_EASE = 0.2;

/** A sticker that is being placed: its disc, smeared along a direction. */
interface Spot {
  cx: number;
  cy: number;
  radiusPx: number;
  /** Half the smear, px, and its direction. */
  half: number;
  ux: number;
  uy: number;
}

/** From where to where beyond the rim the background is measured, and how far it counts as close, px. */
const RING = { from: 1.1, close: 1.8, to: 2.9 };
/** So many pixels beyond the rim are still asked for their share of the sticker. */
const BEYOND_RIM_PX = 1;

/**
 * Places a sticker's centre: each pixel's share of sticker against the background of its own side (sectors of a ring round
 * the spot), then the centre of gravity of those shares, repeated until it stands still. Motion blur only smears the
 * shares along the path, and the centre stays at mid-exposure.
 * @param near where it should be within about a radius, px  @param blur how far it moved while the shutter was open, px
 * @returns the centre with how whole it is, or null where nothing there looks like it
 */
export function centreOn(f: PlanarFrame, s: Sticker, near: ImagePoint, blur: ImagePoint): Located | null {
  const { left, top, right, bottom } = bounds(f);
  const half = Math.hypot(blur.x, blur.y) / 2;
  const smeared = half > 0.3;
  const spot: Spot = {
    cx: near.x,
    cy: near.y,
    radiusPx: s.radiusPx,
    half,
    ux: smeared ? blur.x / (2 * half) : 1,
    uy: smeared ? blur.y / (2 * half) : 0,
  };
  const outer = s.radiusPx + 3.4 + half;
  for (let round = 0; round < 8; round += 1) {
    const { cx, cy } = spot;
    const x0 = Math.max(left, Math.ceil(cx - outer));
    const x1 = Math.min(right, Math.floor(cx + outer));
    const y0 = Math.max(top, Math.ceil(cy - outer));
    const y1 = Math.min(bottom, Math.floor(cy + outer));
    if (x1 - x0 < 2 * s.radiusPx || y1 - y0 < 2 * s.radiusPx) return null;
    spotCount = gather(f, spot, { x: x0, y: y0, width: x1 - x0 + 1, height: y1 - y0 + 1 });
    weighSides(s.colour);
    weighSpot(f, spot);
    const [area, x, y] = moments;
    if (area < 0.15 * Math.PI * s.radiusPx * s.radiusPx) return null;
    spot.cx = cx + x / area;
    spot.cy = cy + y / area;
    if (Math.hypot(spot.cx - near.x, spot.cy - near.y) > 2 * s.radiusPx + half + 2) return null;
    // Each round leaves about a twentieth of the shift before it.
    if (Math.hypot(spot.cx - cx, spot.cy - cy) < 0.2) break;
  }
  const [area, , , xx, xy, yy] = moments;
  const { ux, uy } = spot;
  const along2 = xx * ux * ux + 2 * xy * ux * uy + yy * uy * uy;
  const across2 = xx * uy * uy - 2 * xy * ux * uy + yy * ux * ux;
  const shown = s.shown ?? 1;
  const at = { x: spot.cx, y: spot.cy };
  const middle = shown < 1 ? shownColour(f) : discColour(f, at, Math.max(1.2, s.radiusPx * 0.4));
  const centre = shown < 1 ? byRim(enclosing(at, s.radiusPx), s.radiusPx) : at;
  // Its fields one by one: spread into the new object they took an eighth of the whole.
  return {
    x: centre.x,
    y: centre.y,
    areaRatio: area / (Math.PI * s.radiusPx * s.radiusPx * shown),
    colourMiss: colourGap(middle, s.colour) / s.contrast,
    smearPx: Math.sqrt(Math.max(0, (12 * (along2 - across2)) / area)),
    colour: middle,
  };
}

/** Working memory of `centreOn`, which runs dozens of times a frame: the spot's pixels with their sector and share. */
const SPOT_MOST = 8192;
const spotX = new Int16Array(SPOT_MOST);
const spotY = new Int16Array(SPOT_MOST);
const spotSide = new Uint8Array(SPOT_MOST);
const spotShare = new Float32Array(SPOT_MOST);
let spotCount = 0;
/** Sums over the shares, with places from the centre they were looked at about: of 1, x, y, x², xy, y². */
const moments = new Float64Array(6);
/**
 * Of each sector, in this order: the background's sums of luma, u and v; its count of pixels; the sum of luma²; the sum and count of luma
 * close to the edge; then what a pixel's luma, u and v add to its share, and what is added to it once (with a lesser of two shares: to that
 * by luma, then to that by chroma).
 */
const SIDE_FIELDS = 12;
const sides = new Float64Array(SECTORS * SIDE_FIELDS);
/** How a sector's pixels are weighed: not at all, by luma, by luma and chroma together, by the lesser of the two. */
const BY = { nothing: 0, luma: 1, both: 2, lesser: 3 };
const sideBy = new Uint8Array(SECTORS);
/** Variance of luma along the ring, grey levels², from which a side counts as uneven. */
const UNEVEN = 6;
/** A dead zone at either end of a share, so that an uneven background or sticker does not pull. */
const DEAD = 0.15;
const LIVE = 1 - 2 * DEAD;

/** Sums the background of each side on a ring round the spot (a capsule, where it is smeared); the spot's own pixels are noted on the way. */
function gather(f: PlanarFrame, { cx, cy, radiusPx, half, ux, uy }: Spot, box: Region): number {
  const { y: lumas, u: us, v: vs, yStride, chromaStride, chromaStep } = f;
  const from2 = (radiusPx + RING.from) ** 2;
  const close2 = (radiusPx + RING.close) ** 2;
  const to2 = (radiusPx + RING.to) ** 2;
  const spot2 = (radiusPx + BEYOND_RIM_PX) ** 2;
  const farthest2 = (radiusPx + RING.to + half) ** 2;
  const endX = box.x + box.width - 1;
  sides.fill(0);
  let inside = 0;
  for (let y = box.y; y < box.y + box.height; y += 1) {
    const dy = y - cy;
    // No further along the row than the ring can reach.
    const wide2 = farthest2 - dy * dy;
    if (wide2 < 0) continue;
    const wide = Math.sqrt(wide2);
    const yRow = y * yStride;
    const cRow = (y >> 1) * chromaStride;
    const end = Math.min(endX, Math.floor(cx + wide));
    const sectorRow = sectorRowOf(dy);
    for (let x = Math.max(box.x, Math.ceil(cx - wide)); x <= end; x += 1) {
      const dx = x - cx;
      const along = dx * ux + dy * uy;
      const over = along > half ? along - half : along < -half ? along + half : 0;
      const across = dy * ux - dx * uy;
      const d2 = over * over + across * across;
      if (d2 <= spot2) {
        if (inside === SPOT_MOST) continue;
        spotX[inside] = x;
        spotY[inside] = y;
        spotSide[inside] = sectorOf(dx, sectorRow);
        inside += 1;
      } else if (d2 >= from2 && d2 <= to2) {
        const k = SIDE_FIELDS * sectorOf(dx, sectorRow);
        const c = cRow + (x >> 1) * chromaStep;
        const luma = lumas[yRow + x];
        sides[k] += luma;
        sides[k + 1] += us[c];
        sides[k + 2] += vs[c];
        sides[k + 3] += 1;
        sides[k + 4] += luma * luma;
        if (d2 < close2) {
          sides[k + 5] += luma;
          sides[k + 6] += 1;
        }
      }
    }
  }
  return inside;
}

/**
 * Turns each sector's sums into means and into what its pixels' shares are made of: the contrast of the sticker against them. Where luma is
 * uneven (the edge of the shoe, a sole, a wall seen through the smear) only what lies close to the sticker speaks for the background, and
 * chroma counts for more.
 */
function weighSides([ys, us, vs]: Yuv): void {
  for (let side = 0, k = 0; side < SECTORS; side += 1, k += SIDE_FIELDS) {
    sideBy[side] = BY.nothing;
    const n = sides[k + 3];
    if (n === 0) continue;
    const mean = sides[k] / n;
    const u0 = sides[k + 1] / n;
    const v0 = sides[k + 2] / n;
    const trust = 1 / (1 + Math.max(0, sides[k + 4] / n - mean * mean) / UNEVEN);
    const y0 = sides[k + 6] > 0 ? mean + (1 - trust) * (sides[k + 5] / sides[k + 6] - mean) : mean;
    const y = ys - y0;
    const u = us - u0;
    const v = vs - v0;
    const luma2 = y * y;
    const chroma2 = u * u + v * v;
    let byLuma = 0;
    let byChroma = 0;
    if (chroma2 < CHROMA_TELLS * CHROMA_TELLS) {
      if (luma2 <= LUMA_TELLS * LUMA_TELLS) continue;
      sideBy[side] = BY.luma;
      byLuma = 1 / luma2;
    } else if (trust * luma2 > LUMA_ALONE * LUMA_ALONE) {
      // Chroma is half as sharp: where luma sets the sticker off, luma places the edge and chroma only has its say on
      // what is bright but of another colour (skin between a sticker and a dark hem).
      sideBy[side] = BY.lesser;
      byLuma = 1 / luma2;
      byChroma = 1 / chroma2;
    } else {
      sideBy[side] = BY.both;
      const whole = trust * luma2 + CHROMA_EDGE * chroma2;
      byLuma = trust / whole;
      byChroma = CHROMA_EDGE / whole;
    }
    sides[k + 7] = (byLuma * y) / LIVE;
    sides[k + 8] = (byChroma * u) / LIVE;
    sides[k + 9] = (byChroma * v) / LIVE;
    const chroma = sides[k + 8] * u0 + sides[k + 9] * v0;
    const together = sideBy[side] === BY.lesser ? 0 : chroma;
    sides[k + 10] = -sides[k + 7] * y0 - together - DEAD / LIVE;
    sides[k + 11] = (CHROMA_EASE - DEAD) / LIVE - chroma;
  }
}

/** Weighs the noted pixels: each one's share of sticker, 0…1, and the sums over them. */
function weighSpot(f: PlanarFrame, { cx, cy }: Spot): void {
  const { y: lumas, u: us, v: vs, yStride, chromaStride, chromaStep } = f;
  const lastCol = (f.width - 1) >> 1;
  const lastRow = (f.height - 1) >> 1;
  let area = 0;
  let mx = 0;
  let my = 0;
  let mxx = 0;
  let mxy = 0;
  let myy = 0;
  for (let i = 0; i < spotCount; i += 1) {
    spotShare[i] = 0;
    const side = spotSide[i];
    const by = sideBy[side];
    if (by === BY.nothing) continue;
    const k = side * SIDE_FIELDS;
    const x = spotX[i];
    const y = spotY[i];
    let share = sides[k + 7] * lumas[y * yStride + x] + sides[k + 10];
    // The lesser of two is nothing where one of them is.
    if (share <= 0 && by !== BY.both) continue;
    if (by !== BY.luma) {
      // Chroma at a luma pixel, bilinear. Samples sit on the even luma columns and between two luma rows: the siting of MPEG-2,
      // H.264 and VP9 unless they say otherwise. Taking them as centred would shift a colour edge by half a pixel.
      const col = Math.min(lastCol, x >> 1);
      const row = Math.min(lastRow, Math.max(0, (y - 1) >> 1));
      const p = col * chromaStep;
      const q = x & 1 ? Math.min(lastCol, col + 1) * chromaStep : p;
      const upper = row * chromaStride;
      const lower = Math.min(lastRow, row + 1) * chromaStride;
      const low = y & 1 ? 0.125 : 0.375;
      const up = 0.5 - low;
      const u = up * (us[upper + p] + us[upper + q]) + low * (us[lower + p] + us[lower + q]);
      const v = up * (vs[upper + p] + vs[upper + q]) + low * (vs[lower + p] + vs[lower + q]);
      const chroma = sides[k + 8] * u + sides[k + 9] * v;
      share = by === BY.both ? share + chroma : Math.min(share, chroma + sides[k + 11]);
    }
    if (share <= 0) continue;
    if (share > 1) share = 1;
    spotShare[i] = share;
    const dx = x - cx;
    const dy = y - cy;
    const sx = share * dx;
    const sy = share * dy;
    area += share;
    mx += sx;
    my += sy;
    mxx += sx * dx;
    mxy += sx * dy;
    myy += sy * dy;
  }
  moments[0] = area;
  moments[1] = mx;
  moments[2] = my;
  moments[3] = mxx;
  moments[4] = mxy;
  moments[5] = myy;
}

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

/** Where a row's sectors begin in their table. @param dy from the centre, px */
const sectorRowOf = (dy: number): number => SECTOR_SIDE * nearest(dy);

/** Which sector a pixel falls in. @param dx from the centre, px  @param row its row's, from `sectorRowOf` */
const sectorOf = (dx: number, row: number): number => SECTOR_OF[row + nearest(dx)];

/** An offset's place in the table: only the largest stickers reach past it, where the outermost direction is as good. */
function nearest(offset: number): number {
  const i = (offset + SECTOR_REACH + 0.5) | 0;
  return i < 0 ? 0 : i >= SECTOR_SIDE ? SECTOR_SIDE - 1 : i;
}
