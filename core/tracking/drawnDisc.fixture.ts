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
  const value = (plane: 0 | 1 | 2, x: number, y: number): number =>
    discs.reduce((v, d) => {
      const share = shareAt(d, x, y);
      return v * (1 - share) + d.colour[plane] * share;
    }, background[plane]);
  const y = Uint8Array.from({ length: width * height }, (_, k) =>
    Math.round(value(0, k % width, Math.floor(k / width))),
  );
  const chromaWidth = (width + 1) >> 1;
  const chroma = (plane: 1 | 2): Uint8Array =>
    Uint8Array.from({ length: chromaWidth * ((height + 1) >> 1) }, (_, k) => {
      const [cx, cy] = [2 * (k % chromaWidth), 2 * Math.floor(k / chromaWidth)];
      return Math.round((value(plane, cx, cy) + value(plane, cx, cy + 1)) / 2);
    });
  return packedFrame({ width, height, y, u: chroma(1), v: chroma(2) });
}
