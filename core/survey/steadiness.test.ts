import { describe, expect, it } from 'vitest';
import { seededRandom } from '../../sim/random.ts';
import type { PlanarFrame } from '../tracking/frame.ts';
import { watchSteadiness } from './steadiness.ts';

const [WIDTH, HEIGHT] = [320, 200];

/** A room of soft blobs seen by a camera that stands off by so much; a hand may lie before a part of it. */
function room(dx: number, dy: number, { light = 1, coverTo = 0 } = {}): PlanarFrame {
  const random = seededRandom(4);
  const blobs = Array.from({ length: 160 }, () => ({
    x: random() * WIDTH,
    y: random() * HEIGHT,
    r: 4 + 6 * random(),
    v: 120 * (random() - 0.5),
  }));
  const y = new Uint8Array(WIDTH * HEIGHT).fill(110);
  const sum = new Float64Array(WIDTH * HEIGHT);
  for (const b of blobs) {
    const reach = Math.ceil(3 * b.r);
    const [cx, cy] = [b.x + dx, b.y + dy];
    for (let j = Math.max(0, Math.floor(cy - reach)); j < Math.min(HEIGHT, cy + reach); j += 1)
      for (let i = Math.max(0, Math.floor(cx - reach)); i < Math.min(WIDTH, cx + reach); i += 1)
        sum[j * WIDTH + i] += b.v * Math.exp(-((i - cx) ** 2 + (j - cy) ** 2) / (2 * b.r ** 2));
  }
  for (let k = 0; k < y.length; k += 1)
    y[k] = k % WIDTH < coverTo ? 60 : Math.max(0, Math.min(255, light * (110 + sum[k])));
  return {
    width: WIDTH,
    height: HEIGHT,
    y,
    u: new Uint8Array(0),
    v: new Uint8Array(0),
    yStride: WIDTH,
    chromaStride: WIDTH / 2,
    chromaStep: 1,
  };
}

describe('whether the camera stands still', () => {
  it('tells a knock by its way and its size, between the pixels, whatever the light does', () => {
    for (const [dx, dy] of [
      [0, 0],
      [0.4, -0.3],
      [3.3, 1.6],
      [-9, 5.5],
      [11, -12.2],
    ]) {
      for (const light of [1, 0.7]) {
        const shift = watchSteadiness(room(0, 0))(room(dx, dy, { light }))!;
        expect(Math.abs(shift.x - dx), `${dx}, ${dy} at ${light}`).toBeLessThan(0.3);
        expect(Math.abs(shift.y - dy), `${dx}, ${dy} at ${light}`).toBeLessThan(0.3);
      }
    }
  });

  it('follows a tremble from picture to picture, further than it looks at once', () => {
    const watch = watchSteadiness(room(0, 0));
    for (let k = 1; k <= 14; k += 1) {
      const shift = watch(room(2.5 * k, -1.5 * k))!;
      expect(shift.x).toBeCloseTo(2.5 * k, 0);
      expect(shift.y).toBeCloseTo(-1.5 * k, 0);
    }
  });

  it('somebody before a third of the picture changes nothing; before all of it, it can’t be told', () => {
    const shift = watchSteadiness(room(0, 0))(room(2, 1, { coverTo: WIDTH / 3 }))!;
    expect(shift.x).toBeCloseTo(2, 0);
    expect(shift.y).toBeCloseTo(1, 0);
    expect(watchSteadiness(room(0, 0))(room(0, 0, { coverTo: WIDTH }))).toBeNull();
  });
});
