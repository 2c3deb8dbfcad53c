import { describe, expect, it } from 'vitest';
import { USUAL_HABITS, type BodyModel } from './bodyModel.ts';
import { effectsOf, type Moves } from '../plan/controls/controls.ts';
import { asItIs, forecastOf, preparedOnce } from './forecast.ts';
import { handbookLeg } from './handbookLeg.fixture.ts';
import { changeWithAnswer } from './legAlone.fixture.ts';
import { kneeCurve } from './legModel.ts';
import { learnHabits } from './learn.ts';
import type { MeasureReading } from '../protocol/measures.ts';
import { predict, type Prediction } from './predict.ts';
import { UNMEASURED_BIKE } from '../bike/setup.ts';

const still = (mean: number) => ({ mean, cos: [], sin: [] });

/** The handbook's leg with a trunk and an arm on it. */
const rider = (hipYMm?: number): BodyModel => ({
  side: 'right',
  leg: handbookLeg(hipYMm),
  residualDeg: 0,
  heelMm: { x: -168, y: 24 },
  toeMm: { x: 0, y: 24 },
  shoulder: { x: still(120), y: still(1080) },
  elbowMm: { x: 215, y: 790 },
  wristMm: { x: 480, y: 700 },
  upperArmMm: Math.hypot(95, 290),
  forearmMm: Math.hypot(265, 90),
  trunkMm: Math.hypot(335, 345),
  c7Mm: null,
  sacrumMm: null,
  headMm: null,
});
const bike = {
  ...UNMEASURED_BIKE,
  stem: { ...UNMEASURED_BIKE.stem, lengthMm: 90, angleDeg: -6, spacersMm: 20 },
  bar: { ...UNMEASURED_BIKE.bar, reachMm: 75 },
};
const after = (moves: Moves, kappa = 0, rho = 0.5): Extract<Prediction, { ok: true }> => {
  const p = predict(preparedOnce(rider()), effectsOf(bike, moves), { kappa, rho });
  if (!p.ok) throw new Error(p.what);
  return p;
};

describe('what is predicted', () => {
  // Handbook, models: t = s = 430, L = 172.5, a = 125, b = 95, 73°, φ = 16 + 13 cos(θ − 275°), H = (−215, 735), κ = 0.
  it.each([
    ['none', {}, 45.7, 117.8, -15.8],
    ['saddle +10', { saddleUp: 10 }, 42.2, 116.3, -23.4],
    ['saddle back 10', { saddleBack: 10 }, 45.2, 117.5, -24.6],
    ['cleat back 10', { 'cleatBack.right': 10 }, 44.3, 117.0, -14.9],
    ['crank −5', { crank: -5 }, 47.4, 117.0, -11.5],
    ['crank −5, saddle +5', { crank: -5, saddleUp: 5 }, 45.7, 116.2, -15.2],
    ['stack +5', { pedalStack: 5 }, 47.2, 118.5, -13.3],
  ] as [string, Moves, number, number, number][])(
    'reproduces the handbook’s table: %s',
    (_, moves, bdc, most, over) => {
      const p = predict(preparedOnce(rider()), effectsOf(bike, moves), {
        kappa: 0,
        rho: 0.5,
        withTurn: true,
      });
      if (!p.ok) throw new Error(p.what);
      expect(Math.abs(p.turn!.kneeDeg[72] - bdc)).toBeLessThanOrEqual(0.1);
      expect(Math.abs(p.values.kneeFlexionMaxDeg - most)).toBeLessThanOrEqual(0.1);
      expect(Math.abs(p.values.kneeOverSpindleMm - over)).toBeLessThanOrEqual(0.1);
    },
  );

  it('agrees with the leg alone whatever share the foot takes', () => {
    for (const kappa of [0, 0.2, 0.5, 0.9]) {
      const whole = after({ saddleUp: 12, crank: -5 }, kappa).values.kneeFlexionMinDeg;
      const alone = kneeCurve(changeWithAnswer(handbookLeg(), { saddleUpMm: 12, crankLongerMm: -5 }, kappa));
      expect(alone.ok && Math.abs(alone.min - whole)).toBeLessThan(0.01);
    }
  });

  it('leaves the elbow alone when the back takes all, and the back when it takes nothing', () => {
    const start = asItIs(preparedOnce(rider()))!.values;
    const all = after({ spacers: 20 }, 0.35, 1).values;
    expect(all.elbowFlexionDeg).toBeCloseTo(start.elbowFlexionDeg, 4);
    expect(all.backAngleDeg).toBeGreaterThan(start.backAngleDeg + 0.5);
    const none = after({ spacers: 20 }, 0.35, 0).values;
    expect(none.backAngleDeg).toBeCloseTo(start.backAngleDeg, 6);
    expect(none.elbowFlexionDeg).toBeGreaterThan(start.elbowFlexionDeg + 0.5);
  });

  it('stops the back at its limit and says that it rounds', () => {
    const fx = effectsOf(bike, { spacers: -20, stemAngle: -15 });
    const limit = asItIs(preparedOnce(rider()))!.values.backAngleDeg;
    const free = predict(preparedOnce(rider()), fx, { kappa: 0.35, rho: 0.5 });
    const held = predict(preparedOnce(rider()), fx, { kappa: 0.35, rho: 0.5, backLimitDeg: limit });
    if (!free.ok || !held.ok) throw new Error('reach');
    expect(free.values.backAngleDeg).toBeLessThan(limit - 0.5);
    expect(held.values.backAngleDeg).toBeGreaterThan(free.values.backAngleDeg);
    expect([free.rounds, held.rounds]).toEqual([false, true]);
  });

  it('says by how much a leg or an arm can’t reach, and never draws it', () => {
    const leg = predict(preparedOnce(rider()), effectsOf(bike, { saddleUp: 175 }), { kappa: 0.35, rho: 0.5 });
    expect(leg).toMatchObject({ ok: false, what: 'leg' });
    expect(!leg.ok && leg.missMm).toBeGreaterThan(5);
    const arm = predict(preparedOnce(rider()), effectsOf(bike, { stemLength: 700 }), {
      kappa: 0.35,
      rho: 0.5,
    });
    expect(arm).toMatchObject({ ok: false, what: 'arm' });
  });

  const knee = (value: number): MeasureReading => ({
    key: 'kneeFlexionMinDeg',
    value,
    uncertainty: 2,
    change: 1,
    parts: { stickers: 1, skin: 0, ride: 0, localisation: 0, level: 0, picture: 0, strokes: 0 },
    pOut: { low: 0, high: 1 },
    unit: '°',
    band: { low: 33, high: 42 },
    verdict: 'high',
    provisional: false,
    estimated: false,
  });

  it('adds only the model’s difference to what was measured, and widens with what is unknown', () => {
    const p = preparedOnce(rider());
    const nothing = forecastOf(p, { measured: [knee(60)], fx: effectsOf(bike, {}), habits: USUAL_HABITS });
    expect(nothing.ok && nothing.measures[0]).toMatchObject({ after: 60, low: 58, high: 62 });
    const small = forecastOf(p, {
      measured: [knee(60)],
      fx: effectsOf(bike, { saddleUp: 5 }),
      habits: USUAL_HABITS,
    });
    const large = forecastOf(p, {
      measured: [knee(60)],
      fx: effectsOf(bike, { saddleUp: 20 }),
      habits: USUAL_HABITS,
    });
    if (!small.ok || !large.ok) throw new Error('reach');
    const width = (f: typeof small): number => f.measures[0].high - f.measures[0].low;
    expect(width(small)).toBeGreaterThan(4);
    expect(width(large)).toBeGreaterThan(width(small) + 1);
  });

  it('learns the rider’s own shares from a second film, and predicts more narrowly with them', () => {
    const p = preparedOnce(rider());
    const fx = effectsOf(bike, { saddleUp: 12, stemLength: -40, spacers: 40 });
    const start = asItIs(p)!.values;
    const real = predict(p, fx, { kappa: 0.6, rho: 0.2 });
    if (!real.ok) throw new Error('reach');
    const learned = learnHabits(p, {
      fx,
      seen: {
        pitchByDeg: real.values.footPitch90Deg - start.footPitch90Deg,
        pitchUncertainty: 0.6,
        backByDeg: real.values.backAngleDeg - start.backAngleDeg,
        backUncertainty: 0.6,
      },
      prior: USUAL_HABITS,
    });
    expect(Math.abs(learned.kappa.mean - 0.6)).toBeLessThan(0.05);
    expect(Math.abs(learned.rho.mean - 0.2)).toBeLessThan(0.1);
    expect(learned.kappa.sd).toBeLessThan(USUAL_HABITS.kappa.sd / 2);
    const next = effectsOf(bike, { saddleUp: 10 });
    const wide = forecastOf(p, { measured: [knee(40)], fx: next, habits: USUAL_HABITS });
    const narrow = forecastOf(p, { measured: [knee(40)], fx: next, habits: learned });
    if (!wide.ok || !narrow.ok) throw new Error('reach');
    const width = (f: typeof wide): number => f.measures[0].high - f.measures[0].low;
    expect(width(narrow)).toBeLessThan(width(wide) - 0.3);
  });

  it('learns nothing from a change that asked nothing', () => {
    const p = preparedOnce(rider());
    expect(
      learnHabits(p, {
        fx: effectsOf(bike, {}),
        seen: { pitchByDeg: 1, pitchUncertainty: 0.5, backByDeg: 1, backUncertainty: 0.5 },
        prior: USUAL_HABITS,
      }),
    ).toEqual(USUAL_HABITS);
  });
});
