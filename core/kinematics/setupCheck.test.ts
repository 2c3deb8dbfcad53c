import { describe, expect, it } from 'vitest';
import type { Vec2 } from '../math/vec.ts';
import { CAST, stillPose } from '../../sim/cast.ts';
import { project, type Camera } from '../../sim/camera.ts';

import { ANGLE_KEYS, jointAngleDeg } from './angles.ts';
import { SIDE_LANDMARKS, type SideLandmark } from '../landmarks/landmarks.ts';
import {
  checkSetUp,
  distanceFromCrank,
  FOOT_NEARER_MM,
  yawEffectDeg,
  type SetUpFacts,
} from './setupCheck.ts';

const NOTHING: SetUpFacts = {
  widthPx: 1280,
  heightPx: 720,
  framesPerS: 60,
  cadenceRpm: null,
  levelDeg: null,
  yawDeg: null,
  distanceMm: null,
  jointsMm: null,
  edgePx: null,
  smear: null,
  exposure: null,
  sticker: null,
};
const verdict = (key: string, facts: Partial<SetUpFacts>): string =>
  checkSetUp({ ...NOTHING, ...facts }).find((c) => c.key === key)!.verdict;

describe('the set-up check', () => {
  it('leaves open what is not known, and says when it will be', () => {
    for (const c of checkSetUp(NOTHING)) {
      if (c.key === 'rate') continue;
      expect(c.verdict, c.key).toBe('open');
      expect(c.found).toContain('known once');
    }
  });
  it.each([
    ['square', { yawDeg: 1.5 }, 'good'],
    ['square', { yawDeg: -3 }, 'usable'],
    ['square', { yawDeg: 6 }, 'again'],
    ['rate', { framesPerS: 60 }, 'good'],
    ['rate', { framesPerS: 30 }, 'usable'],
    ['rate', { framesPerS: 30, cadenceRpm: 110 }, 'again'],
    ['distance', { distanceMm: 4000 }, 'good'],
    ['distance', { distanceMm: 1500 }, 'again'],
    ['level', { levelDeg: -0.4 }, 'good'],
    ['level', { levelDeg: 7 }, 'again'],
    ['frame', { edgePx: { px: 2, landmark: 'wrist' } }, 'again'],
    ['frame', { edgePx: { px: 90, landmark: 'wrist' } }, 'good'],
    ['blur', { smear: { px: 4, speedPxPerS: 2000 } }, 'good'],
    ['blur', { smear: { px: 30, speedPxPerS: 2000 } }, 'again'],
    ['exposure', { exposure: { white: 0.5, black: 0 } }, 'again'],
    ['stickers', { sticker: { landmark: 'hip', contrast: 80, radiusPx: 6, without: [] } }, 'good'],
    ['stickers', { sticker: { landmark: 'hip', contrast: 10, radiusPx: 6, without: [] } }, 'again'],
    ['stickers', { sticker: { landmark: 'hip', contrast: 80, radiusPx: 6, without: ['knee'] } }, 'usable'],
  ] as [string, Partial<SetUpFacts>, string][])('%s %j: %s', (key, facts, expected) => {
    expect(verdict(key, facts)).toBe(expected);
    const check = checkSetUp({ ...NOTHING, ...facts }).find((c) => c.key === key)!;
    expect(check.cure !== '').toBe(expected !== 'good');
  });

  const pilar = CAST.find((m) => m.id === 'pilar')!.scene.rider;
  const camera: Camera = {
    widthPx: 1280,
    heightPx: 720,
    distanceMm: 4000,
    mmPerPx: 2.5,
    aimMm: { x: 0, y: 300 },
    centreShare: { x: 0.5, y: 0.5 },
    yawDeg: 0,
    rollDeg: 0,
    facing: 'right',
  };
  it.each([2, 5, -4])('predicts what a yaw of %i° does as the virtual camera shows it', (yaw) => {
    const { joints } = stillPose(pilar, 120);
    const aim = camera.aimMm;
    const about = Object.fromEntries(
      SIDE_LANDMARKS.map((k) => [k, { x: joints[k].x - aim.x, y: joints[k].y - aim.y }]),
    ) as Record<SideLandmark, Vec2>;
    const seen = (deg: number) =>
      Object.fromEntries(
        SIDE_LANDMARKS.map((k) => {
          const p = project({ ...camera, yawDeg: deg }, joints[k], 0);
          return [k, { x: p.x, y: -p.y }];
        }),
      ) as Record<SideLandmark, Vec2>;
    const effects = yawEffectDeg(about, yaw, camera.distanceMm);
    for (const key of ANGLE_KEYS)
      expect(effects[key], key).toBeCloseTo(jointAngleDeg(key, seen(yaw)) - jointAngleDeg(key, seen(0)), 6);
  });

  it('tells the camera’s distance from how much larger the near foot’s circle looks', () => {
    for (const mm of [2000, 4000, 6000])
      expect(distanceFromCrank(mm / (mm - FOOT_NEARER_MM))).toBeCloseTo(mm - FOOT_NEARER_MM, 6);
    expect(distanceFromCrank(null)).toBeNull();
    expect(distanceFromCrank(1)).toBeNull();
    expect(distanceFromCrank(1.3)).toBeNull();
  });
});
