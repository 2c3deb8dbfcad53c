import { expect, it } from 'vitest';
import { seededRandom } from '../../sim/random.ts';
import { ridden } from '../../sim/answer.ts';
import { poseAt } from '../../sim/rider.ts';
import { manyLoops, summed } from './many.ts';
import { MISFITS, randomCase, truth } from './riders.ts';

// The whole is written by `npm run closed-loop`; here two riders of each misfit keep watch over it.
it(
  'plans put right what was found, push nothing out, touch little, and foretell what comes',
  { timeout: 240_000 },
  () => {
    const all = manyLoops(2 * MISFITS.length, 11);
    const s = summed(all);
    expect(s.found).toBeGreaterThan(12);
    expect(s.notOut[0] / s.found).toBeGreaterThanOrEqual(0.8);
    expect(s.notOut[1] / s.found).toBeGreaterThanOrEqual(0.9);
    expect(s.notOut[1]).toBeGreaterThanOrEqual(s.notOut[0]);
    expect(s.pushedOut).toBe(0);
    expect(s.touched / s.fewest).toBeLessThanOrEqual(1.5);
    expect(s.held / s.foretold).toBeGreaterThan(0.9);
    const widths = all.flatMap((o) => (o.width ? [o.width] : []));
    const mean = (f: (w: (typeof widths)[number]) => number): number =>
      widths.reduce((sum, w) => sum + f(w), 0) / widths.length;
    expect(mean((w) => w.learned)).toBeLessThan(mean((w) => w.usual));
  },
);

it('the virtual rider answers by the shares that are its own', () => {
  const random = seededRandom(5);
  let c = null;
  while (!c) c = randomCase('height', random);
  const rider = c.rider.right;
  const felt = { sitMm: { x: -3, y: 9 }, handMm: { x: -12, y: 8 }, crankMm: 0, cleatBackMm: 0, stackMm: 0 };
  const stiff = ridden(rider, felt, { kappa: 0, rho: 0 })!;
  expect(stiff.footPitchMeanDeg).toBeCloseTo(rider.footPitchMeanDeg, 4);
  expect(stiff.backDeg).toBeCloseTo(rider.backDeg, 6);
  const soft = ridden(rider, felt, { kappa: 0.6, rho: 1 })!;
  expect(soft.footPitchMeanDeg).toBeGreaterThan(rider.footPitchMeanDeg + 0.5);
  expect(soft.elbowFlexionDeg).toBeCloseTo(rider.elbowFlexionDeg, 4);
  // More share of the foot leaves less to the knee.
  expect(truth(soft).kneeFlexionMinDeg!).toBeGreaterThan(truth(stiff).kneeFlexionMinDeg!);
  // The hands go with the hoods.
  const hands = poseAt(soft, 90, 0).joints.wrist;
  const before = poseAt(rider, 90, 0).joints.wrist;
  expect(Math.hypot(hands.x - before.x + 12, hands.y - before.y - 8)).toBeLessThan(0.5);
  expect(ridden(rider, { ...felt, sitMm: { x: -60, y: 200 } }, { kappa: 0, rho: 0 })).toBeNull();
});
