import { describe, expect, it } from 'vitest';
import { halfPicture, type I420Layout, type YuvMeaning } from './shrink.ts';

type Rgb = readonly [number, number, number];

/** The textbook way there, by real numbers: what the fixed-point way back is held to. */
function toYuv([r, g, b]: Rgb, { matrix, fullRange }: YuvMeaning): [number, number, number] {
  const [kr, kb] = matrix === 'bt601' ? [0.299, 0.114] : [0.2126, 0.0722];
  const y = kr * r + (1 - kr - kb) * g + kb * b;
  const [pb, pr] = [(b - y) / (2 * (1 - kb)), (r - y) / (2 * (1 - kr))];
  return fullRange
    ? [y, 128 + pb, 128 + pr]
    : [16 + (219 / 255) * y, 128 + (224 / 255) * pb, 128 + (224 / 255) * pr];
}

/** A frame whose blocks of two by two are each of one colour, with rows longer than the picture. */
function frameOf(
  colours: readonly Rgb[],
  columns: number,
  meaning: YuvMeaning,
): { planes: Uint8Array; layout: I420Layout } {
  const rows = colours.length / columns;
  const [yStride, cStride] = [2 * columns + 6, columns + 3];
  const [uAt, vAt] = [yStride * 2 * rows, yStride * 2 * rows + cStride * rows];
  const planes = new Uint8Array(vAt + cStride * rows).fill(77);
  colours.forEach((colour, k) => {
    const [y, u, v] = toYuv(colour, meaning).map((c) => Math.min(255, Math.round(c)));
    const [row, x] = [Math.floor(k / columns), k % columns];
    for (const [dr, dx] of [
      [0, 0],
      [0, 1],
      [1, 0],
      [1, 1],
    ])
      planes[(2 * row + dr) * yStride + 2 * x + dx] = y;
    planes[uAt + row * cStride + x] = u;
    planes[vAt + row * cStride + x] = v;
  });
  return {
    planes,
    layout: {
      widthPx: 2 * columns,
      heightPx: 2 * rows,
      planes: [
        { offset: 0, stride: yStride },
        { offset: uAt, stride: cStride },
        { offset: vAt, stride: cStride },
      ],
    },
  };
}

const COLOURS: readonly Rgb[] = [
  [0, 0, 0],
  [255, 255, 255],
  [255, 0, 0],
  [0, 255, 0],
  [0, 0, 255],
  [128, 128, 128],
  [240, 180, 20],
  [12, 90, 200],
];

describe('a picture at half its size', () => {
  for (const matrix of ['bt601', 'bt709'] as const)
    for (const fullRange of [true, false])
      it(`has the colours that went in (${matrix}, ${fullRange ? 'full' : 'studio'} range)`, () => {
        const meaning = { matrix, fullRange };
        const { planes, layout } = frameOf(COLOURS, 4, meaning);
        const rgba = halfPicture(planes, layout, meaning);
        expect(rgba).toHaveLength(4 * COLOURS.length);
        // Rounding to whole steps of luma and chroma costs up to two steps of a colour.
        COLOURS.forEach((colour, k) => {
          colour.forEach((c, i) => expect(Math.abs(rgba[4 * k + i] - c)).toBeLessThanOrEqual(2));
          expect(rgba[4 * k + 3]).toBe(255);
        });
      });
  it('takes the mean of four lumas, and leaves out an odd last row and column', () => {
    const planes = new Uint8Array(5 * 3 + 2 * 3 * 2).fill(128);
    planes.set([10, 20, 200, 200, 9], 0);
    planes.set([30, 40, 200, 200, 9], 5);
    planes.set([9, 9, 9, 9, 9], 10);
    const rgba = halfPicture(
      planes,
      {
        widthPx: 5,
        heightPx: 3,
        planes: [
          { offset: 0, stride: 5 },
          { offset: 15, stride: 3 },
          { offset: 21, stride: 3 },
        ],
      },
      { matrix: 'bt709', fullRange: true },
    );
    expect([...rgba]).toEqual([25, 25, 25, 255, 200, 200, 200, 255]);
  });
});
