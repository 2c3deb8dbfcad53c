import { describe, expect, it } from 'vitest';
import { handbookLeg } from './handbookLeg.fixture.ts';
import { changeBike, changeWithAnswer, legAt, legSpanMm, type BikeChange } from './legAlone.fixture.ts';
import { kneeCurve } from './legModel.ts';

const leg = handbookLeg();

describe('the handbook’s sanity table (κ = 0)', () => {
  const rows: [string, BikeChange, bottom: number, least: number, most: number, overSpindle: number][] = [
    ['none', {}, 45.7, 43.4, 117.8, -15.8],
    ['saddle +10', { saddleUpMm: 10 }, 42.2, 39.7, 116.3, -23.4],
    ['saddle back 10', { saddleBackMm: 10 }, 45.2, 42.6, 117.5, -24.6],
    ['cleat back 10', { cleatBackMm: 10 }, 44.3, 42.0, 117.0, -14.9],
    ['crank −5', { crankLongerMm: -5 }, 47.4, 45.2, 117.0, -11.5],
    ['crank −5, saddle +5', { crankLongerMm: -5, saddleUpMm: 5 }, 45.7, 43.4, 116.2, -15.2],
    ['stack +5', { stackMm: 5 }, 47.2, 45.0, 118.5, -13.3],
  ];
  it.each(rows)('%s', (_name, change, atBottom, least, most, overSpindle) => {
    const after = changeBike(leg, change);
    const bottom = legAt(after, 180);
    const forward = legAt(after, 90);
    const curve = kneeCurve(after);
    if (!bottom.ok || !forward.ok || !curve.ok) throw new Error('the leg must reach');
    expect(Math.abs(bottom.kneeFlexionDeg - atBottom)).toBeLessThanOrEqual(0.1);
    expect(Math.abs(curve.min - least)).toBeLessThanOrEqual(0.1);
    expect(Math.abs(curve.max - most)).toBeLessThanOrEqual(0.1);
    expect(Math.abs(forward.knee.x - forward.spindle.x - overSpindle)).toBeLessThanOrEqual(0.1);
  });
});

describe('the leg model', () => {
  it('says by how much the leg is too short, and never NaN', () => {
    const high = changeBike(leg, { saddleUpMm: 200 });
    const pose = legAt(high, 180);
    expect(pose.ok).toBe(false);
    if (!pose.ok) expect(pose.missMm).toBeCloseTo(legSpanMm(high, 180) - 860, 6);
    const curve = kneeCurve(high);
    expect(curve.ok).toBe(false);
  });
  it('keeps the span as it was when the foot answers all of it, and changes it by the share otherwise', () => {
    const start = kneeCurve(leg);
    if (!start.ok) throw new Error('the leg must reach');
    const at = start.minAtThetaDeg;
    const span = legSpanMm(leg, at);
    const stiff = legSpanMm(changeBike(leg, { saddleUpMm: 12 }), at) - span;
    expect(legSpanMm(changeWithAnswer(leg, { saddleUpMm: 5 }, 1), at)).toBeCloseTo(span, 4);
    expect(legSpanMm(changeWithAnswer(leg, { saddleUpMm: 12 }, 0.35), at) - span).toBeCloseTo(
      0.65 * stiff,
      4,
    );
    expect(changeWithAnswer(leg, { saddleUpMm: 12 }, 0.35).footPitchDeg.mean).toBeGreaterThan(
      leg.footPitchDeg.mean,
    );
  });
  it('has a cleat 10 mm back act like about 5 mm of saddle', () => {
    const straightest = (change: BikeChange): number => {
      const c = kneeCurve(changeBike(leg, change));
      return c.ok ? c.min : NaN;
    };
    const cleat = straightest({}) - straightest({ cleatBackMm: 10 });
    const saddle = straightest({}) - straightest({ saddleUpMm: 5 });
    expect(cleat / saddle).toBeGreaterThan(0.7);
    expect(cleat / saddle).toBeLessThan(1.4);
  });
});
