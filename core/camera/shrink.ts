/** Luma and chroma planes as decoders hand them on (I420: chroma at half the size both ways), one after another in memory. */
export interface I420Layout {
  widthPx: number;
  heightPx: number;
  /** Where each plane begins and how many bytes a row of it takes: Y, U, V. */
  planes: readonly [Plane, Plane, Plane];
}
export interface Plane {
  offset: number;
  stride: number;
}

/** How colours were put into luma and chroma. */
export interface YuvMeaning {
  matrix: 'bt601' | 'bt709';
  /** Luma from 0 to 255 rather than from 16 to 235. */
  fullRange: boolean;
}

/**
 * Weights of red and blue in luma (ITU-R BT.601 and BT.709, table 3 of each); what is left is green.
 */
const WEIGHTS = { bt601: { kr: 0.299, kb: 0.114 }, bt709: { kr: 0.2126, kb: 0.0722 } } as const;

/** Fixed point: 16 bits behind the comma. */
const ONE = 65536;

/**
 * An upright picture at half the size, in colour: each of its pixels is the mean of four of luma and one of chroma, which is what the
 * planes have. A quarter of the work and of the memory of a picture at full size.
 * @param planes bytes of an I420 frame  @param layout its size (px) and planes
 * @returns RGBA bytes, rows of floor(width / 2) pixels, floor(height / 2) of them
 */
export function halfPicture(
  planes: Uint8Array,
  { widthPx, heightPx, planes: [y, u, v] }: I420Layout,
  { matrix, fullRange }: YuvMeaning,
): Uint8ClampedArray<ArrayBuffer> {
  const [w, h] = [widthPx >> 1, heightPx >> 1];
  const { kr, kb } = WEIGHTS[matrix];
  const kg = 1 - kr - kb;
  const [lumaSpan, chromaSpan, black] = fullRange ? [255, 255, 0] : [219, 224, 16];
  const perChroma = (ONE * 255) / chromaSpan;
  // Four lumas are summed, so that a quarter of the span's factor goes to each.
  const cy = Math.round((ONE * 255) / lumaSpan / 4);
  const rv = Math.round(2 * (1 - kr) * perChroma);
  const bu = Math.round(2 * (1 - kb) * perChroma);
  const gu = Math.round(((2 * kb * (1 - kb)) / kg) * perChroma);
  const gv = Math.round(((2 * kr * (1 - kr)) / kg) * perChroma);
  const half = ONE / 2;
  const rgba = new Uint8ClampedArray(4 * w * h);
  let to = 0;
  for (let row = 0; row < h; row += 1) {
    let a = y.offset + 2 * row * y.stride;
    let b = a + y.stride;
    let iu = u.offset + row * u.stride;
    let iv = v.offset + row * v.stride;
    for (let x = 0; x < w; x += 1) {
      const luma = cy * (planes[a] + planes[a + 1] + planes[b] + planes[b + 1] - 4 * black) + half;
      const du = planes[iu] - 128;
      const dv = planes[iv] - 128;
      rgba[to] = (luma + rv * dv) >> 16;
      rgba[to + 1] = (luma - gu * du - gv * dv) >> 16;
      rgba[to + 2] = (luma + bu * du) >> 16;
      rgba[to + 3] = 255;
      a += 2;
      b += 2;
      iu += 1;
      iv += 1;
      to += 4;
    }
  }
  return rgba;
}
