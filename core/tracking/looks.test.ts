import { describe, expect, it } from 'vitest';
import { drawnDiscs, type Disc } from './drawnDisc.fixture.ts';
import { looksOfFilm } from './looks.ts';
import { findSpots } from './spots.ts';

const STICKER: [number, number, number] = [200, 70, 150];
const TILE: [number, number, number] = [150, 128, 128];
const SIZE = { width: 220, height: 180 };

/** Five dots of the wall that stand still, and four stickers that turn, all alike round. */
function picture(turnDeg: number) {
  const wall = Array.from({ length: 5 }, (_, k): Disc => ({
    at: { x: 25 + 40 * k, y: 20 },
    radiusPx: 5,
    colour: TILE,
  }));
  const stickers = [0, 90, 180, 270].map((d, k): Disc => {
    const a = ((d + turnDeg) * Math.PI) / 180;
    return {
      at: { x: 110 + (30 + 8 * k) * Math.cos(a), y: 105 + (25 + 6 * k) * Math.sin(a) },
      radiusPx: 5,
      colour: STICKER,
    };
  });
  return { frame: drawnDiscs([...wall, ...stickers], SIZE), stickers };
}

describe('dots of any colour', () => {
  it('are found where they are, with size and colour, and none on an even ground', () => {
    const { frame, stickers } = picture(20);
    const spots = findSpots(frame);
    for (const s of stickers) {
      const found = spots.find((p) => Math.hypot(p.x - s.at.x, p.y - s.at.y) < 3)!;
      expect(found.colour[1]).toBeLessThan(90);
      expect(found.radiusPx).toBeGreaterThan(2.5);
      expect(found.radiusPx).toBeLessThan(9);
    }
    expect(findSpots(drawnDiscs([], SIZE))).toEqual([]);
  });
});

describe('looks of a film', () => {
  it('are the kinds of dots, what moves before what stands still', () => {
    const looks = looksOfFilm([picture(0).frame, picture(50).frame, picture(100).frame]);
    expect(looks.length).toBeGreaterThanOrEqual(2);
    expect(Math.abs(looks[0].colour[1] - STICKER[1])).toBeLessThan(12);
    expect(looks[0].radiusPx).toBeCloseTo(5, 0);
    expect(looks.some((l) => Math.abs(l.colour[0] - TILE[0]) < 10 && Math.abs(l.colour[1] - 128) < 6)).toBe(
      true,
    );
  });
  it('are the coloured ones before the grey ones that move as well: a stripe on a shoe, a spoke', () => {
    const turning = (turnDeg: number) => {
      const { stickers } = picture(turnDeg);
      const grey = picture(turnDeg + 45).stickers.map((d): Disc => ({ ...d, colour: [250, 128, 128] }));
      return drawnDiscs([...stickers, ...grey], SIZE);
    };
    const looks = looksOfFilm([turning(0), turning(50), turning(100)]);
    expect(looks.length).toBeGreaterThanOrEqual(2);
    expect(Math.abs(looks[0].colour[1] - STICKER[1])).toBeLessThan(12);
  });
  it('are none of an empty wall', () => {
    expect(looksOfFilm([drawnDiscs([], SIZE)])).toEqual([]);
  });
});
