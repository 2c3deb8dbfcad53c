import type { Vec2 } from '../geometry/vec.ts';
import { colourAt, colourDistance2, type PlanarFrame, type Yuv } from './frame.ts';

/** What a round sticker looks like: enough to find it again and to place its centre below a pixel. */
export interface Sticker {
  colour: Yuv;
  radiusPx: number;
  /** Colour distance between sticker and what surrounds it, grey levels. */
  contrast: number;
}

export interface Located extends Vec2 {
  /** Covered area against the sticker's own: 1 when whole, less when something hides a part. */
  areaRatio: number;
  /** Colour distance of the middle from the sticker's colour, as a share of the contrast. */
  colourMiss: number;
  /** How long the spot is smeared along the given blur's direction, px: 12·(variance along − across) is a box's length². */
  smearPx: number;
}

const SECTORS = 24;
/** The sector of each whole-pixel offset from the centre, so that the inner loops need no trigonometry. */
const SECTOR_REACH = 48;
const SECTOR_SIDE = 2 * SECTOR_REACH + 1;
const SECTOR_OF = Uint8Array.from({ length: SECTOR_SIDE * SECTOR_SIDE }, (_, k) => {
  const dx = (k % SECTOR_SIDE) - SECTOR_REACH;
  const dy = Math.floor(k / SECTOR_SIDE) - SECTOR_REACH;
  return Math.floor(((Math.atan2(dy, dx) / (2 * Math.PI) + 1) % 1) * SECTORS) % SECTORS;
});
const MIN_CONTRAST = 9;
/** Luma contrast, grey levels, from which chroma is not asked for the edge; and chroma's weight below that. */
const LUMA_ALONE = 45;
const CHROMA_TELLS = 18;
const CHROMA_EDGE = 0.4;

/** Mean colour over the disc of a given radius. */
function discColour(f: PlanarFrame, c: Vec2, radius: number): Yuv {
  let n = 0;
  const s: Yuv = [0, 0, 0];
  for (let y = Math.ceil(c.y - radius); y <= c.y + radius; y += 1) {
    for (let x = Math.ceil(c.x - radius); x <= c.x + radius; x += 1) {
      if ((x - c.x) ** 2 + (y - c.y) ** 2 > radius * radius) continue;
      const p = colourAt(f, x, y);
      s[0] += p[0];
      s[1] += p[1];
      s[2] += p[2];
      n += 1;
    }
  }
  return n ? [s[0] / n, s[1] / n, s[2] / n] : colourAt(f, c.x, c.y);
}

/** Mean distance from a colour on each one-pixel ring about a point. */
function ringDistances(f: PlanarFrame, c: Vec2, colour: Yuv, reach: number): number[] {
  const sum = new Array<number>(reach + 1).fill(0);
  const count = new Array<number>(reach + 1).fill(0);
  for (let dy = -reach; dy <= reach; dy += 1) {
    for (let dx = -reach; dx <= reach; dx += 1) {
      const ring = Math.round(Math.hypot(dx, dy));
      if (ring > reach) continue;
      const p = colourAt(f, c.x + dx, c.y + dy);
      sum[ring] += Math.sqrt(colourDistance2(p[0], p[1], p[2], colour));
      count[ring] += 1;
    }
  }
  return sum.map((s, i) => s / count[i]);
}

/**
 * Learns the sticker under a point, if there is one: a spot of one colour, round, set off from what surrounds it.
 * @param f the picture  @param at a point on the sticker, px
 * @returns the sticker and its centre, or null where there is no such spot
 */
export function learnSticker(f: PlanarFrame, at: Vec2): { sticker: Sticker; centre: Vec2 } | null {
  let centre = at;
  let sticker: Sticker | null = null;
  for (let round = 0; round < 3; round += 1) {
    const colour = discColour(f, centre, 1.8);
    const reach = 22;
    const rings = ringDistances(f, centre, colour, reach);
    // The edge: where the distance first passes half of what it reaches a few pixels further out.
    let radiusPx = 0;
    let contrast = 0;
    for (let r = 2; r < reach - 5 && !radiusPx; r += 1) {
      const outer = Math.max(rings[r + 1], rings[r + 2], rings[r + 3], rings[r + 4]);
      const half = (outer + rings[0]) / 2;
      if (outer - rings[1] > MIN_CONTRAST && rings[r] >= half) {
        const rise = Math.max(1e-6, rings[r] - rings[r - 1]);
        radiusPx = r - 1 + Math.min(1, Math.max(0, (half - rings[r - 1]) / rise));
        contrast = outer;
      }
    }
    if (!radiusPx) return null;
    // The inner colour again, from more of the disc, now that its size is known.
    sticker = { colour: discColour(f, centre, Math.max(1.5, radiusPx * 0.6)), radiusPx, contrast };
    const refined = centreOn(f, sticker, centre, { x: 0, y: 0 });
    if (!refined || Math.hypot(refined.x - at.x, refined.y - at.y) > 1.5 * radiusPx + 2) return null;
    centre = { x: refined.x, y: refined.y };
    // Σα measures the area better than the ring profile does.
    sticker.radiusPx *= Math.sqrt(Math.min(1.4, Math.max(0.6, refined.areaRatio)));
  }
  if (!sticker || sticker.radiusPx < 1.6) return null;
  const final = centreOn(f, sticker, centre, { x: 0, y: 0 });
  if (!final || final.areaRatio < 0.75 || final.areaRatio > 1.35 || !isRound(f, sticker, final)) return null;
  return { sticker, centre: { x: final.x, y: final.y } };
}

/** A fold, an edge or a letter is not a sticker: the surroundings must differ on every side. */
function isRound(f: PlanarFrame, s: Sticker, c: Vec2): boolean {
  const far = s.radiusPx + 2.5;
  let off = 0;
  for (let k = 0; k < 16; k += 1) {
    const a = (k / 16) * 2 * Math.PI;
    const p = colourAt(f, c.x + far * Math.cos(a), c.y + far * Math.sin(a));
    if (Math.sqrt(colourDistance2(p[0], p[1], p[2], s.colour)) > 0.45 * s.contrast) off += 1;
  }
  return off >= 12;
}

/**
 * Places a sticker's centre: each pixel's share of sticker against the background of its own side (sectors of a ring round
 * the spot), then the centre of gravity of those shares, repeated until it stands still. Motion blur only smears the
 * shares along the path, and the centre stays at mid-exposure.
 * @param near where it should be within about a radius, px  @param blur how far it moved while the shutter was open, px
 * @returns the centre with how whole it is, or null where nothing there looks like it
 */
export function centreOn(f: PlanarFrame, s: Sticker, near: Vec2, blur: Vec2): Located | null {
  const half = Math.hypot(blur.x, blur.y) / 2;
  const reach = s.radiusPx + 1;
  const ux = half > 0.3 ? blur.x / (2 * half) : 1;
  const uy = half > 0.3 ? blur.y / (2 * half) : 0;
  let cx = near.x;
  let cy = near.y;
  let area = 0;
  let smearPx = 0;
  const bg = new Float64Array(SECTORS * 4);
  const ringFrom = (s.radiusPx + 1.3) ** 2;
  const ringTo = (s.radiusPx + 2.9) ** 2;
  const outer = s.radiusPx + 3.4 + half;
  for (let round = 0; round < 8; round += 1) {
    bg.fill(0);
    const x0 = Math.max(0, Math.ceil(cx - outer));
    const x1 = Math.min(f.width - 1, Math.floor(cx + outer));
    const y0 = Math.max(0, Math.ceil(cy - outer));
    const y1 = Math.min(f.height - 1, Math.floor(cy + outer));
    if (x1 - x0 < 2 * s.radiusPx || y1 - y0 < 2 * s.radiusPx) return null;
    // Background of each side, measured on a ring round the spot (a capsule, where it is smeared).
    for (let y = y0; y <= y1; y += 1) {
      for (let x = x0; x <= x1; x += 1) {
        const d2 = capsule2(x - cx, y - cy, ux, uy, half);
        if (d2 < ringFrom || d2 > ringTo) continue;
        const k = 4 * sectorOf(x - cx, y - cy);
        const c = (y >> 1) * f.chromaStride + (x >> 1) * f.chromaStep;
        bg[k] += f.y[y * f.yStride + x];
        bg[k + 1] += f.u[c];
        bg[k + 2] += f.v[c];
        bg[k + 3] += 1;
      }
    }
    let sa = 0;
    let sx = 0;
    let sy = 0;
    let along2 = 0;
    let across2 = 0;
    const reach2 = reach * reach;
    for (let y = y0; y <= y1; y += 1) {
      for (let x = x0; x <= x1; x += 1) {
        if (capsule2(x - cx, y - cy, ux, uy, half) > reach2) continue;
        const k = 4 * sectorOf(x - cx, y - cy);
        const n = bg[k + 3];
        if (n === 0) continue;
        const ey = s.colour[0] - bg[k] / n;
        const eu = s.colour[1] - bg[k + 1] / n;
        const ev = s.colour[2] - bg[k + 2] / n;
        const luma2 = ey * ey;
        const chroma2 = eu * eu + ev * ev;
        const lumaDot = (f.y[y * f.yStride + x] - bg[k] / n) * ey;
        let alpha: number;
        if (chroma2 < CHROMA_TELLS * CHROMA_TELLS) {
          if (luma2 + CHROMA_EDGE * chroma2 < 16) continue;
          alpha = luma2 > 16 ? lumaDot / luma2 : 0;
        } else {
          const c = chromaBetween(f, x, y);
          const chromaDot = (c.u - bg[k + 1] / n) * eu + (c.v - bg[k + 2] / n) * ev;
          // Chroma is half as sharp: where luma sets the sticker off, luma places the edge and chroma only has its say on
          // what is bright but of another colour (skin between a sticker and a dark hem).
          alpha =
            luma2 > LUMA_ALONE * LUMA_ALONE
              ? Math.min(lumaDot / luma2, chromaDot / chroma2 + 0.2)
              : (lumaDot + CHROMA_EDGE * chromaDot) / (luma2 + CHROMA_EDGE * chroma2);
        }
        // A dead zone at either end, so that an uneven background or sticker does not pull.
        const share = Math.min(1, Math.max(0, (alpha - 0.15) / 0.7));
        sa += share;
        sx += share * x;
        sy += share * y;
        const along = (x - cx) * ux + (y - cy) * uy;
        const across = (y - cy) * ux - (x - cx) * uy;
        along2 += share * along * along;
        across2 += share * across * across;
      }
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
    if (shift < 0.015) break;
  }
  const middle = discColour(f, { x: cx, y: cy }, Math.max(1.2, s.radiusPx * 0.4));
  return {
    x: cx,
    y: cy,
    areaRatio: area / (Math.PI * s.radiusPx * s.radiusPx),
    colourMiss: Math.sqrt(colourDistance2(middle[0], middle[1], middle[2], s.colour)) / s.contrast,
    smearPx,
  };
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

/** Squared distance from the segment of half-length `half` along (ux, uy) about the origin. */
function capsule2(dx: number, dy: number, ux: number, uy: number, half: number): number {
  const along = dx * ux + dy * uy;
  const over = along > half ? along - half : along < -half ? along + half : 0;
  const across = dy * ux - dx * uy;
  return over * over + across * across;
}

/** Which sector a direction falls in. */
function sectorOf(dx: number, dy: number): number {
  const i = Math.min(SECTOR_REACH, Math.max(-SECTOR_REACH, Math.round(dx))) + SECTOR_REACH;
  const j = Math.min(SECTOR_REACH, Math.max(-SECTOR_REACH, Math.round(dy))) + SECTOR_REACH;
  return SECTOR_OF[j * SECTOR_SIDE + i];
}
