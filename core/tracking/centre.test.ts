import { describe, expect, it } from 'vitest';
import { seededRandom } from '../../sim/random.ts';
import { centreOn } from './centre.ts';
import { drawnDiscs } from './drawnDisc.fixture.ts';
import { findCandidates } from './candidates.ts';
import { colourDistance2, type Yuv } from './frame.ts';
import { learnSticker } from './learn.ts';

const LIGHT: Yuv = [200, 110, 150];
const DARK: Yuv = [30, 128, 128];
const BACKGROUND: Yuv = [90, 128, 128];
const STILL = { x: 0, y: 0 };
const contrastOf = (c: Yuv): number => Math.sqrt(colourDistance2(c[0], c[1], c[2], BACKGROUND));
const off = (a: { x: number; y: number } | null, b: { x: number; y: number }): number =>
  a ? Math.hypot(a.x - b.x, a.y - b.y) : Infinity;

describe('a sticker’s centre', () => {
  it('is found to a tenth of a pixel wherever it lies between pixels, light or dark', () => {
    const random = seededRandom(11);
    for (let k = 0; k < 60; k += 1) {
      const at = { x: 40 + 10 * random(), y: 30 + 10 * random() };
      const colour = k % 2 ? LIGHT : DARK;
      const radiusPx = 4 + 4 * random();
      const f = drawnDiscs([{ at, radiusPx, colour }]);
      const near = {
        x: at.x + 0.6 * radiusPx * (random() - 0.5),
        y: at.y + 0.6 * radiusPx * (random() - 0.5),
      };
      const found = centreOn(f, { colour, radiusPx, contrast: contrastOf(colour) }, near, STILL);
      expect(off(found, at)).toBeLessThan(0.1);
      expect(found!.areaRatio).toBeCloseTo(1, 1);
    }
  });
  it('is told by the round edge where a straight one hides up to a half of it, whichever side', () => {
    const random = seededRandom(23);
    for (let k = 0; k < 24; k += 1) {
      const at = { x: 44 + 4 * random(), y: 34 + 4 * random() };
      const radiusPx = 5 + 2 * random();
      const a = (k / 24) * 2 * Math.PI;
      // Hidden is what lies further than so much from the middle on one side: from a tenth to a half of the disc.
      const from = (0.55 - 0.5 * random()) * radiusPx;
      const isHidden = (x: number, y: number): boolean =>
        (x - at.x) * Math.cos(a) + (y - at.y) * Math.sin(a) > from;
      const f = drawnDiscs([{ at, radiusPx, colour: LIGHT }], { hide: isHidden });
      const s = { colour: LIGHT, radiusPx, contrast: contrastOf(LIGHT) };
      const near = { x: at.x - 0.3 * radiusPx * Math.cos(a), y: at.y - 0.3 * radiusPx * Math.sin(a) };
      const seen = centreOn(f, s, near, STILL)!;
      expect(seen.areaRatio).toBeLessThan(0.95);
      const found = centreOn(f, { ...s, shown: seen.areaRatio }, near, STILL);
      expect(off(found, at), `hidden ${(1 - seen.areaRatio).toFixed(2)}`).toBeLessThan(0.4);
      expect(off(seen, at)).toBeGreaterThan(off(found, at));
    }
  });
  it('of a smaller disc is its own middle, and not where a larger one would touch it', () => {
    const at = { x: 46.3, y: 36.8 };
    const f = drawnDiscs([{ at, radiusPx: 4, colour: LIGHT }]);
    const s = { colour: LIGHT, radiusPx: 6.5, contrast: contrastOf(LIGHT), shown: 0.38 };
    expect(off(centreOn(f, s, { x: 47, y: 36 }, STILL), at)).toBeLessThan(0.3);
  });
  it('stays at mid-exposure where it is smeared, and the smear is as long as the way', () => {
    const random = seededRandom(5);
    for (let k = 0; k < 20; k += 1) {
      const turn = 2 * Math.PI * random();
      const long = 3 + 5 * random();
      const blur = { x: long * Math.cos(turn), y: long * Math.sin(turn) };
      const at = { x: 44 + 4 * random(), y: 34 + 4 * random() };
      const f = drawnDiscs([{ at, radiusPx: 6, colour: LIGHT, blur }]);
      const found = centreOn(
        f,
        { colour: LIGHT, radiusPx: 6, contrast: contrastOf(LIGHT) },
        { x: at.x + 1, y: at.y - 1 },
        blur,
      );
      expect(off(found, at)).toBeLessThan(0.1);
      expect(Math.abs(found!.smearPx - long)).toBeLessThan(2);
    }
  });
  it('knows that a part is hidden, and how much', () => {
    const at = { x: 46.3, y: 35.7 };
    const f = drawnDiscs([{ at, radiusPx: 7, colour: LIGHT }], { hide: (x) => x > at.x + 2 });
    const found = centreOn(f, { colour: LIGHT, radiusPx: 7, contrast: contrastOf(LIGHT) }, at, STILL);
    const seen = 0.5 + (Math.asin(2 / 7) + (2 / 7) * Math.sqrt(1 - (2 / 7) ** 2)) / Math.PI;
    expect(found!.areaRatio).toBeCloseTo(seen, 1);
    expect(found!.areaRatio).toBeLessThan(0.85);
  });
  it('is none where nothing of its colour is, and none at the picture’s edge', () => {
    const f = drawnDiscs([{ at: { x: 20, y: 20 }, radiusPx: 6, colour: DARK }]);
    expect(
      centreOn(f, { colour: LIGHT, radiusPx: 6, contrast: contrastOf(LIGHT) }, { x: 70, y: 50 }, STILL),
    ).toBeNull();
    expect(
      centreOn(f, { colour: DARK, radiusPx: 6, contrast: contrastOf(DARK) }, { x: 1, y: 1 }, STILL),
    ).toBeNull();
  });
});

describe('places that look like the sticker', () => {
  const sticker = { colour: LIGHT, radiusPx: 6, contrast: contrastOf(LIGHT) };
  const places = [
    { x: 25, y: 25 },
    { x: 60, y: 24 },
    { x: 45, y: 52 },
  ];
  const f = drawnDiscs(places.map((at) => ({ at, radiusPx: 6, colour: LIGHT })));

  it('are all found, the nearest of equals first', () => {
    const found = findCandidates(f, sticker, { near: { x: 58, y: 26 }, reachPx: 60, most: 10 });
    expect(
      found
        .slice(0, 3)
        .map((c) => Math.min(...places.map((p) => off(c, p))))
        .every((d) => d <= 2),
    ).toBe(true);
    expect(new Set(found.slice(0, 3).map((c) => places.findIndex((p) => off(c, p) <= 2))).size).toBe(3);
    expect(off(found[0], places[1])).toBeLessThanOrEqual(2);
  });
  it('are no more than asked for, and none beyond the reach', () => {
    expect(findCandidates(f, sticker, { near: places[0], reachPx: 60, most: 2 })).toHaveLength(2);
    const close = findCandidates(f, sticker, { near: places[0], reachPx: 9, most: 10 });
    expect(close.every((c) => off(c, places[0]) < 12)).toBe(true);
    expect(close.length).toBeGreaterThan(0);
  });
  it('do not count a limb of the colour, which goes on, like a disc, which ends', () => {
    const limb = drawnDiscs([
      ...Array.from({ length: 30 }, (_, k) => ({ at: { x: 3 * k + 3, y: 50 }, radiusPx: 14, colour: LIGHT })),
      { at: { x: 40, y: 16 }, radiusPx: 6, colour: LIGHT },
    ]);
    const [best] = findCandidates(limb, sticker, { near: { x: 40, y: 34 }, reachPx: 30, most: 5 });
    expect(off(best, { x: 40, y: 16 })).toBeLessThanOrEqual(2);
  });
  it('are none on an even ground, nor in a window smaller than the sticker', () => {
    expect(findCandidates(drawnDiscs([]), sticker, { near: { x: 40, y: 30 }, reachPx: 30, most: 5 })).toEqual(
      [],
    );
    expect(findCandidates(f, sticker, { near: { x: -80, y: -80 }, reachPx: 5, most: 5 })).toEqual([]);
  });
});

describe('a sticker that is pointed out', () => {
  it('is learned with its size, colour and centre from anywhere on it, up to its edge', () => {
    const random = seededRandom(23);
    for (let k = 0; k < 60; k += 1) {
      const radiusPx = 5 + 4 * random();
      const at = { x: 44 + 4 * random(), y: 34 + 4 * random() };
      const colour = k % 2 ? LIGHT : DARK;
      const f = drawnDiscs([{ at, radiusPx, colour }]);
      const [far, turn] = [0.8 * radiusPx * Math.sqrt(random()), 2 * Math.PI * random()];
      const learned = learnSticker(f, { x: at.x + far * Math.cos(turn), y: at.y + far * Math.sin(turn) });
      expect(off(learned?.centre ?? null, at)).toBeLessThan(0.1);
      expect(Math.abs(learned!.sticker.radiusPx - radiusPx)).toBeLessThan(0.6);
      expect(Math.abs(learned!.sticker.colour[0] - colour[0])).toBeLessThan(3);
    }
  });
  it('is none on an even ground, nor where it is hardly set off', () => {
    expect(learnSticker(drawnDiscs([]), { x: 40, y: 30 })).toBeNull();
    const faint = drawnDiscs([{ at: { x: 40, y: 30 }, radiusPx: 7, colour: [94, 128, 128] }]);
    expect(learnSticker(faint, { x: 40, y: 30 })).toBeNull();
  });
});
