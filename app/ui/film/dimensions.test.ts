import { describe, expect, it } from 'vitest';
import { CAST } from '../../../sim/cast.ts';
import { frameTruth } from '../../../sim/render/film.ts';
import { ANGLE_KEYS, jointAngleDeg } from '../../../core/kinematics/angles.ts';
import { SIDE_LANDMARKS, type SideLandmark } from '../../../core/landmarks/landmarks.ts';
import { toPlane } from '../../../core/camera/plane.ts';
import type { Vec2 } from '../../../core/math/vec.ts';
import { dimensionOf, PLATE_HEIGHT, spreadPlates } from './dimensions';
import { quoted } from '../words/angleText';

describe('dimensions on the film', () => {
  it('sweep the very angle that stands on their plate, both facings, both conventions', () => {
    for (const member of CAST) {
      const film = frameTruth(member.scene, member.film, 7).joints as Record<SideLandmark, Vec2>;
      const map = { facing: member.scene.camera.facing, mmPerPx: 2.5, levelDeg: 0.4 };
      const plane = Object.fromEntries(SIDE_LANDMARKS.map((k) => [k, toPlane(map, film[k])])) as Record<
        SideLandmark,
        Vec2
      >;
      for (const key of ANGLE_KEYS) {
        for (const convention of ['bend', 'inside'] as const) {
          const d = dimensionOf(key, {
            film,
            screen: (p) => ({ x: 0.7 * p.x, y: 0.7 * p.y }),
            map,
            convention,
            plateWidth: 40,
          });
          const value = Math.abs(quoted(key, jointAngleDeg(key, plane), convention));
          expect(d.sweepDeg, `${member.id} ${key} ${convention}`).toBeCloseTo(value, 6);
        }
      }
    }
  });
  it('plates never cover each other', () => {
    const plates = Array.from({ length: 6 }, (_, k) => ({ x: 100 + 3 * k, y: 200 + 2 * k, width: 40 }));
    const placed = spreadPlates(plates);
    placed.forEach((p, i) =>
      placed.slice(i + 1).forEach((q) => expect(Math.abs(p.y - q.y)).toBeGreaterThanOrEqual(PLATE_HEIGHT)),
    );
    expect(spreadPlates([plates[0]])[0]).toMatchObject({ x: 100, y: 200 });
  });
});
