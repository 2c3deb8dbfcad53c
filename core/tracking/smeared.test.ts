import { describe, expect, it } from 'vitest';
import { distance } from '../math/vec.ts';
import { drawnDiscs } from './drawnDisc.fixture.ts';
import { learnSticker } from './learn.ts';
import { centreSmeared, unsmeared } from './smeared.ts';
import type { Sticker } from './sticker.ts';

const COLOUR: [number, number, number] = [200, 70, 150];
const SHARP: Sticker = { colour: COLOUR, radiusPx: 5, contrast: 120 };
const at = { x: 48.3, y: 36.4 };

describe('a sticker smeared by a slow shutter', () => {
  it.each([
    { x: 9, y: 0 },
    { x: 6, y: 8 },
    { x: -7, y: 11 },
    { x: 0, y: 4 },
  ])('is centred at mid-exposure: $x, $y px', (blur) => {
    const frame = drawnDiscs([{ at, radiusPx: 5, colour: COLOUR, blur }]);
    const found = centreSmeared(frame, SHARP, { x: at.x + 2, y: at.y - 1 })!;
    expect(distance(found, at)).toBeLessThan(0.5);
    expect(found.areaRatio).toBeGreaterThan(0.78);
    expect(found.areaRatio).toBeLessThan(1.2);
  });
  it('is none where the colour or the size is another', () => {
    const other = drawnDiscs([{ at, radiusPx: 5, colour: [200, 150, 100] }]);
    expect(centreSmeared(other, SHARP, at)).toBeNull();
    const small = drawnDiscs([{ at, radiusPx: 2.2, colour: COLOUR }]);
    expect(centreSmeared(small, SHARP, at)).toBeNull();
  });
  it('gets the look of the sharp ones; a smaller one at rest keeps its own', () => {
    const places = [
      { x: 24, y: 20 },
      { x: 70, y: 20 },
      { x: 24, y: 54 },
      { x: 70, y: 54 },
    ];
    const frame = drawnDiscs([
      { at: places[0], radiusPx: 5, colour: COLOUR },
      { at: places[1], radiusPx: 5, colour: COLOUR },
      { at: places[2], radiusPx: 5, colour: COLOUR, blur: { x: 10, y: 4 } },
      { at: places[3], radiusPx: 3, colour: COLOUR },
    ]);
    const learned = places.map((p) => learnSticker(frame, p)?.sticker ?? null);
    expect(learned[2]?.radiusPx ?? 0).toBeLessThan(4.9);
    const looks = unsmeared(frame, places, learned);
    expect(looks[2]!.radiusPx).toBeCloseTo(5, 0);
    expect(looks[2]!.colour[0]).toBeGreaterThan(195);
    expect(looks[3]).toBe(learned[3]);
    expect(looks[0]).toBe(learned[0]);
  });
  it('leaves everything as it is where there is nothing to compare with', () => {
    const frame = drawnDiscs([{ at, radiusPx: 5, colour: COLOUR, blur: { x: 9, y: 0 } }]);
    expect(unsmeared(frame, [at], [null])).toEqual([null]);
  });
});
