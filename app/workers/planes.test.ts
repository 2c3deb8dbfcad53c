import type { VideoSample } from 'mediabunny';
import { expect, it } from 'vitest';
import { buffersOf, planesOf } from './planes';

interface CopyOptions {
  rect: { x: number; y: number; width: number; height: number };
  layout: { offset: number; stride: number }[];
}

/** A picture of a size that writes down how it was asked to be copied. */
function picture(width: number, height: number, copies: CopyOptions[]): VideoSample {
  return {
    format: 'I420',
    visibleRect: { left: 0, top: 0, width, height },
    squarePixelWidth: width,
    squarePixelHeight: height,
    rotation: 0,
    copyTo: (_: Uint8Array, how: CopyOptions) => Promise.resolve(copies.push(how)),
  } as unknown as VideoSample;
}

it('whatever part of a picture is copied, its planes do not lie over each other, and the buffer holds them', async () => {
  const [width, height] = [1280, 720];
  const copies: CopyOptions[] = [];
  const { buffer } = await planesOf(picture(width, height, copies));
  for (const x of [0, 2, 300, 1278])
    for (const y of [0, 2, 100, 718])
      for (const to of [y + 2, height]) {
        const region = { x, y, width: width - x, height: to - y };
        const { frame } = await planesOf(picture(width, height, copies), buffer, region);
        const { rect, layout } = copies[copies.length - 1];
        // The browser takes every row of a plane for as long as its stride.
        const ends = layout.map(
          ({ offset, stride }, k) => offset + (stride * rect.height) / (k === 0 ? 1 : 2),
        );
        expect(ends[0], `${x} ${y} ${to}`).toBeLessThanOrEqual(layout[1].offset);
        expect(ends[1], `${x} ${y} ${to}`).toBeLessThanOrEqual(layout[2].offset);
        expect(ends[2]).toBeLessThanOrEqual(buffer.byteLength);
        expect(frame.filled ?? rect).toEqual(rect);
        expect(rect.x).toBeLessThanOrEqual(x);
        expect(rect.x + rect.width).toBe(width);
      }
});

it('pictures go to another worker with all their memory, each part once', async () => {
  const of = async () => (await planesOf(picture(64, 48, []))).frame;
  const [a, b] = [await of(), await of()];
  const buffers = buffersOf({ frames: [a, b] });
  expect(buffers).toEqual([a.y.buffer, b.y.buffer]);
  const there = structuredClone([a, b], { transfer: buffers });
  expect(a.y.byteLength).toBe(0);
  expect(there[1].v.buffer).toBe(there[1].y.buffer);
  expect(there[1].v.length).toBeGreaterThanOrEqual(32 * 24);
});
