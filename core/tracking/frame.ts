/** A part of a picture, whole pixels. */
export interface Region {
  x: number;
  y: number;
  width: number;
  height: number;
}

/**
 * One decoded picture as its 4:2:0 planes, the way video decoders hand it out: luma at full size, chroma at half.
 * Interleaved chroma (NV12) has `chromaStep` 2 and u, v as views shifted by one byte; planar (I420) has 1.
 */
export interface PlanarFrame {
  width: number;
  height: number;
  y: Uint8Array;
  u: Uint8Array;
  v: Uint8Array;
  yStride: number;
  chromaStride: number;
  chromaStep: 1 | 2;
  /** Where the planes are filled; everywhere, if it is left out. Nothing is looked for outside. */
  filled?: Region;
}

/** The first and last pixels at which a picture may be read. */
export function bounds(f: PlanarFrame): { left: number; top: number; right: number; bottom: number } {
  const r = f.filled ?? { x: 0, y: 0, width: f.width, height: f.height };
  return { left: r.x, top: r.y, right: r.x + r.width - 1, bottom: r.y + r.height - 1 };
}

/** Luma and the two chroma differences of one place. */
export type Yuv = [number, number, number];

/** Chroma counts a little less than luma in a colour distance: it is half as sharp, but steadier under shading. */
export const CHROMA_WEIGHT = 0.8;

/** Squared colour distance in grey levels², chroma weighted. */
export function colourDistance2(y: number, u: number, v: number, c: Yuv): number {
  const dy = y - c[0];
  const du = u - c[1];
  const dv = v - c[2];
  return dy * dy + CHROMA_WEIGHT * (du * du + dv * dv);
}

/** How unlike two colours are, grey levels. */
export const colourGap = (a: Readonly<Yuv>, b: Yuv): number =>
  Math.sqrt(colourDistance2(a[0], a[1], a[2], b));

/** Planes packed without padding, chroma planar. */
export function packedFrame({
  width,
  height,
  y,
  u,
  v,
}: {
  width: number;
  height: number;
  y: Uint8Array;
  u: Uint8Array;
  v: Uint8Array;
}): PlanarFrame {
  return { width, height, y, u, v, yStride: width, chromaStride: (width + 1) >> 1, chromaStep: 1 };
}

/** The colour at a whole pixel, clamped to the picture's edge. */
export function colourAt(f: PlanarFrame, x: number, y: number): Yuv {
  const cx = Math.min(f.width - 1, Math.max(0, Math.round(x)));
  const cy = Math.min(f.height - 1, Math.max(0, Math.round(y)));
  const k = (cy >> 1) * f.chromaStride + (cx >> 1) * f.chromaStep;
  return [f.y[cy * f.yStride + cx], f.u[k], f.v[k]];
}

/**
 * Turns a picture by quarter turns clockwise, so that marks made on the upright picture fit.
 * @param quarterTurns 0…3 clockwise
 */
export function turnFrame(f: PlanarFrame, quarterTurns: number): PlanarFrame {
  const q = ((quarterTurns % 4) + 4) % 4;
  if (q === 0) return f;
  // eslint-disable-next-line max-params -- a plane as the decoder hands it over
  const turnPlane = (src: Uint8Array, w: number, h: number, stride: number, step: number): Uint8Array => {
    const out = new Uint8Array(w * h);
    const ow = q === 2 ? w : h;
    for (let y = 0; y < h; y += 1) {
      for (let x = 0; x < w; x += 1) {
        const ox = q === 1 ? h - 1 - y : q === 2 ? w - 1 - x : y;
        const oy = q === 1 ? x : q === 2 ? h - 1 - y : w - 1 - x;
        out[oy * ow + ox] = src[y * stride + x * step];
      }
    }
    return out;
  };
  const cw = (f.width + 1) >> 1;
  const ch = (f.height + 1) >> 1;
  const width = q === 2 ? f.width : f.height;
  const height = q === 2 ? f.height : f.width;
  return packedFrame({
    width,
    height,
    y: turnPlane(f.y, f.width, f.height, f.yStride, 1),
    u: turnPlane(f.u, cw, ch, f.chromaStride, f.chromaStep),
    v: turnPlane(f.v, cw, ch, f.chromaStride, f.chromaStep),
  });
}
