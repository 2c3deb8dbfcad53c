import { describe, expect, it } from 'vitest';
import { trueFigures } from './measured.ts';
import {
  MOVED_KEYS,
  NOT_MOVED,
  practiceCamera,
  practiceRide,
  practiceRider,
  practiceWord,
  trulyMoved,
} from './practice.ts';

describe('a rider to practise on', () => {
  const riders = [1, 2, 3, 4, 5, 6, 7, 8].map(practiceRider);

  it('is another one by each number, and the same one each time', () => {
    expect(practiceRider(3)).toEqual(riders[2]);
    expect(new Set(riders.map((r) => r.atEase.thighMm)).size).toBe(riders.length);
  });

  it('sits wrong as found, and at ease once everything that is wanted was moved', () => {
    for (const rider of riders) {
      const [found, moved] = [practiceRide(rider, NOT_MOVED)!, practiceRide(rider, rider.wanted)!];
      const [was, is, at] = [found, moved, rider.atEase].map((r) => trueFigures(r));
      expect(is.kneeFlexionMinDeg).toBeCloseTo(at.kneeFlexionMinDeg, 2);
      expect(is.backAngleDeg).toBeCloseTo(at.backAngleDeg, 2);
      expect(Math.abs(was.kneeFlexionMinDeg - at.kneeFlexionMinDeg)).toBeGreaterThan(1);
      expect(practiceWord(rider, NOT_MOVED, rider.wanted)).toBe('better');
      expect(practiceWord(rider, rider.wanted, NOT_MOVED)).toBe('worse');
      expect(practiceWord(rider, rider.wanted, rider.wanted)).toBe('same');
    }
  });

  it('straightens the knee as the saddle rises, and closes the hip as the hoods go down', () => {
    for (const rider of riders) {
      expect(trulyMoved(rider, NOT_MOVED, { ...NOT_MOVED, saddleUpMm: 3 })!.kneeFlexionMinDeg).toBeLessThan(
        -0.3,
      );
      expect(trulyMoved(rider, NOT_MOVED, { ...NOT_MOVED, handsUpMm: -10 })!.backAngleDeg).toBeLessThan(0);
      expect(trulyMoved(rider, NOT_MOVED, { ...NOT_MOVED, saddleBackMm: 5 })!.kneeOverSpindleMm).toBeLessThan(
        -3,
      );
    }
  });

  it('cannot be moved further than a bike goes', () => {
    for (const key of MOVED_KEYS)
      for (const mm of [-46, 46]) expect(practiceRide(riders[0], { ...NOT_MOVED, [key]: mm })).toBeNull();
  });
});

describe('the camera beside it', () => {
  it('writes what moved and nothing less: the same picture as one that is taken whole', () => {
    const rider = practiceRider(2);
    const [one, other] = [practiceCamera(rider), practiceCamera(rider)];
    one.shoot(0);
    one.shoot(0.4);
    const later = one.shoot(0.75).data.slice();
    expect(Buffer.compare(later, other.shoot(0.75).data)).toBe(0);
  });

  it('lets the body follow a bolt, and comes to rest where it was moved to', () => {
    const rider = practiceRider(2);
    const raised = { ...NOT_MOVED, saddleUpMm: 12 };
    const [moved, there] = [practiceCamera(rider), practiceCamera(rider, raised)];
    moved.shoot(0);
    moved.move(raised);
    const at = moved.shoot(1).data.slice();
    // The bike is there at once, the body a little later.
    expect(Buffer.compare(at, there.shoot(1).data)).not.toBe(0);
    expect(Buffer.compare(moved.shoot(3).data, there.shoot(3).data)).toBe(0);
  });
});
