import { describe, expect, it } from 'vitest';
import { CAST } from '../../sim/cast.ts';
import { project, wheelsInPicture } from '../../sim/camera.ts';
import { openFilm, toPlanes } from '../../sim/render/film.ts';
import { tyreEdgeMm } from '../../sim/render/look.ts';
import { distance } from '../math/vec.ts';
import { packedFrame } from '../tracking/frame.ts';
import { findWheels } from './wheels.ts';

function filmed(id: string, camera: object) {
  const m = CAST.find((k) => k.id === id)!;
  const scene = { ...m.scene, camera: { ...m.scene.camera, ...camera } };
  const film = openFilm(scene, m.film);
  const pictures = [0, 20].map((i) => packedFrame(toPlanes(film.shoot(i))));
  const truth = wheelsInPicture(scene.camera, { ...scene.bike, wheelRadiusMm: tyreEdgeMm(scene.bike) });
  return { scene, pictures, truth };
}

describe('the wheels of a bike', () => {
  it.each([
    ['maren', { yawDeg: 5 }],
    ['idris', { facing: 'left', rollDeg: 1 }],
    ['juno', { mmPerPx: 3.1, distanceMm: 3600, yawDeg: -3 }],
  ] as const)('are found to a fraction of a pixel: %s, %o', (id, camera) => {
    const { scene, pictures, truth } = filmed(id, camera);
    const { mmPerPx, facing } = scene.camera;
    const hint = { mmPerPx: 0.97 * mmPerPx, facing, pedalPx: project(scene.camera, { x: 0, y: 0 }, 172) };
    for (const found of [findWheels(pictures, hint), findWheels(pictures, null, facing)]) {
      expect(distance(found!.rear, truth.rear)).toBeLessThan(0.5);
      expect(distance(found!.front, truth.front)).toBeLessThan(0.5);
      for (const end of ['rearTop', 'rearBottom', 'frontTop', 'frontBottom'] as const)
        expect(distance(found!.rims[end], truth[end]), end).toBeLessThan(
          1.5 + Math.abs(scene.camera.rollDeg),
        );
      expect(found!.sure).toBeGreaterThan(0.8);
    }
  });
  it('are none on a bare wall', () => {
    const grey = new Uint8Array(640 * 360).fill(140);
    const c = new Uint8Array(320 * 180).fill(128);
    const bare = packedFrame({ width: 640, height: 360, y: grey, u: c, v: c });
    expect(findWheels([bare], null, 'right')).toBeNull();
    expect(findWheels([bare], { mmPerPx: 4, facing: 'right', pedalPx: { x: 320, y: 250 } })).toBeNull();
    expect(findWheels([], null, 'right')).toBeNull();
  });
});
