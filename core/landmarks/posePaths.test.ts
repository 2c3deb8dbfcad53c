import { describe, expect, it } from 'vitest';
import { CAST } from '../../sim/cast.ts';
import { filmed, FILMED_MM_PER_PX } from '../../sim/filmed.ts';
import { gaussian, seededRandom } from '../../sim/random.ts';
import { readTracks } from '../kinematics/read.ts';
import { pointAt } from '../tracking/tracks.ts';
import { SIDE_LANDMARKS, type SideLandmark } from './landmarks.ts';
import { POSES_PER_S, posePaths, type SeenPose } from './posePaths.ts';

const rider = CAST[1].scene.rider;
const truth = filmed({ rider, seconds: 6, rate: 60 });

/** What a model that strays by so much would see of that film, three pictures apart. */
function seenPoses(strayPx: number, slipOn: readonly number[] = []): SeenPose<SideLandmark>[] {
  const random = seededRandom(7);
  return Array.from({ length: Math.ceil(truth.tS.length / 3) }, (_, k) => {
    const frame = 3 * k;
    const joints = Object.fromEntries(
      SIDE_LANDMARKS.map((key) => {
        const p = pointAt(truth, key, frame);
        const off = slipOn.includes(k) && key === 'ankle' ? 90 : 0;
        const [x, y] = [p.x + strayPx * gaussian(random) + off, p.y + strayPx * gaussian(random)];
        return [key, { x, y, sure: 0.8 }];
      }),
    );
    return { frame, joints };
  });
}
const missOf = (paths: ReturnType<typeof posePaths>, key: SideLandmark): number =>
  Math.max(
    ...Array.from(truth.tS.keys()).flatMap((i) => {
      const p = pointAt(truth, key, i);
      return Number.isFinite(paths[key].xPx[i])
        ? [Math.hypot(paths[key].xPx[i] - p.x, paths[key].yPx[i] - p.y)]
        : [];
    }),
  );

describe('a film’s paths from poses', () => {
  it('lie between the poses as the joints do', () => {
    expect(POSES_PER_S).toBe(20);
    const paths = posePaths(truth.tS, seenPoses(0), SIDE_LANDMARKS);
    for (const key of SIDE_LANDMARKS) expect(missOf(paths, key), key).toBeLessThan(1.5);
    expect(paths.knee.confidence[100]).toBeCloseTo(0.8, 6);
  });
  it('leave out what the model slipped on', () => {
    const slips = [20, 45, 46, 70];
    expect(
      missOf(posePaths(truth.tS, seenPoses(1, slips.slice(0, 1)), SIDE_LANDMARKS), 'ankle'),
    ).toBeLessThan(8);
    const all = posePaths(truth.tS, seenPoses(1, slips), SIDE_LANDMARKS);
    const off = slips.filter((k) => {
      const p = pointAt(truth, 'ankle', 3 * k);
      return Math.hypot(all.ankle.xPx[3 * k] - p.x, all.ankle.yPx[3 * k] - p.y) > 30;
    });
    // Two in a row stand by each other.
    expect(off.length).toBeLessThanOrEqual(2);
  });
  it('have a gap where nothing was seen, and none of what was never seen', () => {
    const seen = seenPoses(0).map((s) => ({
      ...s,
      joints: s.frame > 120 && s.frame < 150 ? {} : { knee: s.joints.knee },
    }));
    const paths = posePaths(truth.tS, seen, SIDE_LANDMARKS);
    expect(Number.isNaN(paths.knee.xPx[135])).toBe(true);
    expect(paths.knee.confidence[135]).toBe(0);
    expect(Number.isFinite(paths.knee.xPx[100]) && Number.isFinite(paths.knee.xPx[170])).toBe(true);
    expect(paths.hip.xPx.every(Number.isNaN)).toBe(true);
  });
  it('are read as estimates: with a larger ±, also for a change', () => {
    const landmarks = posePaths(truth.tS, seenPoses(4), SIDE_LANDMARKS);
    const read = (estimated: boolean) => {
      const r = readTracks({ tS: truth.tS, landmarks }, { mmPerPx: FILMED_MM_PER_PX, estimated });
      if (!r.ok) throw new Error(r.detail);
      return r;
    };
    const [guess, sure] = [read(true), read(false)];
    expect([guess.estimatedSdMm !== null, sure.estimatedSdMm]).toEqual([true, null]);
    const [g, s] = [guess, sure].map((r) => r.angles.kneeFlexionDeg!.uncertainty);
    expect(guess.angles.kneeFlexionDeg!.min).toBeCloseTo(sure.angles.kneeFlexionDeg!.min, 9);
    expect(g.absoluteDeg).toBeGreaterThan(1.5 * s.absoluteDeg);
    expect(g.changeDeg).toBeGreaterThan(s.changeDeg);
    const [gl, sl] = [guess, sure].map((r) => r.body.kneeOverSpindleMm?.uncertainty.absoluteMm ?? 0);
    expect(gl).toBeGreaterThan(sl);
  });
});
