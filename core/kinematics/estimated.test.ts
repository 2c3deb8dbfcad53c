import { describe, expect, it } from 'vitest';
import { CAST } from '../../sim/cast.ts';
import { filmed, FILMED_MM_PER_PX } from '../../sim/filmed.ts';
import { gaussian, seededRandom } from '../../sim/random.ts';
import { SIDE_LANDMARKS, type SideLandmark } from '../landmarks/landmarks.ts';
import { ESTIMATE_SD_MM, estimatedSdMm, limbsLost } from './estimated.ts';
import { pointAt } from '../tracking/tracks.ts';
import type { Vec2 } from '../math/vec.ts';

const film = filmed({ rider: CAST[2].scene.rider, seconds: 4, rate: 60 });

/** Joints as a model that strays by so much would have them, mm. */
function estimates(strayMm: Partial<Record<SideLandmark, number>>, seed = 3) {
  const random = seededRandom(seed);
  return Object.fromEntries(
    SIDE_LANDMARKS.map((key) => {
      const sd = strayMm[key] ?? 0;
      const path = Array.from(film.tS.keys(), (i): Vec2 => {
        const p = pointAt(film, key, i);
        return {
          x: FILMED_MM_PER_PX * p.x + sd * gaussian(random),
          y: FILMED_MM_PER_PX * p.y + sd * gaussian(random),
        };
      });
      return [key, path];
    }),
  ) as Record<SideLandmark, Vec2[]>;
}

describe('joints that were estimated', () => {
  it('stand as far off as their limbs change their length, and never less than a model misses a bone by', () => {
    const steady = estimatedSdMm(estimates({}));
    for (const key of SIDE_LANDMARKS) {
      expect(steady[key], key).toBeGreaterThan(25);
      expect(steady[key] - ESTIMATE_SD_MM[key], key).toBeGreaterThanOrEqual(0);
      expect(steady[key] - ESTIMATE_SD_MM[key], key).toBeLessThan(3);
    }
    // Each joint strays by 40 mm in each direction: a limb's length by 40·√2.
    const all = estimatedSdMm(estimates(Object.fromEntries(SIDE_LANDMARKS.map((k) => [k, 40]))));
    for (const key of ['knee', 'ankle', 'elbow'] as const)
      expect(Math.abs(all[key] - Math.hypot(ESTIMATE_SD_MM[key], 40)), key).toBeLessThan(7);
    expect(all.spindle).toBe(all.toe);
    const arm = estimatedSdMm(estimates({ wrist: 60 }));
    expect(arm.wrist).toBeGreaterThan(ESTIMATE_SD_MM.wrist + 9);
    expect(arm.knee).toBeLessThan(29);
  });
  it('are none where a limb of the leg changes more than a limb can, or is not there', () => {
    expect(limbsLost(estimates({}))).toEqual([]);
    expect(limbsLost(estimates({ knee: 25, hip: 25, ankle: 20 }))).toEqual([]);
    expect(limbsLost(estimates({ ankle: 90 }))).toEqual([['knee', 'ankle']]);
    expect(limbsLost(estimates({ knee: 120 }))).toEqual([
      ['hip', 'knee'],
      ['knee', 'ankle'],
    ]);
    expect(limbsLost({ hip: [], knee: [], ankle: [] })).toHaveLength(2);
  });
});
