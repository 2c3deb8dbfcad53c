import { describe, expect, it } from 'vitest';
import { DOSSIERS } from '../../../scripts/demo/dossiers.ts';
import { seededRandom } from '../../../sim/random.ts';
import { bikeWith } from '../blankCase.fixture.ts';
import {
  applyMoves,
  both,
  cannot,
  effectsOf,
  movedBy,
  pick,
  standsAt,
  tidy,
  type Moves,
} from './controls.ts';
import { CONTROL_KEYS, CONTROLS, type ControlKey } from './controlTable.ts';
import { CLEAT_BAND_MM } from '../terms/schools.ts';

const bike = DOSSIERS.maren.asFound;
const sin = (deg: number): number => Math.sin((deg * Math.PI) / 180);
const cos = (deg: number): number => Math.cos((deg * Math.PI) / 180);

describe('the list of controls', () => {
  it('goes feet, saddle, cockpit; each has a range round nothing, a step in it and two words', () => {
    const stages = CONTROL_KEYS.map((k) => ['feet', 'saddle', 'cockpit'].indexOf(CONTROLS[k].stage));
    expect(stages).toEqual([...stages].sort((a, b) => a - b));
    for (const key of CONTROL_KEYS) {
      const { least, most, step, words, price } = CONTROLS[key];
      expect(least, key).toBeLessThan(0);
      expect(most, key).toBeGreaterThan(0);
      expect(step, key).toBeLessThanOrEqual(Math.min(-least, most));
      expect(words[0] === words[1], key).toBe(false);
      expect(price, key).toBeGreaterThanOrEqual(1);
    }
  });
  it('a free adjustment costs less than a part, and a part less than cranks or a bar', () => {
    for (const free of ['saddleUp', 'saddleBack', 'saddleTilt', 'spacers', 'cleatBack.left'] as const)
      for (const part of ['stemLength', 'pedalAxle', 'saddleWidth', 'crank', 'barReach'] as const)
        expect(CONTROLS[free].price, `${free} ${part}`).toBeLessThan(CONTROLS[part].price);
    expect(CONTROLS.stemLength.price).toBeLessThan(CONTROLS.crank.price);
  });
  it('every school’s cleat can be reached from a usual one', () => {
    for (const [low] of Object.values(CLEAT_BAND_MM))
      expect(low - 10).toBeLessThanOrEqual(CONTROLS['cleatBack.left'].most);
  });
});

describe('moves', () => {
  it('stand where the bike has them, and go from there', () => {
    for (const key of CONTROL_KEYS) {
      const from = standsAt(bike, key);
      if (from === null || key === 'stemFlip') continue;
      const by = CONTROLS[key].step;
      const to = standsAt(applyMoves(bike, { [key]: by }), key)!;
      // A saddle that goes up along the seat tube goes back as well, and is then distinguished.
      expect(to - from, key).toBeCloseTo(by, 2);
    }
    expect(standsAt(bikeWith({}), 'saddleUp')).toBeNull();
    expect(standsAt(applyMoves(bike, { stemFlip: 1 }), 'stemFlip')).toBe(1);
  });
  it('are found again from two set-ups, whatever was moved together', () => {
    const random = seededRandom(4);
    const keys: ControlKey[] = [
      'saddleUp',
      'saddleBack',
      'saddleTilt',
      'spacers',
      'stemLength',
      'cleatBack.left',
    ];
    for (let n = 0; n < 40; n += 1) {
      const moves: Moves = Object.fromEntries(keys.map((k) => [k, Math.round(20 * random() - 10)]));
      const to = applyMoves(bike, moves);
      for (const key of keys) expect(movedBy(bike, to, key), key).toBeCloseTo(moves[key]!, 1);
    }
    expect(movedBy(bikeWith({}), bike, 'saddleUp')).toBeNull();
  });
  it('what is not measured stays open, whatever is moved', () => {
    const blank = bikeWith({});
    const moved = applyMoves(blank, { saddleUp: 10, crank: -5, spacers: 5, 'cleatBack.left': 3 });
    expect(moved).toEqual(blank);
  });
  it('what was measured another way moves along', () => {
    const b = bikeWith({
      frame: { seatAngleDeg: 73 },
      crank: { lengthMm: 170 },
      saddle: {
        heightMm: 700,
        heightToSpindleMm: 870,
        setback80Mm: 200,
        setbackNoseMm: 60,
        postShowingMm: 150,
      },
    });
    const { saddle } = applyMoves(b, { saddleUp: 10, saddleBack: 4, crank: -5 });
    expect(saddle.heightMm).toBe(710);
    expect(saddle.heightToSpindleMm).toBe(870 + 10 - 5);
    expect(saddle.postShowingMm).toBe(160);
    expect(saddle.setback80Mm).toBeCloseTo(200 + 4 + 10 * cos(73), 2);
    expect(saddle.setbackNoseMm).toBeCloseTo(60 + 4 + 10 * cos(73), 2);
  });
  it('pick and tidy take what they say', () => {
    const moves: Moves = { saddleUp: 3, saddleBack: 0, crank: -5 };
    expect(pick(moves, ['saddleUp', 'saddleBack'])).toEqual({ saddleUp: 3, saddleBack: 0 });
    expect(tidy(moves)).toEqual({ saddleUp: 3, crank: -5 });
    expect(both(moves, {})).toEqual({ saddleUp: 3, crank: -5 });
  });
});

describe('effects on the body', () => {
  const b = bikeWith({
    frame: { stackMm: 570, reachMm: 385, headAngleDeg: 72, seatAngleDeg: 73 },
    stem: { lengthMm: 100, angleDeg: 0, spacersMm: 20 },
    bar: { reachMm: 80, hoodRiseMm: 0, rotationDeg: 0 },
    saddle: { tiltDeg: 0 },
  });
  it('of the saddle, by drawing', () => {
    const { sitMm } = effectsOf(b, { saddleUp: 10 });
    expect(sitMm.x).toBeCloseTo(-10 * cos(73), 9);
    expect(sitMm.y).toBeCloseTo(10 * sin(73), 9);
    expect(effectsOf(b, { saddleBack: 5 }).sitMm).toEqual({ x: -5, y: 0 });
    // The nose up: the sit bones, behind the clamp, come down.
    expect(effectsOf(b, { saddleTilt: 2 }).sitMm.y).toBeLessThan(-1);
    expect(effectsOf(b, { saddleTilt: 2 }).sitMm.y).toBeGreaterThan(-2.5);
  });
  it('of the front, by drawing', () => {
    // Spacers go along the steerer: up and back by the head angle.
    const spacers = effectsOf(b, { spacers: 10 }).handMm;
    expect(spacers.x).toBeCloseTo(-10 * cos(72), 6);
    expect(spacers.y).toBeCloseTo(10 * sin(72), 6);
    // A stem square to the steerer: 18° up from the horizontal.
    const stem = effectsOf(b, { stemLength: -20 }).handMm;
    expect(stem.x).toBeCloseTo(-20 * sin(72), 6);
    expect(stem.y).toBeCloseTo(-20 * cos(72), 6);
    // Turning over a stem that is square to the steerer changes nothing; one of −6° comes up by twice its drop.
    expect(Math.hypot(...Object.values(effectsOf(b, { stemFlip: 1 }).handMm))).toBeCloseTo(0, 6);
    const six = { ...b, stem: { ...b.stem, angleDeg: -6 } };
    const flipped = effectsOf(six, { stemFlip: 1 }).handMm;
    expect(Math.hypot(flipped.x, flipped.y)).toBeCloseTo(2 * 100 * sin(6), 6);
    expect(flipped.y).toBeGreaterThan(0);
    const reach = effectsOf(b, { barReach: -10 }).handMm;
    expect(reach.x).toBeCloseTo(-10, 9);
    expect(reach.y).toBeCloseTo(0, 9);
  });
  it('of the feet: to find the foot out, the cleat goes in', () => {
    const { legs } = effectsOf(b, {
      'cleatOut.left': -3,
      'washers.left': 1,
      pedalAxle: 4,
      pedalStack: 2,
      'shim.left': 3,
    });
    expect(legs.left).toEqual({ cleatBackMm: 0, stackMm: 5, stanceMm: 4 + 1.5 + 3 });
    expect(legs.right).toEqual({ cleatBackMm: 0, stackMm: 2, stanceMm: 4 });
    expect(effectsOf(b, { 'cleatBack.right': 6, crank: -5, barWidth: -20 })).toMatchObject({
      crankMm: -5,
      barWidthMm: -20,
      legs: { right: { cleatBackMm: 6 }, left: { cleatBackMm: 0 } },
    });
  });
  it('add up: moving twice is moving once by the sum, but for what turns', () => {
    for (const key of ['saddleUp', 'saddleBack', 'spacers', 'stemLength', 'barReach'] as const) {
      const [one, two] = [effectsOf(b, { [key]: 10 }), effectsOf(b, { [key]: 20 })];
      expect(two.sitMm.x, key).toBeCloseTo(2 * one.sitMm.x, 9);
      expect(two.handMm.y, key).toBeCloseTo(2 * one.handMm.y, 9);
    }
  });
});

describe('what can’t be had', () => {
  const whole = bikeWith({
    crank: { lengthMm: 170 },
    stem: { lengthMm: 100, spacersMm: 20 },
    saddle: { heightMm: 700, setback80Mm: 200, postShowingMm: 150, postShowingMostMm: 165 },
    feet: { left: { cleatOutwardMm: 0 }, right: { cleatOutwardMm: 0 } },
  });
  const REFUSED: [Moves, RegExp][] = [
    [{ saddleUp: 20 }, /5 mm past its minimum insertion/],
    [{ saddleUp: -145 }, /no further down/],
    [{ saddleBack: 30 }, /rails give about 25 mm/],
    [{ saddleBack: -30 }, /rails give about 25 mm/],
    [{ spacers: -25 }, /no more spacers/],
    [{ spacers: 35 }, /more than 50 mm of spacers/],
    [{ stemLength: -70 }, /no stem of 30 mm/],
    [{ stemLength: 50 }, /no stem of 150 mm/],
    [{ crank: -35 }, /no crank of 135 mm/],
    [{ 'washers.left': 2 }, /one washer only under the left/],
    [{ 'washers.right': -1 }, /no washer under the right/],
    [{ 'shim.left': -1 }, /no shim under the left/],
    [{ 'cleatOut.right': 6 }, /right cleat’s slots give 5 mm/],
    [{ padRise: 5 }, /no extensions/],
  ];
  it('is said in words at the place where it happens', () => {
    for (const [moves, words] of REFUSED) expect(cannot(whole, moves), JSON.stringify(moves)).toMatch(words);
  });
  it('what can be had is not refused, and nothing is refused of what was not measured', () => {
    expect(
      cannot(whole, { saddleUp: 15, saddleBack: 25, spacers: -20, stemLength: 40, crank: -30 }),
    ).toBeNull();
    expect(cannot(bikeWith({}), { saddleUp: 60, spacers: 40, stemLength: 60, crank: -25 })).toBeNull();
    // A bike that came in past a limit is not refused for what does not worsen it.
    const tall = bikeWith({ stem: { lengthMm: 100, spacersMm: 60 } });
    expect(cannot(tall, { spacers: -5 })).toBeNull();
    expect(cannot(tall, { spacers: 5 })).not.toBeNull();
  });
});
