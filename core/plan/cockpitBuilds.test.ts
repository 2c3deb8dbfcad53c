import { describe, expect, it } from 'vitest';
import { bikeWith } from './blankCase.fixture.ts';
import { buildsFor } from './cockpitBuilds.ts';
import { effectsOf } from './controls/controls.ts';
import type { Part } from '../bike/parts.ts';

const bike = bikeWith({
  frame: { headAngleDeg: 73 },
  stem: { lengthMm: 100, angleDeg: -6, flipped: false, spacersMm: 20 },
  bar: { reachMm: 80 },
});
const stem = (lengthMm: number, price: number | null): Part => ({
  id: `s${lengthMm}`,
  kind: 'stem',
  name: `Stem ${lengthMm}`,
  lengthMm,
  angleDeg: -6,
  reachMm: null,
  widthMm: null,
  dropMm: null,
  stackMm: null,
  price,
  count: 1,
});

describe('stems, spacers and bars for a wanted place of the hands', () => {
  it('what is offered does to the hands what it says, nearest first', () => {
    for (const wanted of [
      { x: 0, y: 0 },
      { x: -20, y: 10 },
      { x: 15, y: -15 },
      { x: -30, y: 25 },
    ]) {
      const offers = buildsFor({ bike, parts: [stem(80, 30), stem(90, null)] }, wanted);
      for (const o of offers) {
        expect(o.handMm).toEqual(effectsOf(bike, o.moves).handMm);
        expect(o.missMm).toBeCloseTo(Math.hypot(o.handMm.x - wanted.x, o.handMm.y - wanted.y), 9);
      }
      const misses = offers.map((o) => Math.round(o.missMm));
      expect(misses).toEqual([...misses].sort((a, b) => a - b));
      expect(misses[0]).toBeLessThanOrEqual(4);
    }
  });

  it('nothing wanted: nothing touched; what the drawer holds comes before what must be ordered', () => {
    expect(buildsFor({ bike, parts: [] }, { x: 0, y: 0 })[0]).toMatchObject({
      moves: {},
      price: 0,
      inBin: true,
    });
    const [first] = buildsFor({ bike, parts: [stem(80, 30)] }, { x: -19, y: 4.5 });
    expect(first).toMatchObject({ inBin: true, price: 30 });
    expect(first.words).toContain('Stem 80');
    const [ordered] = buildsFor({ bike, parts: [] }, { x: -19, y: 4.5 });
    expect(ordered).toMatchObject({ inBin: false, price: null });
    expect(ordered.words).toContain('to order');
  });

  it('spacers end with the steerer: none under zero, none beyond what can be stacked', () => {
    for (const o of buildsFor({ bike, parts: [] }, { x: 0, y: 90 }, 200)) {
      const spacers = 20 + (o.moves.spacers ?? 0);
      expect(spacers).toBeGreaterThanOrEqual(0);
      expect(spacers).toBeLessThanOrEqual(40);
    }
  });

  it('on extensions the pads are moved, not the stem', () => {
    const tri = bikeWith({ ...bike, extensions: { padRiseMm: 60, padAheadMm: 0 } } as never);
    const [best] = buildsFor({ bike: tri, parts: [] }, { x: 20, y: -15 });
    expect(Object.keys(best.moves).every((k) => k.startsWith('pad'))).toBe(true);
    expect(best.missMm).toBeLessThan(3);
  });
});
