import { describe, expect, it } from 'vitest';
import { gaussian, seededRandom } from '../../sim/random.ts';
import { packedFrame, type PlanarFrame } from './frame.ts';
import { inLight, lightMeter } from './light.ts';

const [W, H] = [320, 240];

/** A mottled wall in some light, with a bright board before a part of it. */
function wall({ gain = 1, board = 0, noise = 1, seed = 1, width = W } = {}): PlanarFrame {
  const random = seededRandom(seed);
  const y = new Uint8Array(width * H);
  for (let k = 0; k < y.length; k += 1) {
    const [i, j] = [k % width, Math.floor(k / width)];
    const luma = i >= board && i < board + width / 4 ? 190 : 90 + 40 * Math.sin(i / 9) * Math.cos(j / 7);
    y[k] = Math.max(0, Math.min(255, 16 + gain * (luma - 16) + noise * gaussian(random)));
  }
  const c = new Uint8Array(((width + 1) >> 1) * ((H + 1) >> 1)).fill(128);
  return packedFrame({ width, height: H, y, u: c, v: c });
}

describe('the light of a film', () => {
  it('is measured by what stands still, whatever moves before it', () => {
    const meter = lightMeter(wall());
    for (const [k, gain] of [0.7, 0.88, 1, 1.12, 1.2].entries())
      expect(meter.gainOn(wall({ gain, board: 30 * k, seed: k + 2 }))).toBeCloseTo(gain, 1);
  });
  it('is what it was where a part of the picture shows too little of it', () => {
    const meter = lightMeter(wall());
    meter.gainOn(wall({ gain: 0.8 }));
    const part = { ...wall({ gain: 1.2 }), filled: { x: 10, y: 10, width: 12, height: 12 } };
    expect(meter.gainOn(part)).toBeCloseTo(0.8, 1);
  });
  it('makes a colour darker and greyer, and back again', () => {
    expect(inLight([216, 60, 150], 0.5)).toEqual([116, 94, 139]);
    const back = inLight(inLight([200, 90, 160], 0.6), 1 / 0.6);
    [200, 90, 160].forEach((v, k) => expect(back[k]).toBeCloseTo(v, 9));
  });
});

describe('a picture written twice', () => {
  it('is seen while something moves, even where it was coded anew', () => {
    const meter = lightMeter(wall());
    const seen: boolean[] = [];
    for (let i = 0; i < 12; i += 1) {
      seen.push(meter.isRepeat(wall({ board: 12 * i, seed: i })));
      // The same again, a little other by its coding.
      if (i === 6) seen.push(meter.isRepeat(wall({ board: 12 * i, seed: i, noise: 1.1 })));
    }
    expect(seen.flatMap((s, i) => (s ? [i] : []))).toEqual([7]);
  });
  it('is told by what is filled of both alone', () => {
    const meter = lightMeter(wall());
    const part = (board: number, x: number): PlanarFrame => ({
      ...wall({ board, seed: board }),
      filled: { x, y: 20, width: 180, height: 200 },
    });
    for (let i = 0; i < 6; i += 1) expect(meter.isRepeat(part(12 * i, 2 * i))).toBe(false);
    // The same picture, of which another part is there; outside stands what was there once.
    const stale = part(60, 60);
    const { left, right } = { left: 60, right: 240 };
    for (let k = 0; k < stale.y.length; k += 1)
      if (k % W < left || k % W >= right) stale.y[k] = 255 - stale.y[k];
    expect(meter.isRepeat(stale)).toBe(true);
  });
  it('is none where nothing moves and only the grain differs', () => {
    const meter = lightMeter(wall());
    for (let i = 0; i < 12; i += 1) expect(meter.isRepeat(wall({ seed: 40 + i }))).toBe(false);
  });
});
