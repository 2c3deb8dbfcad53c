import { describe, expect, it } from 'vitest';
import { gaussian, seededRandom } from '../../sim/random.ts';
import { RAD_PER_DEG } from '../math/angles.ts';
import type { Vec2 } from '../math/vec.ts';
import { fitCrank } from './crank.ts';

interface Turn {
  centre: Vec2;
  radiusMm: number;
  /** From the toe landmark to the spindle, in the foot's own frame. */
  offset: Vec2;
  swingDeg: number;
  noiseMm: number;
  turns: number;
  seed: number;
}

/** A toe landmark on a pedalling foot: the spindle goes round, the toe stands off it in a frame that pitches. */
function pedalled({ centre, radiusMm, offset, swingDeg, noiseMm, turns, seed }: Turn) {
  const random = seededRandom(seed);
  const n = Math.round(48 * turns);
  const spindle: Vec2[] = [];
  const toe: Vec2[] = [];
  const pitch: number[] = [];
  for (let i = 0; i < n; i += 1) {
    const t = (2 * Math.PI * i) / 48;
    const p = 17 + swingDeg * Math.cos(t - 2.6);
    const s = { x: centre.x + radiusMm * Math.sin(t), y: centre.y + radiusMm * Math.cos(t) };
    const [c, sn] = [Math.cos(p * RAD_PER_DEG), Math.sin(p * RAD_PER_DEG)];
    spindle.push(s);
    toe.push({
      x: s.x - (offset.x * c + offset.y * sn) + noiseMm * gaussian(random),
      y: s.y - (-offset.x * sn + offset.y * c) + noiseMm * gaussian(random),
    });
    pitch.push(p);
  }
  return { spindle, toe, pitch };
}

describe('the pedal circle', () => {
  it('is found from a toe that is not on it, wherever on the shoe the landmark sits', () => {
    const random = seededRandom(3);
    for (let k = 0; k < 40; k += 1) {
      const between = (a: number, b: number): number => a + (b - a) * random();
      const truth = {
        centre: { x: between(-30, 30), y: between(-30, 30) },
        radiusMm: between(150, 180),
        offset: { x: between(-20, 20), y: between(-35, -12) },
        swingDeg: between(9, 16),
      };
      const { toe, pitch } = pedalled({ ...truth, noiseMm: 0.3, turns: 6, seed: k });
      const fit = fitCrank(toe, pitch)!;
      expect(Math.abs(fit.circle.radius - truth.radiusMm)).toBeLessThan(1.2);
      expect(
        Math.hypot(fit.circle.centre.x - truth.centre.x, fit.circle.centre.y - truth.centre.y),
      ).toBeLessThan(4);
    }
  });
  it('is the spindle’s own, to the noise, where the spindle was marked', () => {
    const truth = { centre: { x: 5, y: -7 }, radiusMm: 172.5, offset: { x: 8, y: -20 }, swingDeg: 12 };
    const { spindle, toe, pitch } = pedalled({ ...truth, noiseMm: 0.5, turns: 3, seed: 1 });
    const fit = fitCrank(toe, pitch, spindle)!;
    expect(fit.circle.radius).toBeCloseTo(172.5, 6);
    expect(fit.circle.centre.x).toBeCloseTo(5, 6);
    expect(fit.spindleMm).toEqual(spindle);
    expect(Number.isNaN(fit.offsetMm.x)).toBe(true);
    // Too few of them tell nothing: the toe is used after all.
    const few = spindle.map((p, i) => (i % 20 === 0 ? p : { x: NaN, y: NaN }));
    expect(Number.isFinite(fitCrank(toe, pitch, few)!.offsetMm.x)).toBe(true);
  });
  it('bears lost frames and a few wild ones, and refuses what is no turn', () => {
    const truth = { centre: { x: 0, y: 0 }, radiusMm: 170, offset: { x: 4, y: -22 }, swingDeg: 13 };
    const { toe, pitch } = pedalled({ ...truth, noiseMm: 0.3, turns: 8, seed: 4 });
    const patchy = toe.map((p, i) =>
      i % 5 === 2 ? { x: NaN, y: NaN } : i % 97 === 50 ? { x: p.x + 60, y: p.y - 40 } : p,
    );
    const fit = fitCrank(patchy, pitch)!;
    expect(Math.abs(fit.circle.radius - 170)).toBeLessThan(2.5);
    patchy.forEach((p, i) => expect(Number.isNaN(fit.spindleMm[i].x)).toBe(Number.isNaN(p.x)));
    expect(fitCrank(toe.slice(0, 8), pitch.slice(0, 8))).toBeNull();
    expect(
      fitCrank(
        toe.map(() => ({ x: NaN, y: NaN })),
        pitch,
      ),
    ).toBeNull();
  });
});
