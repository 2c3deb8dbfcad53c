import { describe, expect, it } from 'vitest';
import { gaussian, seededRandom } from '../../sim/random.ts';
import { packedFrame, type PlanarFrame } from './frame.ts';
import { cutPatch, findPatch, refreshPatch } from './patch.ts';

/** A wall of soft blots, shifted by any part of a pixel, brighter or darker, with noise. */
function wall(
  shift: { x: number; y: number },
  { gain = 1, lift = 0, noise = 1, seed = 1 } = {},
): PlanarFrame {
  const [w, h] = [160, 120];
  const place = seededRandom(99);
  const blots = Array.from({ length: 90 }, () => ({
    x: w * place(),
    y: h * place(),
    r: 2.5 + 4 * place(),
    v: 90 * (place() - 0.5),
  }));
  const random = seededRandom(seed);
  const y = new Uint8Array(w * h);
  for (let j = 0; j < h; j += 1)
    for (let i = 0; i < w; i += 1) {
      let v = 120;
      for (const b of blots) {
        const d2 = ((i - shift.x - b.x) ** 2 + (j - shift.y - b.y) ** 2) / (b.r * b.r);
        if (d2 < 9) v += b.v * Math.exp(-d2);
      }
      y[j * w + i] = Math.max(0, Math.min(255, Math.round(gain * v + lift + noise * gaussian(random))));
    }
  const chroma = new Uint8Array((w * h) / 4).fill(128);
  return packedFrame({ width: w, height: h, y, u: chroma, v: chroma });
}

const AT = { x: 80, y: 60 };

describe('a landmark without a sticker', () => {
  it('is found again below a third of a pixel, however the picture moved and whatever the light', () => {
    const patch = cutPatch(wall({ x: 0, y: 0 }), AT);
    for (const [x, y, light] of [
      [0, 0, {}],
      [3.3, -2.6, { seed: 2 }],
      [-7.5, 6.25, { seed: 3, gain: 0.7, lift: 20 }],
      [11.4, 0.8, { seed: 4, gain: 1.25, lift: -25 }],
    ] as const) {
      const hit = findPatch(wall({ x, y }, light), patch, AT, 14)!;
      expect(Math.hypot(hit.x - AT.x - x, hit.y - AT.y - y)).toBeLessThan(0.34);
      expect(hit.score).toBeGreaterThan(0.9);
    }
  });
  it('is lost where nothing is like it, rather than put anywhere', () => {
    const patch = cutPatch(wall({ x: 0, y: 0 }), AT);
    const flat = packedFrame({
      width: 160,
      height: 120,
      y: new Uint8Array(160 * 120).fill(120),
      u: new Uint8Array(80 * 60).fill(128),
      v: new Uint8Array(80 * 60).fill(128),
    });
    expect(findPatch(flat, patch, AT, 10)).toBeNull();
    expect(cutPatch(flat, AT).texture).toBe(0);
    // Out of reach is lost too, or at least not taken for the very thing.
    const far = findPatch(wall({ x: 40, y: 0 }), patch, AT, 8);
    expect(far === null || far.score < 0.8).toBe(true);
  });
  it('follows a slow change when it is refreshed, and only as far as it is told', () => {
    const patch = cutPatch(wall({ x: 0, y: 0 }), AT);
    const before = Float32Array.from(patch.luma);
    const darker = wall({ x: 0, y: 0 }, { gain: 0.5, noise: 0 });
    refreshPatch(darker, patch, AT, 0.25);
    const now = cutPatch(darker, AT).luma;
    patch.luma.forEach((v, i) => expect(v).toBeCloseTo(before[i] + 0.25 * (now[i] - before[i]), 3));
  });
  it('at the picture’s edge is still cut and found, without reading beyond it', () => {
    const edge = { x: 8, y: 110 };
    const patch = cutPatch(wall({ x: 0, y: 0 }), edge);
    expect([...patch.luma].every(Number.isFinite)).toBe(true);
    const hit = findPatch(wall({ x: 0, y: 0 }, { seed: 8 }), patch, edge, 6)!;
    expect(Math.hypot(hit.x - edge.x, hit.y - edge.y)).toBeLessThan(1);
  });
});
