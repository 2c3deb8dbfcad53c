import { describe, expect, it } from 'vitest';
import { seededRandom } from '../../sim/random.ts';
import { fitEllipse } from './rim.ts';

/** Radii about a centre beside an upright ellipse's own, as the rays meet it. */
function radiiOf({ a, b, dx, dy }: { a: number; b: number; dx: number; dy: number }): Float64Array {
  return Float64Array.from({ length: 180 }, (_, k) => {
    const t = (k / 180) * 2 * Math.PI;
    const [ux, uy] = [Math.cos(t), Math.sin(t)];
    // (r·ux − dx)²/a² + (r·uy − dy)²/b² = 1, the outer root.
    const A = (ux / a) ** 2 + (uy / b) ** 2;
    const B = (ux * dx) / a ** 2 + (uy * dy) / b ** 2;
    const C = (dx / a) ** 2 + (dy / b) ** 2 - 1;
    return (B + Math.sqrt(B * B - A * C)) / A;
  });
}

describe('the ellipse of a tyre’s edge', () => {
  it('is found with its centre and both axes, from beside its centre', () => {
    for (const [dx, dy] of [
      [0, 0],
      [2.5, -1.5],
      [-3, 3],
    ]) {
      const fit = fitEllipse(radiiOf({ a: 148, b: 150, dx, dy }))!;
      expect(fit.dx).toBeCloseTo(dx, 1);
      expect(fit.dy).toBeCloseTo(dy, 1);
      expect(fit.r + fit.e).toBeCloseTo(148, 0);
      expect(fit.r - fit.e).toBeCloseTo(150, 0);
      expect(fit.share).toBe(1);
    }
  });

  it('a frame tube, a shoe and a floor across a third of it pull it nowhere, and its share says so', () => {
    const random = seededRandom(9);
    const radii = radiiOf({ a: 150, b: 150, dx: 1, dy: 2 });
    for (let k = 60; k < 120; k += 1) radii[k] = 110 + 20 * random();
    for (let k = 0; k < 20; k += 1) radii[k] = NaN;
    const fit = fitEllipse(radii)!;
    expect(Math.abs(fit.dx - 1)).toBeLessThan(0.5);
    expect(Math.abs(fit.dy - 2)).toBeLessThan(0.5);
    expect(fit.r).toBeCloseTo(150, 0);
    expect(fit.share).toBeGreaterThan(0.5);
    expect(fit.share).toBeLessThan(0.6);
  });

  it('nothing seen is no ellipse', () => expect(fitEllipse(new Float64Array(180).fill(NaN))).toBeNull());
});
