import { describe, expect, it } from 'vitest';
import { project, wheelsInPicture, type Camera } from '../../sim/camera.ts';
import { CAST } from '../../sim/cast.ts';
import { asSeen, keystoneFromWheels, squared, yawDeg } from './keystone.ts';
import { fromPlane, scaleFromAxles, toPlane } from './plane.ts';

const { bike, camera: square } = CAST[0].scene;
const turned = (change: Partial<Camera>): Camera => ({ ...square, yawDeg: 0, rollDeg: 0, ...change });
const centrePx = { x: square.widthPx / 2, y: square.heightPx / 2 };

describe('keystone from the wheels', () => {
  it.each([-6, -2, 0, 0.6, 4, 7])('finds a yaw of %s° from either side of the bike', (yaw) => {
    for (const facing of ['left', 'right'] as const) {
      const camera = turned({ yawDeg: yaw, facing, rollDeg: 1 });
      const k = keystoneFromWheels(wheelsInPicture(camera, bike), centrePx)!;
      expect(Math.abs(yawDeg(k, camera.mmPerPx, camera.distanceMm))).toBeCloseTo(Math.abs(yaw), 0);
    }
  });
  it('makes a drawing of the bike plane true again, up to the cosine of the yaw', () => {
    const camera = turned({ yawDeg: 4 });
    const wheels = wheelsInPicture(camera, bike);
    const wheelbaseMm = bike.frontAxle.x - bike.rearAxle.x;
    const scale = scaleFromAxles({
      rearAxlePx: wheels.rear,
      frontAxlePx: wheels.front,
      wheelbaseMm,
      rims: wheels,
      centrePx,
    });
    if (!scale.ok) throw new Error(scale.reason);
    // A grid of points of the plane: distances between neighbours come out alike everywhere.
    const at = (x: number, y: number) => toPlane(scale, project(camera, { x, y }, 0));
    for (const [x, y] of [
      [-300, 0],
      [300, 0],
      [-300, 800],
      [300, 800],
    ]) {
      expect(Math.hypot(at(x + 100, y).x - at(x, y).x, at(x + 100, y).y - at(x, y).y)).toBeCloseTo(100, 1);
      expect(at(x, y + 100).x - at(x, y).x).toBeCloseTo(0, 1);
      expect((at(x, y + 100).y - at(x, y).y) * Math.cos((4 * Math.PI) / 180)).toBeCloseTo(100, 6);
    }
    const p = { x: 321, y: 456 };
    const back = fromPlane(scale, toPlane(scale, p));
    expect(back.x).toBeCloseTo(p.x, 9);
    expect(back.y).toBeCloseTo(p.y, 9);
  });
  it('squares and unsquares to the same pixel', () => {
    const k = { perPx: 4e-5, centrePx };
    for (const p of [
      { x: 0, y: 0 },
      { x: 1279, y: 3 },
      { x: 700, y: 719 },
    ]) {
      const q = asSeen(k, squared(k, p));
      expect(q.x).toBeCloseTo(p.x, 9);
      expect(q.y).toBeCloseTo(p.y, 9);
    }
  });
  it('makes nothing of points that are no two wheels', () => {
    const rims = wheelsInPicture(turned({}), bike);
    expect(keystoneFromWheels({ ...rims, frontTop: rims.frontBottom }, centrePx)).toBeNull();
    expect(
      keystoneFromWheels({ ...rims, frontTop: rims.rearTop, frontBottom: rims.rearBottom }, centrePx),
    ).toBeNull();
    const huge = { ...rims, frontTop: { x: rims.frontTop.x, y: -2000 } };
    expect(keystoneFromWheels(huge, centrePx)).toBeNull();
  });
});
