import { describe, expect, it } from 'vitest';
import { ANGLE_KEYS } from '../../core/kinematics/angles.ts';
import { coverage } from './coverage.ts';
import { coverageFrontal } from './coverageFrontal.ts';
import { frontalAccuracy } from './measure.ts';
import { FRONTAL } from './variants.ts';

describe.each([FRONTAL[4]])('$name', (v) => {
  it('is followed, and read within its own intervals', () => {
    const a = frontalAccuracy(v);
    expect(a.medianPx).toBeLessThan(0.3);
    expect(a.p95Px).toBeLessThan(1);
    const { legs, stanceMm, pelvis } = a.reading;
    for (const [k, leg] of [legs.left, legs.right].entries()) {
      expect(Math.abs(a.pathMm[k])).toBeLessThan(leg.pathWidthMm.uncertainty.absoluteMm);
      expect(Math.abs(a.kneeOverFootMm[k])).toBeLessThan(leg.kneeOverFootPushMm.uncertainty.absoluteMm);
    }
    expect(Math.abs(a.stanceMm)).toBeLessThan(stanceMm.uncertainty.absoluteMm);
    expect(Math.abs(a.pelvisDeg)).toBeLessThan(pelvis!.absoluteDeg);
    expect(Math.abs(a.crankAngleDeg)).toBeLessThan(4);
  });
});

it('the same from ahead and behind, over 200 more', () => {
  const c = coverageFrontal(200, 42);
  expect(c.held).toBeGreaterThanOrEqual(0.93);
  expect(c.held).toBeLessThanOrEqual(0.97);
  for (const f of Object.values(c.byFigure)) expect(f.held).toBeGreaterThan(0.9);
}, 200_000);

it('the 95 % interval holds the truth in 93 to 97 of a hundred cases, over 200 random riders', () => {
  const c = coverage(200, 41);
  expect(c.cases).toBe(200 * 3 * ANGLE_KEYS.length);
  expect(c.held).toBeGreaterThanOrEqual(0.93);
  expect(c.held).toBeLessThanOrEqual(0.97);
  for (const key of ANGLE_KEYS) expect(c.byAngle[key].held, key).toBeGreaterThan(0.9);
}, 400_000);
