import { describe, expect, it } from 'vitest';
import { RAD_PER_DEG } from '../math/angles.ts';
import { turnsBackwards } from './locateCrank.ts';
import { phaseFromFeet } from './pedalPhase.ts';

const FPS = 60;

/** Both feet's heights while the right arm turns from an angle, with a dead spot and a waver between the feet. */
function feet({
  rpm = 90,
  fromDeg = 30,
  seconds = 6,
  crank = 170,
  gap = null as [number, number] | null,
} = {}) {
  const tS = Float64Array.from({ length: seconds * FPS }, (_, i) => i / FPS);
  const theta = Array.from(tS, (t) => fromDeg + 6 * rpm * t);
  const height = (turn: number) =>
    theta.map((a, i) =>
      gap && i >= gap[0] && i <= gap[1] ? NaN : 400 + crank * Math.cos((a + turn) * RAD_PER_DEG),
    );
  return { tS, theta, right: height(0), left: height(180) };
}

describe('the crank read from the feet', () => {
  it.each([60, 90, 115])('at %i rpm within 2°, and its length', (rpm) => {
    const f = feet({ rpm });
    const phase = phaseFromFeet(f.right, f.left, f.tS)!;
    expect(phase.cadenceRpm).toBeCloseTo(rpm, 0);
    expect(Math.abs(phase.amplitude / 170 - 1)).toBeLessThan(0.02);
    const turn = Math.round((phase.thetaDeg[60] - f.theta[60]) / 360) * 360;
    for (let i = 30; i < f.tS.length - 30; i += 7)
      expect(Math.abs(phase.thetaDeg[i] - turn - f.theta[i])).toBeLessThan(2);
  });

  it('a gap stays a gap, and the turns go on behind it', () => {
    const f = feet({ gap: [100, 110] });
    const phase = phaseFromFeet(f.right, f.left, f.tS)!;
    expect(Number.isNaN(phase.thetaDeg[105])).toBe(true);
    expect(Math.abs(phase.thetaDeg[200] - phase.thetaDeg[90] - (f.theta[200] - f.theta[90]))).toBeLessThan(3);
  });

  it('feet that stand, or of which too little is seen, give none', () => {
    const f = feet();
    expect(phaseFromFeet(f.right, f.right, f.tS)).toBeNull();
    expect(phaseFromFeet(f.right.slice(0, 8), f.left.slice(0, 8), f.tS.slice(0, 8))).toBeNull();
  });

  it('which way the crank goes, through the top and past gaps', () => {
    const angles = (step: number) =>
      Array.from({ length: 60 }, (_, i) => (i === 20 ? NaN : (((i * step) % 360) + 360) % 360));
    expect(turnsBackwards(angles(13))).toBe(false);
    expect(turnsBackwards(angles(-13))).toBe(true);
    expect(turnsBackwards([0, -10, -20])).toBe(false);
  });
});
