import { describe, expect, it } from 'vitest';
import { CAST } from '../../sim/cast.ts';
import { openFilm, toPlanes } from '../../sim/render/film.ts';
import { newRaster, type Raster } from '../../sim/render/raster.ts';
import { inRoom, written, type Room } from '../../sim/render/rooms.ts';
import { standsAt } from '../tracking/steadied.ts';
import { packedFrame, type PlanarFrame } from '../tracking/frame.ts';
import { collectFacts, type FilmFacts } from './filmFacts.ts';
import { verdictOf } from './verdict.ts';

/** The upper left of a picture. */
function small(r: Raster): ReturnType<typeof toPlanes> {
  if (r.width === 640) return toPlanes(r);
  const out = newRaster(640, 360);
  for (let y = 0; y < 360; y += 1)
    out.rgb.set(r.rgb.subarray(3 * y * r.width, 3 * (y * r.width + 640)), 3 * 640 * y);
  return toPlanes(out);
}

/** A small film of the first rider in a room, one picture in every `every`. */
function factsOf(room: Room, frames = 48, other: ((i: number) => boolean) | null = null): FilmFacts {
  const m = CAST[0];
  const camera = { ...m.scene.camera, widthPx: 640, heightPx: 360, mmPerPx: 5.1 };
  const film = { ...m.film, framesPerS: 30, subFrames: 1 };
  const scene = inRoom(openFilm({ ...m.scene, camera }, film), room, film);
  // Another place along the wall: nothing of the first picture is where it was.
  const elsewhere = other && inRoom(openFilm(CAST[3].scene, film), { pushed: { atS: 0, byPx: 75 } }, film);
  const collector = collectFacts();
  for (let i = 0; i < frames; i += 1) {
    const seen: PlanarFrame = packedFrame(small((elsewhere && other(i) ? elsewhere : scene).shoot(i)));
    collector.see(seen, written(room, i).stamp / film.framesPerS);
  }
  return collector.facts();
}
const FOUND = { leastSeen: 0.9, wheels: true, file: null };
const keys = (f: FilmFacts): string[] => verdictOf(f, FOUND).points.map((p) => p.key);

describe('what a film’s pictures tell', () => {
  it('of a quiet room: nothing', () => {
    const f = factsOf({});
    expect(f).toMatchObject({ frames: 48, repeats: 0, missing: 0, cutsS: [], knocks: [] });
    expect(f.framesPerS).toBeCloseTo(30, 6);
    expect(f.seconds).toBeCloseTo(1.6, 6);
    expect(f.tremblePx).toBeLessThan(0.1);
    expect(f.cameraPath).toBeNull();
    expect(f.flicker).toBeLessThan(0.005);
    expect(f.drift).toBeLessThan(0.02);
  });
  it('of a tripod that is pushed: when, and by how much', () => {
    const f = factsOf({ pushed: { atS: 0.8, byPx: 6 } });
    expect(f.knocks).toHaveLength(1);
    expect(f.knocks[0].atS).toBeGreaterThan(0.75);
    expect(f.knocks[0].atS).toBeLessThan(0.95);
    expect(Math.abs(f.knocks[0].byPx - Math.hypot(6, 2.4))).toBeLessThan(0.5);
    expect(keys(f)).toContain('knocks');
    const { x, y } = standsAt(f.cameraPath!, 1.5);
    expect(Math.hypot(x - 6, y - 2.4)).toBeLessThan(0.3);
    expect(Math.hypot(...Object.values(standsAt(f.cameraPath!, 0.6)))).toBeLessThan(0.3);
  });
  it('of one that trembles, of lamps that flicker and of light that fades', () => {
    expect(factsOf({ tremblePx: 0.8 }).tremblePx).toBeGreaterThan(0.4);
    // One that trembles much is not knocked again and again; and what is taken out is no reason to film again.
    const much = factsOf({ tremblePx: 1.6 });
    expect(much.knocks).toEqual([]);
    expect(much.tremblePx).toBeGreaterThan(0.9);
    expect(verdictOf(much, FOUND).points).toMatchObject([
      { key: 'rate' },
      { key: 'length' },
      { key: 'tremble', worth: 'usable' },
    ]);
    const both = factsOf({ tremblePx: 0.6, pushed: { atS: 0.8, byPx: 9 } });
    expect(both.knocks).toHaveLength(1);
    expect(both.cameraPath!.tS.length).toBeGreaterThan(20);
    const f = factsOf({ flicker: 0.1, fade: { by: 0.3, overS: 1.6 } });
    expect(f.flicker).toBeGreaterThan(0.03);
    expect(f.drift).toBeGreaterThan(0.2);
    expect(f.drift).toBeLessThan(0.5);
    expect(keys(f)).toEqual(expect.arrayContaining(['flicker', 'drift']));
  });
  it('of pictures written twice and of missing ones', () => {
    expect(factsOf({ doubledEvery: 9 }).repeats).toBe(5);
    expect(factsOf({ droppedEvery: 9 }).missing).toBe(5);
  });
  it('of a cut to another scene: where it is, and that such a film is none', () => {
    const f = factsOf({}, 48, (i) => i >= 30);
    expect(f.cutsS).toHaveLength(1);
    expect(f.cutsS[0]).toBeGreaterThan(0.9);
    expect(f.cutsS[0]).toBeLessThan(1.2);
    expect(verdictOf(f, FOUND).worth).toBe('again');
  });
});

describe('the verdict', () => {
  const good: FilmFacts = {
    frames: 420,
    seconds: 7,
    framesPerS: 60,
    repeats: 0,
    missing: 0,
    cutsS: [],
    knocks: [],
    cameraPath: null,
    tremblePx: 0.05,
    flicker: 0.002,
    drift: 0.03,
    white: 0.01,
    black: 0.02,
  };
  it('of a good film is good, without a word', () => {
    expect(verdictOf(good, FOUND)).toEqual({ worth: 'good', points: [] });
  });
  it.each([
    [{ framesPerS: 30 }, 'usable', 'rate'],
    [{ framesPerS: 15 }, 'again', 'rate'],
    [{ seconds: 0.9 }, 'again', 'length'],
    [{ seconds: 3 }, 'usable', 'length'],
    [{ repeats: 38 }, 'usable', 'repeats'],
    [{ repeats: 200 }, 'again', 'repeats'],
    [{ white: 0.3 }, 'again', 'white'],
    [{ black: 0.3 }, 'usable', 'dark'],
    [{ drift: 0.35 }, 'usable', 'drift'],
    [{ tremblePx: 5 }, 'again', 'tremble'],
  ] as const)('%o: %s', (part, worth, key) => {
    const verdict = verdictOf({ ...good, ...part }, FOUND);
    expect(verdict.worth).toBe(worth);
    expect(verdict.points.map((p) => p.key)).toEqual([key]);
    expect(verdict.points[0].cure.length).toBeGreaterThan(10);
  });
  it.each([
    [0.5, 'avc', 'again'],
    [1.5, 'avc', 'usable'],
    [3, 'avc', 'usable'],
    [4, 'avc', 'good'],
    [3, 'vp9', 'good'],
    [1, 'vp9', 'usable'],
    [2, 'av1', 'good'],
    [0.3, 'av1', 'again'],
  ] as const)('of 720p at 60 a second in %d Mbit of %s: %s', (mbitPerS, codec, worth) => {
    const file = { bytes: (1e6 * mbitPerS * 7) / 8, widthPx: 1280, heightPx: 720, frames: 420, codec };
    const verdict = verdictOf(good, { ...FOUND, file });
    expect(verdict.worth).toBe(worth);
    if (worth !== 'good') expect(verdict.points[0].words).toContain(`${mbitPerS.toFixed(1)} Mbit a second`);
  });
  it('of a small file nothing is said where every sticker was followed round a turn, unless it is far too small', () => {
    const file = (mbitPerS: number) => ({
      bytes: (1e6 * mbitPerS * 7) / 8,
      widthPx: 1280,
      heightPx: 720,
      frames: 420,
      codec: 'avc',
    });
    const worth = (mbitPerS: number, leastSeen: number | null) =>
      verdictOf(good, { ...FOUND, leastSeen, file: file(mbitPerS) }).points.map((p) => p.key);
    expect(worth(2.9, 1)).toEqual([]);
    expect(worth(2.9, 0.97)).toEqual(['packed']);
    expect(worth(2.9, null)).toEqual(expect.arrayContaining(['packed', 'stickers']));
    expect(worth(1.5, 1)).toEqual(['packed']);
    expect(worth(0.5, 1)).toEqual(['packed']);
  });
  it('puts the worst first, and says what was not found', () => {
    const verdict = verdictOf(
      { ...good, framesPerS: 30, seconds: 1 },
      { leastSeen: null, wheels: false, file: null },
    );
    expect(verdict.points.map((p) => p.worth)).toEqual(['again', 'usable', 'usable', 'usable']);
    expect(verdict.points.map((p) => p.key)).toEqual(expect.arrayContaining(['stickers', 'wheels']));
  });
});
