import { describe, expect, it } from 'vitest';
import { BIKE_TEMPLATES } from './templates.ts';
import { resolveBike } from './resolve.ts';

describe('bikes to start typing from', () => {
  it.each(BIKE_TEMPLATES.map((b) => [b.name, b] as const))(
    '%s stands: axles and head where such bikes have them',
    (_, bike) => {
      const { points } = resolveBike(bike);
      const { rearAxle, frontAxle, headTop } = points as Record<string, { x: number; y: number } | null>;
      expect(rearAxle!.x).toBeLessThan(-390);
      expect(rearAxle!.y).toBeCloseTo(bike.frame.bbDropMm!, 6);
      expect(frontAxle!.x - rearAxle!.x).toBeGreaterThan(940);
      expect(frontAxle!.x - rearAxle!.x).toBeLessThan(1120);
      if (headTop) expect(headTop.y).toBeGreaterThan(frontAxle!.y + 350);
    },
  );
  it('nothing but frame and crank is taken for measured', () => {
    for (const bike of BIKE_TEMPLATES) {
      expect(bike.saddle.heightMm).toBeNull();
      expect(bike.stem.lengthMm).toBeNull();
      expect(bike.feet.left.cleatBehindMm).toBeNull();
    }
  });
});
