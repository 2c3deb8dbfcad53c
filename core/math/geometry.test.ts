import { describe, expect, it } from 'vitest';
import { gaussian, seededRandom } from '../../sim/random.ts';
import { insideAngleDeg, RAD_PER_DEG, turnDeg, wrap360 } from './angles.ts';
import { circleMeetLeft, fitCircle } from './circle.ts';
import { distance, type ImagePoint, type PlanePoint, type Vec2 } from './vec.ts';

describe('insideAngleDeg', () => {
  it('keeps its digits near 0 and 180, where acos of a ratio loses them', () => {
    for (const deg of [1e-5, 0.001, 37, 90, 179.999, 180 - 1e-5]) {
      const q = { x: 400 * Math.cos(deg * RAD_PER_DEG), y: 400 * Math.sin(deg * RAD_PER_DEG) };
      expect(insideAngleDeg({ x: 300, y: 0 }, { x: 0, y: 0 }, q)).toBeCloseTo(deg, 9);
    }
  });
  it('is NaN where a joint is unseen', () => {
    expect(insideAngleDeg({ x: NaN, y: NaN }, { x: 0, y: 0 }, { x: 1, y: 1 })).toBeNaN();
  });
});

it('wraps and turns by the shorter way', () => {
  expect(wrap360(-30)).toBe(330);
  expect(wrap360(725)).toBe(5);
  expect(turnDeg(5, 355)).toBe(10);
  expect(turnDeg(355, 5)).toBe(-10);
});

describe('circleMeetLeft', () => {
  it('meets both circles, on the left of the way from a to b', () => {
    const random = seededRandom(3);
    for (let k = 0; k < 200; k += 1) {
      const a = { x: 500 * random(), y: 500 * random() };
      const b = { x: 500 * random(), y: 500 * random() };
      const [ra, rb] = [100 + 400 * random(), 100 + 400 * random()];
      const p = circleMeetLeft(a, ra, b, rb);
      const d = distance(a, b);
      if (d > ra + rb || d < Math.abs(ra - rb)) {
        expect(p).toBeNull();
        continue;
      }
      expect(distance(p!, a)).toBeCloseTo(ra, 6);
      expect(distance(p!, b)).toBeCloseTo(rb, 6);
      expect((b.x - a.x) * (p!.y - a.y) - (b.y - a.y) * (p!.x - a.x)).toBeGreaterThanOrEqual(-1e-6);
    }
  });
});

describe('fitCircle', () => {
  const arc = (n: number, noise: number, from = 0, to = 360) => {
    const random = seededRandom(11);
    return Array.from({ length: n }, (_, k) => {
      const a = (from + ((to - from) * k) / n) * RAD_PER_DEG;
      return {
        x: 610 + 70 * Math.cos(a) + noise * gaussian(random),
        y: 530 + 70 * Math.sin(a) + noise * gaussian(random),
      };
    });
  };
  it('finds centre and radius, and its residual is the noise', () => {
    const c = fitCircle(arc(400, 0.3))!;
    expect(distance(c.centre, { x: 610, y: 530 })).toBeLessThan(0.08);
    expect(c.radius).toBeCloseTo(70, 1);
    expect(c.residual).toBeGreaterThan(0.25);
    expect(c.residual).toBeLessThan(0.35);
  });
  it('is not pulled by a tenth of wrong points', () => {
    const points = arc(300, 0.2).map((p, i) => (i % 10 === 0 ? { x: p.x + 40, y: p.y - 15 } : p));
    const c = fitCircle(points)!;
    expect(distance(c.centre, { x: 610, y: 530 })).toBeLessThan(0.15);
    expect(c.used).toBeLessThanOrEqual(272);
  });
  it('has no answer for a line or a handful', () => {
    expect(
      fitCircle([
        { x: 1, y: 1 },
        { x: 2, y: 2 },
      ]),
    ).toBeNull();
    expect(fitCircle(Array.from({ length: 20 }, (_, k) => ({ x: k, y: 2 * k })))).toBeNull();
  });
});

it('a place in a picture is none in the bike’s plane: the compiler refuses to mix them', () => {
  const seen: ImagePoint = { x: 1, y: 2 };
  const plain: Vec2 = seen;
  // @ts-expect-error pixels are no millimetres
  const mixed: PlanePoint = seen;
  expect(mixed).toBe(plain);
});
