import { expect, it } from 'vitest';
import type { RampDrift, RampWay } from '../kinematics/live/ramp.ts';
import { rampText } from './rampWords.ts';

const drift = (key: RampDrift['key'], by: number, uncertainty: number): RampDrift => ({
  key,
  before: 40,
  after: 40 + by,
  by,
  uncertainty,
  real: Math.abs(by) > uncertainty,
});
const way = (part: Partial<RampWay>): RampWay => ({
  over: 'power',
  from: 151.6,
  to: 298.2,
  points: {},
  drifts: [],
  ...part,
});

it('a ramp in a sentence: what moved, which way, and nothing that does not matter', () => {
  const drifts = [
    drift('hipForwardMm', 9.2, 2.1),
    drift('hipUpMm', -4, 5),
    drift('footPitch180Deg', -4.04, 1.1),
    drift('kneeFlexionMinDeg', 2.5, 1),
    drift('backAngleDeg', 0.6, 0.3),
  ];
  expect(rampText(way({ drifts }), 'bend')).toBe(
    'From 152 W to 298 W: sits 9 mm ± 2 further forward; foot pitch, crank at bottom −4.0° ± 1.1; knee at its straightest +2.5° ± 1.0.',
  );
  // The inside angle goes the other way.
  expect(rampText(way({ drifts }), 'inside')).toContain('knee at its straightest −2.5° ± 1.0');
  expect(rampText(way({ drifts: [drift('hipForwardMm', -5, 2), drift('hipUpMm', 6, 2)] }), 'bend')).toContain(
    'sits 5 mm ± 2 further back; the hip 6 mm ± 2 higher',
  );
  expect(rampText(way({ over: 'minutes', from: 0.5, to: 11.5 }), 'bend')).toBe(
    'From minute 1 to minute 12 nothing moved by more than turns vary anyway.',
  );
});
