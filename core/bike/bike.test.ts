import { describe, expect, it } from 'vitest';
import { seededRandom } from '../../sim/random.ts';
import { clampPoint, frontAxle, hoodPoint, stemFor } from './cockpit.ts';
import { bikeFaults } from './faults.ts';
import { resolveBike } from './resolve.ts';
import { saddleMeasures, saddlePlace } from './saddle.ts';
import { UNMEASURED_BIKE, type BikeSetup } from './setup.ts';
import { toeOverlap } from './toeOverlap.ts';

const random = seededRandom(11);
const between = (low: number, high: number): number => low + random() * (high - low);
const HEAD = { stackMm: 570, reachMm: 385, headAngleDeg: 71.5 };
const STEM = {
  lengthMm: 100,
  angleDeg: -6,
  flipped: false,
  steererAboveMm: null,
  onePiece: false,
  spacersMm: 20,
  capMm: 10,
  clampHeightMm: 40,
};

type Patch = {
  [K in keyof BikeSetup]?: BikeSetup[K] extends object | null
    ? Partial<NonNullable<BikeSetup[K]>>
    : BikeSetup[K];
};

/** A whole, consistent gravel bike; parts of it can be changed. */
function bike(change: Patch = {}): BikeSetup {
  const foot = {
    ...UNMEASURED_BIKE.feet.left,
    cleatBehindMm: 8,
    cleatOutwardMm: 2,
    heelOutDeg: 2,
    shoeSizeEu: 43,
    soleStackMm: 6,
  };
  const whole: BikeSetup = {
    ...UNMEASURED_BIKE,
    frame: {
      ...HEAD,
      seatTubeMm: null,
      seatAngleDeg: 73,
      chainstayMm: 430,
      bbDropMm: 72,
      forkRakeMm: 50,
      frontCentreMm: null,
      wheelbaseMm: null,
      wheelDiameterMm: 700,
      tyreWidthMm: 40,
    },
    crank: { lengthMm: 172.5, qFactorMm: 148 },
    pedals: { model: '', axleLengthMm: 53, stackMm: 11, floatDeg: 6 },
    feet: { left: foot, right: foot },
    saddle: { ...UNMEASURED_BIKE.saddle, heightMm: 735, setback80Mm: 200, noseTo80Mm: 130, tiltDeg: 0 },
    stem: { ...STEM },
    bar: { ...UNMEASURED_BIKE.bar, reachMm: 85, hoodRiseMm: 30, rotationDeg: 0 },
  };
  for (const [key, value] of Object.entries(change))
    Object.assign(whole, {
      [key]: typeof value === 'object' ? { ...whole[key as 'frame'], ...value } : value,
    });
  return whole;
}

describe('frame and cockpit', () => {
  it('puts the clamp where a drawing by hand puts it', () => {
    // η = 90°: a vertical steerer, so spacers only raise and a 0° stem only reaches: x = 400 + 100, y = 550 + 20 + 10 + 20.
    const upright = { stackMm: 550, reachMm: 400, headAngleDeg: 90 };
    expect(clampPoint(upright, { ...STEM, angleDeg: 0 })).toMatchObject({
      x: expect.closeTo(500, 9),
      y: expect.closeTo(600, 9),
    });
    // η = 72°, −6°: the stem stands 18 − 6 = 12° above level. Steerer part: 50 mm up at 72°.
    const p = clampPoint({ stackMm: 550, reachMm: 400, headAngleDeg: 72 }, STEM);
    const rad = Math.PI / 180;
    expect(p.x).toBeCloseTo(400 - 50 * Math.cos(72 * rad) + 100 * Math.cos(12 * rad), 9);
    expect(p.y).toBeCloseTo(550 + 50 * Math.sin(72 * rad) + 100 * Math.sin(12 * rad), 9);
  });
  it('the stem’s inverse gives back length and angle, and flipping mirrors the angle', () => {
    for (let k = 0; k < 300; k += 1) {
      const head = { stackMm: between(480, 660), reachMm: between(340, 480), headAngleDeg: between(64, 75) };
      const stem = {
        ...STEM,
        lengthMm: between(35, 150),
        angleDeg: between(-30, 35),
        steererAboveMm: null,
        onePiece: false,
        spacersMm: between(0, 60),
      };
      const back = stemFor(head, stem, clampPoint(head, stem));
      expect(back.lengthMm).toBeCloseTo(stem.lengthMm, 8);
      expect(back.angleDeg).toBeCloseTo(stem.angleDeg, 8);
      expect(stemFor(head, stem, clampPoint(head, { ...stem, flipped: true })).angleDeg).toBeCloseTo(
        -stem.angleDeg,
        8,
      );
    }
  });
  it('turns reach and rise with the bar, keeping their length', () => {
    for (const rotationDeg of [-20, 0, 7, 30]) {
      const h = hoodPoint({ x: 500, y: 600 }, { reachMm: 80, hoodRiseMm: 25, rotationDeg });
      expect(Math.hypot(h.x - 500, h.y - 600)).toBeCloseTo(Math.hypot(80, 25), 9);
      expect(
        Math.sign(h.y - hoodPoint({ x: 500, y: 600 }, { reachMm: 80, hoodRiseMm: 25, rotationDeg: 0 }).y),
      ).toBe(Math.sign(rotationDeg));
    }
  });
  it('finds the front axle rake ahead of the steering axis, at the axles’ height', () => {
    const axle = frontAxle(HEAD, 50, 72);
    expect(axle.y).toBeCloseTo(72, 9);
    const rad = HEAD.headAngleDeg * (Math.PI / 180);
    const off = (axle.x - HEAD.reachMm) * Math.sin(rad) + (axle.y - HEAD.stackMm) * Math.cos(rad);
    expect(off).toBeCloseTo(50, 9);
  });
});

describe('saddle coordinates', () => {
  it('go from tape to plane and back', () => {
    for (let k = 0; k < 300; k += 1) {
      const m = {
        heightMm: between(550, 850),
        setback80Mm: between(40, 300),
        tiltDeg: between(-12, 8),
        noseTo80Mm: between(60, 170),
      };
      const back = saddleMeasures(saddlePlace(m)!);
      for (const key of Object.keys(m) as (keyof typeof m)[]) expect(back[key]).toBeCloseTo(m[key], 7);
    }
    expect(saddlePlace({ heightMm: 200, setback80Mm: 260, tiltDeg: 0, noseTo80Mm: 130 })).toBeNull();
  });
});

describe('one measurement gives the others', () => {
  it('heights, setbacks, wheelbase and front-centre', () => {
    const r = resolveBike(bike());
    expect(r.heightToSpindleMm).toEqual({ mm: 907.5, from: 'computed' });
    expect(r.setbackNoseMm).toEqual({ mm: 70, from: 'computed' });
    expect(r.contradictions).toEqual([]);
    // The same bike told the other way round comes out the same.
    const other = resolveBike(
      bike({
        frame: { forkRakeMm: null, frontCentreMm: r.frontCentreMm!.mm },
        saddle: { heightMm: null, heightToSpindleMm: 907.5, setback80Mm: null, setbackNoseMm: 70 },
      }),
    );
    expect(other.points.sit!.x).toBeCloseTo(r.points.sit!.x, 9);
    expect(other.points.sit!.y).toBeCloseTo(r.points.sit!.y, 9);
    expect(other.wheelbaseMm!.mm).toBeCloseTo(r.wheelbaseMm!.mm, 9);
  });
  it('the bar by tape lands where stem and frame put it', () => {
    const whole = bike();
    const r = resolveBike(whole);
    const { clamp, nose, sit } = r.points;
    const tape = {
      fromNoseMm: Math.hypot(clamp!.x - nose!.x, clamp!.y - nose!.y),
      belowSaddleMm: sit!.y - clamp!.y - 16,
    };
    const taped = resolveBike(bike({ stem: { lengthMm: null }, bar: tape }));
    expect(taped.points.clamp!.x).toBeCloseTo(clamp!.x, 6);
    expect(taped.points.clamp!.y).toBeCloseTo(clamp!.y, 6);
    expect(resolveBike(bike({ bar: tape })).contradictions).toEqual([]);
    // The stem upside down, ten spacers forgotten, the wrong length: each slip is named.
    const slip = (change: Patch): string =>
      resolveBike(bike({ bar: tape, ...change })).contradictions[0].slip;
    expect(slip({ stem: { flipped: true } })).toContain('not flipped');
    expect(slip({ stem: { steererAboveMm: null, onePiece: false, spacersMm: 40 } })).toContain('spacers');
    expect(resolveBike(bike({ bar: tape, stem: { lengthMm: 120 } })).contradictions[0].missMm).toBeCloseTo(
      20,
      0,
    );
  });
  it('points out what cannot both be true, and the likely slip', () => {
    const one = (change: Patch): string =>
      resolveBike(bike(change))
        .contradictions.map((c) => c.slip)
        .join();
    expect(one({ saddle: { heightToSpindleMm: 735 } })).toContain('same number');
    expect(one({ saddle: { heightToSpindleMm: 905 } })).toBe('');
    expect(one({ saddle: { heightToSpindleMm: 897.5 } })).toContain('crank size');
    expect(one({ saddle: { setbackNoseMm: 210 } })).toContain('swapped');
    expect(one({ saddle: { setbackNoseMm: 50 } })).toContain('150 mm apart');
    expect(one({ frame: { frontCentreMm: 700 } })).toContain('another size');
    expect(one({ frame: { wheelbaseMm: 900 } })).toContain('wrong axle');
  });
  it('invents nothing: an unmeasured bike has no figures and no faults', () => {
    const r = resolveBike(UNMEASURED_BIKE);
    expect(Object.values(r.points).every((p) => p === null)).toBe(true);
    expect([r.heightMm, r.reachFromNoseMm, r.barDropMm, r.stanceMm.left, r.overlap.left]).toEqual([
      null,
      null,
      null,
      null,
      null,
    ]);
    expect(bikeFaults(UNMEASURED_BIKE, r)).toEqual([]);
  });
});

describe('stance and toe overlap', () => {
  it('moves the foot out when the cleat goes in', () => {
    const at = (cleatOutwardMm: number): number =>
      resolveBike(bike({ feet: { left: { ...bike().feet.left, cleatOutwardMm } } })).stanceMm.left!;
    // 148 / 2 + 53 − 2 = 125.
    expect(at(2)).toBe(125);
    expect(at(-2)).toBe(129);
  });
  it('shrinks with cleat back and long crank, and names the steer at which they touch', () => {
    const input = {
      crankMm: 170,
      tipAheadMm: 90,
      tipAboveMm: 30,
      stanceSideMm: 125,
      frontAxleMm: { x: 562, y: 72 },
      headAngleDeg: 72,
      forkRakeMm: 45,
      wheelDiameterMm: 680,
      tyreWidthMm: 28,
    };
    const base = toeOverlap(input);
    expect(toeOverlap({ ...input, crankMm: 180 }).gapMm).toBeLessThan(base.gapMm);
    expect(toeOverlap({ ...input, tipAheadMm: 105 }).gapMm).toBeLessThan(base.gapMm);
    expect(base.closesAtSteerDeg).not.toBeNull();
    const far = toeOverlap({ ...input, frontAxleMm: { x: 760, y: 72 } });
    expect(far.gapMm).toBeGreaterThan(20);
    expect(far.closesAtSteerDeg).toBeNull();
    // With the wheel straight and the foot in its plane the gap is a plain distance: 720 − 340 − (170 + 90) at equal heights.
    const plain = toeOverlap({ ...input, stanceSideMm: 0, tipAboveMm: 72, frontAxleMm: { x: 720, y: 72 } });
    expect(plain.gapMm).toBeCloseTo(120, 0);
  });
});

describe('faults in words', () => {
  const wordsFor = (change: Patch): string => {
    const b = bike(change);
    return bikeFaults(b, resolveBike(b))
      .map((f) => f.what)
      .join('; ');
  };
  it('are silent about a sound bike and plain about the rest', () => {
    expect(wordsFor({})).toBe('');
    expect(wordsFor({ saddle: { tiltDeg: -6 } })).toBe('saddle 6° nose-down');
    expect(wordsFor({ feet: { right: { ...bike().feet.right, heelOutDeg: -2 } } })).toBe('cleats 4° apart');
    expect(wordsFor({ bar: { rotationDeg: 11 } })).toBe('bar rolled up 11°');
    expect(wordsFor({ saddle: { postShowingMm: 260, postShowingMostMm: 240 } })).toContain(
      '20 mm past its minimum insertion',
    );
    expect(wordsFor({ feet: { left: { ...bike().feet.left, washers: 2 } } })).toContain(
      '2 washers under the left pedal',
    );
    expect(wordsFor({ saddle: { setback80Mm: 300 } })).toContain('seat tube');
  });
});
