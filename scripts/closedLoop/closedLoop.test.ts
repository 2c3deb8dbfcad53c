import { describe, expect, it } from 'vitest';
import { ridden } from '../../sim/answer.ts';
import { trueFigures } from '../../sim/measured.ts';
import { poseAt } from '../../sim/rider.ts';
import { seededRandom } from '../../sim/random.ts';
import { calledReal, manyLoops, summed } from './many.ts';
import { MISFITS, randomCase } from './riders.ts';

// The whole is written by `npm run closed-loop`; here some riders of each kind keep watch over it.
describe('the closed loop', { timeout: 240_000 }, () => {
  const all = manyLoops(4 * MISFITS.length, 11);
  const [fit, off] = [all.filter((o) => !o.misfit), all.filter((o) => o.misfit)].map(summed);
  it('leaves who sits well alone', () => {
    expect(fit.now).toBeLessThanOrEqual(0.1);
    expect(fit.tryOnly).toBeLessThanOrEqual(0.3);
  });
  it('moves the right control the right way where it is sure, three lines at most, and pushes nothing out', () => {
    expect(off.sure).toBeGreaterThan(0);
    expect(off.sureRight / off.sure).toBeGreaterThanOrEqual(0.7);
    expect(off.wrong).toBe(0);
    expect(off.pushedOut + fit.pushedOut).toBe(0);
    expect(Math.max(off.mostLines, fit.mostLines)).toBeLessThanOrEqual(3);
  });
  it('brings riders into their bands, and its intervals hold the truth', () => {
    expect(off.inTruth).toBeGreaterThan(0.85);
    expect(off.held).toBeGreaterThan(0.9);
  });
});

it(
  'an untouched bike filmed again is called a real change about one time in twenty',
  { timeout: 120_000 },
  () => {
    const real = calledReal(16, 3);
    expect(real).toBeGreaterThan(0.01);
    expect(real).toBeLessThan(0.1);
  },
);

it('the virtual rider answers by the shares that are its own', () => {
  const random = seededRandom(5);
  let c = null;
  while (!c) c = randomCase('height', random);
  const rider = c.fitted.right;
  const felt = { sitMm: { x: -3, y: 9 }, handMm: { x: -12, y: 8 }, crankMm: 0, cleatBackMm: 0, stackMm: 0 };
  const stiff = ridden(rider, felt, { kappa: 0, rho: 0 })!;
  expect(stiff.footPitchMeanDeg).toBeCloseTo(rider.footPitchMeanDeg, 4);
  expect(stiff.backDeg).toBeCloseTo(rider.backDeg, 6);
  const soft = ridden(rider, felt, { kappa: 0.6, rho: 1 })!;
  expect(soft.footPitchMeanDeg).toBeGreaterThan(rider.footPitchMeanDeg + 0.5);
  expect(soft.elbowFlexionDeg).toBeCloseTo(rider.elbowFlexionDeg, 4);
  // More share of the foot leaves less to the knee.
  expect(trueFigures(soft).kneeFlexionMinDeg).toBeGreaterThan(trueFigures(stiff).kneeFlexionMinDeg);
  // The hands go with the hoods.
  const hands = poseAt({ ...soft, wanderDeg: 0 }, 90, 0).joints.wrist;
  const before = poseAt({ ...rider, wanderDeg: 0 }, 90, 0).joints.wrist;
  expect(Math.hypot(hands.x - before.x + 12, hands.y - before.y - 8)).toBeLessThan(0.5);
  expect(ridden(rider, { ...felt, sitMm: { x: -60, y: 200 } }, { kappa: 0, rho: 0 })).toBeNull();
});
