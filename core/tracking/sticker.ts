import type { ImagePoint } from '../math/vec.ts';
import { colourAt, type PlanarFrame, type Yuv } from './frame.ts';

/** What a round sticker looks like: enough to find it again and to place its centre below a pixel. */
export interface Sticker {
  colour: Yuv;
  radiusPx: number;
  /** Colour distance between sticker and what surrounds it, grey levels. */
  contrast: number;
  /** Share of its area that is ever seen, where something that goes along with it (a strap, a cable tie) hides the rest. */
  shown?: number;
}

export interface Located extends ImagePoint {
  /** Covered area against the sticker's own: 1 when whole, less when something hides a part. */
  areaRatio: number;
  /** Colour distance of the middle from the sticker's colour, as a share of the contrast. */
  colourMiss: number;
  /** How long the spot is smeared along the given blur's direction, px: 12·(variance along − across) is a box's length². */
  smearPx: number;
  /** Its colour here: of its middle, or of what is seen of it. */
  colour: Yuv;
}

/** Mean colour over the disc of a given radius. */
export function discColour(f: PlanarFrame, c: ImagePoint, radius: number): Yuv {
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
