import { describe, expect, it } from 'vitest';
import { fillDisc, newRaster } from './raster.ts';
import { drawStrap, shownUnder, type Strap } from './strap.ts';

const AT = { x: 60.4, y: 50.7 };
const RADIUS = 6;
const strap = (thin?: Strap['thin']): Strap => ({
  colour: [40, 40, 42],
  atThetaDeg: 350,
  halfWidthDeg: 20,
  over: 'ankle',
  thin,
});

/** How much of a white disc is left in the picture under a strap. */
function leftOf(s: Strap, thetaDeg: number): number {
  const count = (strapped: boolean): number => {
    const r = newRaster(120, 100);
    fillDisc(r, AT, RADIUS, [255, 255, 255]);
    if (strapped) drawStrap(r, s, thetaDeg, AT);
    return r.rgb.reduce((n, v) => n + Number(v > 150), 0);
  };
  return count(true) / count(false);
}

describe('a strap over a sticker', () => {
  it.each([
    ['a cable tie beside the middle', { radiusPx: 1.5, offsetPx: 2 }],
    ['one across the middle', { radiusPx: 2, offsetPx: 0 }],
    ['a wide one', { radiusPx: 4, offsetPx: 1 }],
    ['a hand', undefined],
  ] as const)('%s leaves as much to be seen as it is said to', (_, thin) => {
    const s = strap(thin);
    expect(Math.abs(shownUnder(s, 355, AT, RADIUS) - leftOf(s, 355))).toBeLessThan(0.08);
  });
  it('is there on its part of the turn alone, across the top too', () => {
    const s = strap({ radiusPx: 4, offsetPx: 0 });
    for (const theta of [335, 350, 5, 369])
      expect(shownUnder(s, theta, AT, RADIUS), `${theta}`).toBeLessThan(0.5);
    for (const theta of [325, 15, 170, 735]) expect(shownUnder(s, theta, AT, RADIUS), `${theta}`).toBe(1);
  });
});
