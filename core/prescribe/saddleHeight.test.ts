import { describe, expect, it } from 'vitest';
import { CAST } from '../../sim/cast.ts';
import { footToPlane } from '../../sim/rider.ts';
import { handbookLeg } from './handbookLeg.fixture.ts';
import { judge } from './judge.ts';
import { changeWithAnswer, kneeCurve, type LegModel } from './legModel.ts';
import { MEASURE_KEYS, PROTOCOLS } from './protocols.ts';
import { adviseSaddleHeight, predictKnee, SADDLE_VISIT_LIMIT_MM } from './saddleHeight.ts';

const minOf = (m: LegModel): number => {
  const c = kneeCurve(m);
  if (!c.ok) throw new Error('out of reach');
  return c.min;
};
const band = { low: 33, high: 42 };

describe('judge', () => {
  it('calls out only what misses by more than its uncertainty', () => {
    expect(judge(44, 3, band)).toBe('edge-high');
    expect(judge(45.5, 3, band)).toBe('high');
    expect(judge(31, 3, band)).toBe('edge-low');
    expect(judge(29, 3, band)).toBe('low');
    expect(judge(33, 0, band)).toBe('in');
    expect(judge(200, 1, { low: 55, high: null })).toBe('in');
  });
});

describe('saddle height', () => {
  it.each([
    ['low', 735, 1],
    ['high', 795, -1],
  ])('a saddle too %s is moved the right way, and the moved leg lands on the target', (_, y, sign) => {
    const leg = handbookLeg(y);
    const advice = adviseSaddleHeight(leg, { minDeg: minOf(leg), uncertaintyDeg: 1 }, band);
    if (advice.kind !== 'move') throw new Error(`advised to ${advice.kind}`);
    expect(Math.sign(advice.changeMm)).toBe(sign);
    expect(Number.isInteger(advice.changeMm)).toBe(true);
    const landed = minOf(changeWithAnswer(leg, { saddleUpMm: advice.changeMm }, 0.35));
    expect(Math.abs(landed - advice.targetDeg)).toBeLessThan(0.3);
    const edge = minOf(changeWithAnswer(leg, { saddleUpMm: advice.toEdgeMm }, 0.35));
    expect(judge(edge, 0, band)).toBe('in');
    expect(advice.intervalMm[0]).toBeLessThanOrEqual(advice.changeMm);
    expect(advice.intervalMm[1]).toBeGreaterThanOrEqual(advice.changeMm);
    expect(Math.abs(advice.todayMm)).toBeLessThanOrEqual(SADDLE_VISIT_LIMIT_MM);
  });
  it('leaves a knee in its band, and one at the edge, alone', () => {
    const leg = handbookLeg(735);
    expect(adviseSaddleHeight(leg, { minDeg: 40, uncertaintyDeg: 3 }, band)).toEqual({
      kind: 'leave',
      verdict: 'in',
    });
    expect(adviseSaddleHeight(leg, { minDeg: 44, uncertaintyDeg: 3 }, band)).toEqual({
      kind: 'leave',
      verdict: 'edge-high',
    });
  });
  it('a wider uncertainty widens the interval', () => {
    const leg = handbookLeg(730);
    const width = (uncertaintyDeg: number): number => {
      const a = adviseSaddleHeight(leg, { minDeg: minOf(leg), uncertaintyDeg }, band);
      return a.kind === 'move' ? a.intervalMm[1] - a.intervalMm[0] : NaN;
    };
    expect(width(3)).toBeGreaterThan(width(0.5));
  });
  it('goes half as far in one visit for those who take half steps, towards the same height', () => {
    const leg = handbookLeg(715);
    const knee = { minDeg: minOf(leg), uncertaintyDeg: 1 };
    const whole = adviseSaddleHeight(leg, knee, band);
    const half = adviseSaddleHeight(leg, knee, band, undefined, true);
    if (whole.kind !== 'move' || half.kind !== 'move') throw new Error('a knee this bent wants a move');
    expect(half.changeMm).toBe(whole.changeMm);
    expect([whole.todayMm, half.todayMm]).toEqual([10, 5]);
  });
  it('foretells the middle between what a stiff and a yielding foot would do', () => {
    const p = predictKnee(handbookLeg(735), 10);
    expect(p.minLowDeg).toBeLessThan(p.minDeg);
    expect(p.minHighDeg).toBeGreaterThan(p.minDeg);
  });
  it('shows what can’t be reached as that', () => {
    const p = predictKnee(handbookLeg(795), 80, { mean: 0, sd: 0 });
    expect(p.curve).toMatchObject({ ok: false, reason: 'cannot-reach' });
    expect(p.minDeg).toBeNaN();
  });
  it('agrees with the virtual rider, who is another implementation of the same leg', () => {
    const r = CAST[0].scene.rider;
    const ankle = footToPlane({ x: 0, y: 0 }, 20, -r.ankleBehindMm, r.ankleAboveMm);
    const c = Math.cos((20 * Math.PI) / 180);
    const s = Math.sin((20 * Math.PI) / 180);
    expect(ankle.x).toBeCloseTo(-r.ankleBehindMm * c + r.ankleAboveMm * s, 9);
    expect(ankle.y).toBeCloseTo(r.ankleBehindMm * s + r.ankleAboveMm * c, 9);
  });
});

it('every protocol has a band for every measure that its posture has, the right way round, with its reason', () => {
  for (const p of PROTOCOLS) {
    for (const key of MEASURE_KEYS) {
      const { low, high } = p.bands[key];
      const ofExtensions = key === 'shoulderAboveMidBackMm' || key === 'headAboveBackMm';
      expect(low !== null || high !== null, `${p.id} ${key}`).toBe(!ofExtensions || p.id === 'time-trial');
      if (low !== null && high !== null) expect(low).toBeLessThan(high);
    }
    expect(p.reason.length).toBeGreaterThan(20);
  }
});
