import type { ImagePoint } from '../math/vec.ts';
import { packedFrame, type PlanarFrame, type Yuv } from './frame.ts';

export interface Disc {
  at: ImagePoint;
  radiusPx: number;
  colour: Yuv;
  /** How far it moves while the shutter is open, px. */
  blur?: ImagePoint;
}

/** A picture of discs on an even ground, for tests: coverage by 8 × 8 points a pixel and moments of the shutter; chroma sited left. */
export function drawnDiscs(
  discs: readonly Disc[],
  {
    width = 96,
    height = 72,
    background = [90, 128, 128] as Yuv,
    hide = null as ((x: number, y: number) => boolean) | null,
  } = {},
): PlanarFrame {
  const MOMENTS = 15;
  const shareAt = (d: Disc, px: number, py: number): number => {
    let inside = 0;
    const moments = d.blur ? MOMENTS : 1;
    for (let m = 0; m < moments; m += 1) {
      const s = d.blur ? (m + 0.5) / MOMENTS - 0.5 : 0;
      const [cx, cy] = [d.at.x + s * (d.blur?.x ?? 0), d.at.y + s * (d.blur?.y ?? 0)];
      if (Math.abs(px - cx) > d.radiusPx + 1 || Math.abs(py - cy) > d.radiusPx + 1) continue;
      for (let i = 0; i < 64; i += 1) {
        const [x, y] = [px + ((i % 8) + 0.5) / 8 - 0.5, py + (Math.floor(i / 8) + 0.5) / 8 - 0.5];
        if ((x - cx) ** 2 + (y - cy) ** 2 <= d.radiusPx ** 2 && !hide?.(x, y)) inside += 1;
      }
    }
    return inside / (64 * moments);
  };
  const chromaWidth = (width + 1) >> 1;
  const chromaHeight = (height + 1) >> 1;
  // Even sides: the last chroma of an odd picture lies half outside it.
  const stride = 2 * chromaWidth;
  const rows = 2 * chromaHeight;
  const planes = background.map((v) => new Float64Array(stride * rows).fill(v));
  for (const d of discs) {
    const [bx, by] = [Math.abs(d.blur?.x ?? 0) / 2, Math.abs(d.blur?.y ?? 0) / 2];
    const from = (at: number, reach: number): number => Math.max(0, Math.floor(at - reach));
    const to = (at: number, reach: number, most: number): number => Math.min(most - 1, Math.ceil(at + reach));
    const reach = d.radiusPx + 1;
    for (let py = from(d.at.y, reach + by); py <= to(d.at.y, reach + by, rows); py += 1)
      for (let px = from(d.at.x, reach + bx); px <= to(d.at.x, reach + bx, stride); px += 1) {
        const share = shareAt(d, px, py);
        const k = py * stride + px;
        planes.forEach((plane, i) => (plane[k] = plane[k] * (1 - share) + d.colour[i] * share));
      }
  }
  const y = Uint8Array.from({ length: width * height }, (_, k) =>
    Math.round(planes[0][Math.floor(k / width) * stride + (k % width)]),
  );
  const chroma = (plane: 1 | 2): Uint8Array =>
    Uint8Array.from({ length: chromaWidth * chromaHeight }, (_, k) => {
      const at = 2 * Math.floor(k / chromaWidth) * stride + 2 * (k % chromaWidth);
      return Math.round((planes[plane][at] + planes[plane][at + stride]) / 2);
    });
  return packedFrame({ width, height, y, u: chroma(1), v: chroma(2) });
}
