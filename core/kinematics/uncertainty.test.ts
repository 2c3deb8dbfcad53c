import { describe, expect, it } from 'vitest';
import { CAST, stillPose } from '../../sim/cast.ts';
import { jointAngleDeg } from './angles.ts';
import { angleGradient, combineLength, combineUncertainty, LEVEL_UNKNOWN_SD_DEG } from './uncertainty.ts';

const { joints } = stillPose(CAST[0].scene.rider, 150);
const of = (more: Partial<Parameters<typeof combineUncertainty>[0]> = {}) =>
  combineUncertainty({
    key: 'kneeFlexionDeg',
    joints,
    noiseMm: 0.5,
    strokeSdDeg: 0.9,
    strokes: 8,
    levelSdDeg: 0.3,
    isMean: false,
    ...more,
  });

describe('the ± of an angle', () => {
  it('of a filmed knee with hand-placed stickers is some five to seven degrees', () => {
    expect(of().absoluteDeg).toBeGreaterThan(4.8);
    expect(of().absoluteDeg).toBeLessThan(7);
  });
  it('names sticker, skin and ride; its parts make the whole', () => {
    const u = of({ key: 'backAngleDeg', levelSdDeg: 0.3 });
    const whole = Math.hypot(
      u.localisationDeg,
      u.stickerDeg,
      u.skinDeg,
      u.levelDeg,
      u.rideDeg,
      u.strokesDeg,
      u.pictureDeg,
    );
    expect(u.absoluteDeg).toBeCloseTo(1.96 * whole, 9);
    expect(of().skinDeg).toBeGreaterThan(0.5);
    expect(of({ isMean: true }).skinDeg).toBe(0);
  });
  it('for a change is ruled by sitting down anew, not by the tracker, and not by the stickers', () => {
    const u = of();
    expect(u.changeDeg).toBeGreaterThan(1.96 * Math.SQRT2 * u.rideDeg);
    expect(u.changeDeg).toBeLessThan(u.absoluteDeg);
    expect(of({ noiseMm: 0 }).changeDeg).toBeGreaterThan(0.9 * u.changeDeg);
  });
  it('a level that nobody knows is two degrees of every direction, and nothing of an angle between limbs', () => {
    const back = of({ key: 'backAngleDeg', levelSdDeg: LEVEL_UNKNOWN_SD_DEG });
    expect(back.levelDeg).toBe(2);
    expect(back.absoluteDeg).toBeGreaterThan(of({ key: 'backAngleDeg' }).absoluteDeg + 0.5);
    expect(of({ levelSdDeg: LEVEL_UNKNOWN_SD_DEG }).absoluteDeg).toBe(of().absoluteDeg);
  });
  it('few strokes widen it by Student’s t; one stroke takes the usual spread', () => {
    expect(of({ strokes: 2 }).strokesDeg).toBeCloseTo(((12.706 / 1.96) * 0.9) / Math.SQRT2, 6);
    expect(of({ strokes: 1, strokeSdDeg: 0 }).strokesDeg).toBeGreaterThan(0.5);
  });
  it('turns with its landmarks as small moves of them turn the angle', () => {
    for (const key of [
      'kneeFlexionDeg',
      'hipAngleDeg',
      'backAngleDeg',
      'footPitchDeg',
      'elbowFlexionDeg',
    ] as const) {
      const g = angleGradient(key, joints);
      for (const [k, v] of Object.entries(g) as [keyof typeof joints, { x: number; y: number }][])
        for (const axis of ['x', 'y'] as const) {
          const at = (d: number): number =>
            jointAngleDeg(key, { ...joints, [k]: { ...joints[k], [axis]: joints[k][axis] + d } });
          expect(v[axis], `${key} ${k} ${axis}`).toBeCloseTo((at(0.01) - at(-0.01)) / 0.02, 4);
        }
    }
  });
});

it('a length carries what its landmarks, the level and the ride add', () => {
  const u = combineLength({
    noiseMm: 0.5,
    points: 2,
    stickerSdsMm: [8, 3],
    rideSdMm: 4,
    acrossMm: 500,
    strokeSdMm: 2,
    strokes: 6,
    levelSdDeg: 2,
  });
  expect(u.stickerMm).toBeCloseTo(Math.hypot(8, 3), 9);
  expect(u.levelMm).toBeCloseTo(17.45, 1);
  expect(u.changeMm).toBeLessThan(u.absoluteMm);
});
