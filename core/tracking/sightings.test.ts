import { describe, expect, it } from 'vitest';
import { drawnDiscs } from './drawnDisc.fixture.ts';
import type { Yuv } from './frame.ts';
import { learnSticker } from './learn.ts';
import { predict, regionOf, sightingsOf, type Followed } from './sightings.ts';

const colour: Yuv = [150, 90, 190];
const size = { width: 320, height: 240 };

/** A sticker that went evenly to the right, seen on the last three frames. */
function followed(at: { x: number; y: number }, stepPx: number): Followed {
  const frame = drawnDiscs([{ at, radiusPx: 8, colour }], size);
  return {
    key: 'toe',
    sticker: learnSticker(frame, at)!.sticker,
    patch: null,
    trail: [3, 2, 1, 0].map((k) => ({ t: -k / 60, x: at.x - k * stepPx, y: at.y })),
    surprise: 1,
    lostFrames: 0,
  };
}
const looking = { farReach: 20, openShare: 0.2 };

describe('where a landmark may be', () => {
  it('the trail leads on: evenly, and exactly so under even acceleration, whatever the steps', () => {
    const x = (t: number): number => 40 + 30 * t + 50 * t * t;
    const y = (t: number): number => 12 - 7 * t - 9 * t * t;
    const trail = [0, 0.03, 0.05].map((t) => ({ t, x: x(t), y: y(t) }));
    const at = predict(trail, 0.09);
    expect(at.x).toBeCloseTo(x(0.09), 9);
    expect(at.y).toBeCloseTo(y(0.09), 9);
    expect(predict(trail.slice(0, 1), 0.4)).toEqual({ x: 40, y: 12 });
    expect(predict(trail.slice(0, 2), 0.06).x).toBeCloseTo(40 + ((x(0.03) - 40) / 0.03) * 0.06, 9);
  });

  it('a sticker where it was expected is the one place; one beside it costs more by how far it is', () => {
    const f = followed({ x: 120, y: 100 }, 4);
    const next = drawnDiscs([{ at: { x: 124.3, y: 100.2 }, radiusPx: 8, colour }], size);
    const [place, ...others] = sightingsOf(f, next, 1 / 60, looking);
    expect(others).toEqual([]);
    expect(Math.hypot(place.x - 124.3, place.y - 100.2)).toBeLessThan(0.15);
    expect(place.score).toBeGreaterThan(0.8);
    const off = drawnDiscs([{ at: { x: 129, y: 103 }, radiusPx: 8, colour }], size);
    const [further] = sightingsOf(f, off, 1 / 60, looking);
    expect(Math.hypot(further.x - 129, further.y - 103)).toBeLessThan(0.15);
    expect(further.cost).toBeGreaterThan(place.cost);
  });

  it('of two alike the nearer to where it was going comes first; another colour is none', () => {
    const f = { ...followed({ x: 120, y: 100 }, 4), surprise: 5 };
    const two = drawnDiscs(
      [
        { at: { x: 150, y: 100 }, radiusPx: 8, colour },
        { at: { x: 126, y: 101 }, radiusPx: 8, colour },
      ],
      size,
    );
    const places = sightingsOf(f, two, 1 / 60, looking);
    expect(places[0].x).toBeCloseTo(126, 0);
    expect(places.map((p) => p.cost)).toEqual(places.map((p) => p.cost).sort((a, b) => a - b));
    const other = drawnDiscs([{ at: { x: 124, y: 100 }, radiusPx: 8, colour: [150, 190, 90] }], size);
    expect(sightingsOf(f, other, 1 / 60, looking)).toEqual([]);
  });

  it('a marked sticker that is lost may stand anywhere near; a spot of which nobody knows what it is, only where its way leads', () => {
    const f = { ...followed({ x: 120, y: 100 }, 4), lostFrames: 1 };
    const wide = { farReach: 60, openShare: 0.2 };
    const afar = drawnDiscs([{ at: { x: 175, y: 100 }, radiusPx: 8, colour }], size);
    const spot = { ...wide, isMarked: false };
    expect(sightingsOf(f, afar, 1 / 60, spot)).toEqual([]);
    const [found] = sightingsOf(f, afar, 1 / 60, wide);
    expect(found.x).toBeCloseTo(175, 0);
    const close = drawnDiscs([{ at: { x: 138, y: 100 }, radiusPx: 8, colour }], size);
    expect(sightingsOf(f, close, 1 / 60, spot)[0].x).toBeCloseTo(138, 0);
  });

  it('the part of the picture that is needed holds every place looked at, on even pixels; lost, it is all of it', () => {
    const [a, b] = [followed({ x: 120, y: 100 }, 4), followed({ x: 60, y: 180 }, -2)];
    const frame = drawnDiscs([], size);
    const region = regionOf([a, b], frame, 1 / 60, 20)!;
    for (const v of [region.x, region.y, region.width, region.height]) expect(v % 2).toBe(0);
    for (const f of [a, b]) {
      const at = predict(f.trail.slice(-3), 1 / 60);
      expect(at.x - region.x).toBeGreaterThan(f.sticker!.radiusPx);
      expect(region.x + region.width - at.x).toBeGreaterThan(f.sticker!.radiusPx);
      expect(at.y - region.y).toBeGreaterThan(f.sticker!.radiusPx);
    }
    expect(regionOf([a, { ...b, lostFrames: 1 }], frame, 1 / 60, 20)).toBeNull();
    expect(regionOf([{ ...a, trail: a.trail.slice(-2) }], frame, 1 / 60, 20)).toBeNull();
  });
});
