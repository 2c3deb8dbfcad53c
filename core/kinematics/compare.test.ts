import { describe, expect, it } from 'vitest';
import { CAST_ON_BONE as CAST } from '../../sim/cast.ts';
import { filmed, FILMED_MM_PER_PX, type Filming } from '../../sim/filmed.ts';
import { gaussian, seededRandom } from '../../sim/random.ts';
import { compareReadings } from './compare.ts';
import { SIDE_LANDMARKS } from '../landmarks/landmarks.ts';
import { readTracks, type Reading } from './read.ts';

const { rider } = CAST[0].scene;

function read(f: Partial<Filming>): Reading {
  const r = readTracks(filmed({ rider, noisePx: 0.3, ...f }), { mmPerPx: FILMED_MM_PER_PX });
  if (!r.ok) throw new Error(r.detail);
  return r;
}

/** Stickers put on anew: each some 5 mm beside its bone. */
const stickered = (seed: number): Filming['stickerOffMm'] => {
  const random = seededRandom(seed);
  return Object.fromEntries(
    SIDE_LANDMARKS.map((k) => [k, { x: 5 * gaussian(random), y: 5 * gaussian(random) }]),
  );
};

describe('take against take', () => {
  it('takes noise for noise: of one rider filmed twice hardly a figure is called real', () => {
    let real = 0;
    let all = 0;
    for (let k = 0; k < 12; k += 1) {
      const off = stickered(100 + k);
      const still = { ...rider, wanderDeg: 0 };
      const rows = compareReadings(
        read({ rider: still, stickerOffMm: off, seed: 2 * k }),
        read({ rider: still, stickerOffMm: off, seed: 2 * k + 1 }),
        true,
      );
      real += rows.filter((r) => r.real).length;
      all += rows.length;
    }
    expect(real / all).toBeLessThan(0.05);
  });
  it('sees a saddle 16 mm higher with the stickers left on, and says by how much', () => {
    const off = stickered(7);
    const higher = { ...rider, hipMm: { x: rider.hipMm.x, y: rider.hipMm.y + 16 } };
    const rows = compareReadings(
      read({ stickerOffMm: off }),
      read({ rider: higher, stickerOffMm: off, seed: 9 }),
      true,
    );
    const knee = rows.find((r) => r.key === 'kneeFlexionDeg' && r.of === 'min')!;
    expect(knee.real).toBe(true);
    expect(knee.byDeg).toBeLessThan(-2);
    expect(knee.second - knee.first).toBeCloseTo(knee.byDeg, 9);
  });
  it('is more careful when the rider was stickered anew: the same change is then within noise', () => {
    const higher = { ...rider, hipMm: { x: rider.hipMm.x, y: rider.hipMm.y + 3 } };
    const [a, b] = [
      read({ stickerOffMm: stickered(1) }),
      read({ rider: higher, stickerOffMm: stickered(2) }),
    ];
    const on = compareReadings(a, b, true);
    const anew = compareReadings(a, b, false);
    on.forEach((r, k) => expect(anew[k].uncertaintyDeg).toBeGreaterThan(r.uncertaintyDeg));
    expect(anew.find((r) => r.key === 'kneeFlexionDeg' && r.of === 'min')!.real).toBe(false);
  });
});
