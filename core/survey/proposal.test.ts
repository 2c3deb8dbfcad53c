import { describe, expect, it } from 'vitest';
import { CAST } from '../../sim/cast.ts';
import { wheelsInPicture } from '../../sim/camera.ts';
import { isUnmoved, questionsOf, tyreDiameterMm, wheelbaseFromTyre } from './proposal.ts';

const wheelsOf = (yawDeg: number, facing: 'left' | 'right' = 'right') => {
  const { camera, bike } = CAST[0].scene;
  const { rear, front, ...rims } = wheelsInPicture({ ...camera, yawDeg, facing }, bike);
  return { rear, front, rims, bike, camera };
};

describe('a tyre’s size', () => {
  it('is read as it is printed', () => {
    expect(tyreDiameterMm('28-622')).toBe(678);
    expect(tyreDiameterMm(' 47 - 584 ')).toBe(678);
    expect(tyreDiameterMm('40–622')).toBe(702);
    for (const wrong of ['', '700x28', '28', '622-28', '99-622', '28-222', '28-622-1'])
      expect(tyreDiameterMm(wrong), wrong).toBeNull();
  });
  it.each([
    [0, 'right'],
    [4, 'right'],
    [-3, 'left'],
  ] as const)('gives the wheelbase from a camera turned by %s°, bike to the %s', (yaw, facing) => {
    const { bike, camera, ...wheels } = wheelsOf(yaw, facing);
    const centre = { x: camera.widthPx / 2, y: camera.heightPx / 2 };
    const truth = bike.frontAxle.x - bike.rearAxle.x;
    expect(Math.abs(wheelbaseFromTyre(wheels, 2 * bike.wheelRadiusMm, centre) - truth)).toBeLessThan(
      0.006 * truth,
    );
  });
});

describe('what is asked', () => {
  const point = (sure: number) => ({ x: 1, y: 2, onSticker: true, sure });
  it('is what is unsure, then what is missing, and nothing else', () => {
    expect(
      questionsOf(['hip', 'knee', 'ankle', 'heel'], {
        hip: point(0.9),
        ankle: point(0.3),
        heel: point(0.59),
      }),
    ).toEqual([
      { landmark: 'ankle', kind: 'unsure' },
      { landmark: 'heel', kind: 'unsure' },
      { landmark: 'knee', kind: 'open' },
    ]);
    expect(questionsOf(['hip'], { hip: point(1) })).toEqual([]);
  });
});

describe('a camera that was not moved', () => {
  it('sees the wheels where they were, within a few pixels', () => {
    const { rear, front, rims } = wheelsOf(0);
    const now = { rear, front, rims };
    const off = (p: { x: number; y: number }, by: number) => ({ x: p.x + by, y: p.y });
    expect(isUnmoved(now, { rear: off(rear, 2), front: off(front, -2) })).toBe(true);
    expect(isUnmoved(now, { rear: off(rear, 2), front: off(front, 5) })).toBe(false);
    expect(isUnmoved(now, { rear, front: null })).toBe(false);
  });
});
