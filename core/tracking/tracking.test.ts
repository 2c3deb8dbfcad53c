import { describe, expect, it } from 'vitest';
import { gaussian, seededRandom } from '../../sim/random.ts';
import { fillDisc, fillLimb, newRaster, type Raster } from '../../sim/render/raster.ts';
import { toPlanes } from '../../sim/render/film.ts';
import { assignCheapest, assignLandmarks } from './assign.ts';
import { packedFrame, turnFrame, type PlanarFrame } from './frame.ts';
import { learnSticker } from './learn.ts';
import { startTracker } from './tracker.ts';

/** A limb on a mottled wall with whatever is drawn on it. */
function picture(draw: (r: Raster) => void, noise = 2, seed = 1): PlanarFrame {
  const r = newRaster(240, 160);
  const random = seededRandom(seed);
  for (let i = 0; i < r.rgb.length; i += 1) r.rgb[i] = 150 + 12 * Math.sin(i / 97);
  fillLimb(
    r,
    { at: { x: 30, y: 80 }, radiusPx: 26 },
    { at: { x: 210, y: 84 }, radiusPx: 22 },
    {
      colour: [60, 62, 70],
      roundness: 0.5,
      weave: 0.05,
    },
  );
  draw(r);
  for (let i = 0; i < r.rgb.length; i += 1) r.rgb[i] += noise * gaussian(random);
  const p = toPlanes(r);
  return packedFrame({ width: p.width, height: p.height, y: p.y, u: p.u, v: p.v });
}

describe('learnSticker', () => {
  it('finds the centre below a quarter pixel, from a mark some pixels off', () => {
    for (const [x, y] of [
      [100.3, 80.8],
      [140, 78.5],
      [77.77, 83.1],
    ]) {
      const frame = picture((r) => fillDisc(r, { x, y }, 5.1, [238, 214, 60]));
      const found = learnSticker(frame, { x: x + 2, y: y - 1.5 })!;
      expect(Math.hypot(found.centre.x - x, found.centre.y - y)).toBeLessThan(0.15);
      expect(found.sticker.radiusPx).toBeCloseTo(5.1, 0);
    }
  });
  it('takes a blot in the middle of a large sticker for a blot', () => {
    const frame = picture((r) => {
      fillDisc(r, { x: 100.3, y: 80.8 }, 7.6, [238, 214, 60]);
      fillDisc(r, { x: 100.7, y: 80.5 }, 1.4, [198, 174, 47]);
    }, 0);
    const found = learnSticker(frame, { x: 100.6, y: 80.8 })!;
    expect(found.sticker.radiusPx).toBeCloseTo(7.6, 0);
    expect(Math.hypot(found.centre.x - 100.3, found.centre.y - 80.8)).toBeLessThan(0.25);
  });
  it('sees no sticker on plain cloth, on a limb’s edge or on a stripe', () => {
    expect(
      learnSticker(
        picture(() => undefined),
        { x: 120, y: 80 },
      ),
    ).toBeNull();
    expect(
      learnSticker(
        picture(() => undefined),
        { x: 120, y: 57 },
      ),
    ).toBeNull();
    const stripe = picture((r) =>
      fillLimb(
        r,
        { at: { x: 110, y: 20 }, radiusPx: 4 },
        { at: { x: 110, y: 140 }, radiusPx: 4 },
        { colour: [240, 240, 240], roundness: 0 },
      ),
    );
    expect(learnSticker(stripe, { x: 110, y: 80 })).toBeNull();
  });
});

describe('the tracker', () => {
  const bones = [['a', 'b']] as const;
  it('says lost while a hand is over the sticker, does not jump to its neighbour, and finds it again', () => {
    const at = (i: number) => ({ a: { x: 70 + 1.5 * i, y: 80 }, b: { x: 120 + 1.5 * i, y: 82 } });
    const frame = (i: number): PlanarFrame =>
      picture(
        (r) => {
          fillDisc(r, at(i).a, 5, [238, 214, 60]);
          fillDisc(r, at(i).b, 5, [238, 214, 60]);
          if (i >= 8 && i < 14)
            fillLimb(
              r,
              { at: { x: at(i).a.x - 20, y: 60 }, radiusPx: 16 },
              { at: { x: at(i).a.x + 10, y: 90 }, radiusPx: 16 },
              {
                colour: [190, 140, 110],
                roundness: 0.4,
              },
            );
        },
        2,
        i,
      );
    const tracker = startTracker(frame(0), 0, at(0), { bones });
    for (let i = 1; i < 24; i += 1) {
      const [a, b] = tracker.step(frame(i), i / 60);
      expect(Math.hypot(b.x - at(i).b.x, b.y - at(i).b.y)).toBeLessThan(0.4);
      if (i >= 8 && i < 14) {
        expect(a.confidence).toBe(0);
        expect(a.x).toBeNaN();
      } else {
        expect(Math.hypot(a.x - at(i).a.x, a.y - at(i).a.y), `frame ${i}`).toBeLessThan(0.4);
      }
    }
  });
  it('follows a sticker of which up to half is hidden, by what is seen of it, and says that it is unsure', () => {
    const at = (i: number) => ({ a: { x: 60 + 1.4 * i, y: 78 }, b: { x: 110 + 1.4 * i, y: 80 } });
    const frame = (i: number): PlanarFrame =>
      picture(
        (r) => {
          fillDisc(r, at(i).a, 6, [238, 214, 60]);
          fillDisc(r, at(i).b, 6, [238, 214, 60]);
          // A hem that comes down over the upper part.
          if (i >= 8 && i < 16)
            fillLimb(
              r,
              { at: { x: at(i).a.x - 30, y: at(i).a.y - 9.5 }, radiusPx: 9 },
              { at: { x: at(i).a.x + 30, y: at(i).a.y - 9.5 }, radiusPx: 9 },
              { colour: [90, 96, 120], roundness: 0 },
            );
        },
        2,
        i,
      );
    const tracker = startTracker(frame(0), 0, at(0), { bones });
    for (let i = 1; i < 22; i += 1) {
      const [a] = tracker.step(frame(i), i / 60);
      const hidden = i >= 8 && i < 16;
      expect(Math.hypot(a.x - at(i).a.x, a.y - at(i).a.y), `frame ${i}`).toBeLessThan(hidden ? 1.2 : 0.4);
      if (hidden) expect(a.confidence).toBeLessThan(0.6);
    }
  });
  it('looks for a lost joint where the stroke says that it must be, after a turn', () => {
    // A crank of 30 px: three stickers turn with it, the fourth swings; it is hidden for half a turn while something like it stands by.
    const TURN = 40;
    const at = (i: number) => {
      const t = (2 * Math.PI * i) / TURN;
      const pedal = { x: 120 + 24 * Math.cos(t), y: 80 + 24 * Math.sin(t) };
      return {
        a: { x: pedal.x - 12, y: pedal.y + 6 },
        b: { x: pedal.x + 12, y: pedal.y + 6 },
        c: { x: pedal.x, y: pedal.y - 8 },
        d: { x: 190 + 14 * Math.sin(t), y: 60 + 8 * Math.cos(t) },
      };
    };
    const isHidden = (i: number): boolean => i >= 60 && i < 80;
    const frame = (i: number): PlanarFrame =>
      picture(
        (r) => {
          for (const [key, p] of Object.entries(at(i)))
            if (key !== 'd' || !isHidden(i)) fillDisc(r, p, 4, [238, 214, 60]);
          // A twin on the wall, where the lost one was last seen.
          if (i >= 62) fillDisc(r, { x: at(60).d.x + 7, y: at(60).d.y + 9 }, 4, [238, 214, 60]);
        },
        1,
        i,
      );
    const limbs = [['a', 'b']] as const;
    const tracker = startTracker(frame(0), 0, at(0), { bones: limbs });
    for (let i = 1; i < 100; i += 1) {
      const d = tracker.step(frame(i), i / 60)[3];
      if (isHidden(i)) expect(d.confidence, `frame ${i}`).toBe(0);
      if (i >= 82) expect(Math.hypot(d.x - at(i).d.x, d.y - at(i).d.y), `frame ${i}`).toBeLessThan(1);
    }
  });
  it('sorts out equal stickers on the first step, when no speed is known yet, by the limb between them', () => {
    // Both move by most of the distance between them: the second one's nearest spot is the first one's new place.
    const at = (x: number): PlanarFrame =>
      picture((r) => {
        fillDisc(r, { x, y: 80 }, 3.5, [238, 214, 60]);
        fillDisc(r, { x: x + 16, y: 80 }, 3.5, [238, 214, 60]);
      });
    const tracker = startTracker(at(60), 0, { a: { x: 60, y: 80 }, b: { x: 76, y: 80 } }, { bones });
    const [a, b] = tracker.step(at(72.5), 1 / 30);
    expect(Math.abs(a.x - 72.5)).toBeLessThan(0.3);
    expect(Math.abs(b.x - 88.5)).toBeLessThan(0.3);
  });
  it('follows a spot without a sticker by its look', () => {
    const frame = (i: number): PlanarFrame =>
      picture(
        (r) => {
          const x = 90 + 2 * i;
          const cloth = { colour: [120, 116, 110], roundness: 0.2, weave: 0.3, seed: 12 } as const;
          fillLimb(
            r,
            { at: { x: x - 50, y: 80 }, radiusPx: 30 },
            { at: { x: x + 60, y: 80 }, radiusPx: 30 },
            cloth,
          );
        },
        2,
        i,
      );
    const tracker = startTracker(frame(0), 0, { spot: { x: 90, y: 80 } });
    expect(tracker.modes).toEqual(['patch']);
    for (let i = 1; i < 20; i += 1) {
      const [p] = tracker.step(frame(i), i / 60);
      expect(Math.hypot(p.x - 90 - 2 * i, p.y - 80), `frame ${i}`).toBeLessThan(1);
    }
  });
});

describe('assignLandmarks', () => {
  it('prefers the pair whose limb keeps its length to the better-looking wrong spot', () => {
    const bones = [{ a: 0, b: 1, lengthPx: 100 }];
    const options = [
      [{ x: 0, y: 0, cost: 0 }],
      [
        { x: 60, y: 0, cost: 0.1 },
        { x: 100, y: 0, cost: 3 },
      ],
    ];
    expect(assignLandmarks(options, bones)).toEqual([0, 1]);
  });
  it('never gives one spot to two landmarks', () => {
    const near = { x: 50, y: 50, cost: 0 };
    const far = { x: 62, y: 50, cost: 4 };
    expect(assignLandmarks([[near], [{ ...near, x: 50.4, cost: 0.2 }, far]], [])).toEqual([0, 1]);
    expect(assignLandmarks([[near], [{ ...near, cost: 20 }]], [])).toEqual([0, -1]);
  });
  it('calls lost what breaks the limb, and what has no option', () => {
    const bones = [{ a: 0, b: 1, lengthPx: 100 }];
    expect(assignLandmarks([[{ x: 0, y: 0, cost: 0 }], [{ x: 40, y: 0, cost: 1 }]], bones)).toEqual([0, -1]);
    expect(assignLandmarks([[], [{ x: 40, y: 0, cost: 1 }]], bones)).toEqual([-1, 0]);
  });
});

it('turns pictures by quarter turns, four of which are none', () => {
  const w = 6;
  const h = 4;
  const y = Uint8Array.from({ length: w * h }, (_, k) => k);
  const u = Uint8Array.from({ length: 6 }, (_, k) => 100 + k);
  const frame = packedFrame({ width: w, height: h, y, u, v: u });
  const once = turnFrame(frame, 1);
  expect([once.width, once.height]).toEqual([4, 6]);
  // Clockwise: the bottom left corner comes to the top left.
  expect(once.y[0]).toBe(y[(h - 1) * w]);
  expect(once.y[once.width - 1]).toBe(y[0]);
  let back: PlanarFrame = frame;
  for (let k = 0; k < 4; k += 1) back = turnFrame(back, 1);
  expect(Array.from(back.y)).toEqual(Array.from(y));
  expect(Array.from(turnFrame(frame, 2).u)).toEqual(Array.from(u).reverse());
  expect(Array.from(turnFrame(turnFrame(frame, 3), 1).v)).toEqual(Array.from(u));
});

describe('assignCheapest', () => {
  it('gives each place once, the cheapest pairing first, and calls the dear ones lost', () => {
    const at = (x: number, cost: number) => ({ x, y: 0, cost });
    expect(assignCheapest([[at(10, 1), at(40, 5)], [at(10, 0.2)], [at(90, 20)], []])).toEqual([1, 0, -1, -1]);
  });
});

describe('a picture that the film has twice', () => {
  /** A sticker that goes round; frames 6 and 13 show the picture before again. */
  const shows = (i: number): number => (i === 6 || i === 13 ? i - 1 : i);
  const place = (i: number) => ({ x: 120 + 30 * Math.cos(i / 4), y: 82 + 12 * Math.sin(i / 4) });
  const frames = Array.from({ length: 20 }, (_, i) =>
    picture((r) => fillDisc(r, place(shows(i)), 5, [238, 214, 60]), 1, shows(i)),
  );
  it('is left out forwards', () => {
    const tracker = startTracker(frames[0], 0, { spot: place(0) });
    for (let i = 1; i < 20; i += 1) {
      const [p] = tracker.step(frames[i], i / 60);
      expect(tracker.voidsBefore()).toBe(false);
      if (shows(i) !== i) expect(p.confidence, `${i}`).toBe(0);
      else expect(Math.hypot(p.x - place(i).x, p.y - place(i).y), `${i}`).toBeLessThan(0.4);
    }
  });
  it('belongs to the earlier stamp backwards, and the later one is void', () => {
    const tracker = startTracker(frames[19], 19 / 60, { spot: place(19) });
    const seen = new Map<number, { x: number; y: number }>();
    for (let i = 18; i >= 0; i -= 1) {
      const [p] = tracker.step(frames[i], i / 60);
      seen.set(i, p);
      if (tracker.voidsBefore()) seen.delete(i + 1);
    }
    expect([...seen.keys()].sort((a, b) => a - b)).toEqual(
      Array.from({ length: 19 }, (_, i) => i).filter((i) => shows(i) === i),
    );
    for (const [i, p] of seen)
      expect(Math.hypot(p.x - place(i).x, p.y - place(i).y), `${i}`).toBeLessThan(0.4);
  });
});
