import { describe, expect, it } from 'vitest';
import { CAST } from './cast.ts';
import { filmed } from './filmed.ts';
import { comfortable, otherLeg, randomBody, satAnew } from './human.ts';
import { trueFigures } from './measured.ts';
import { seededRandom } from './random.ts';
import { crankAngleDeg, hipStickerMm, hoodMm, poseAt, type VirtualRider } from './rider.ts';
import { wander } from './wander.ts';

const RIDERS: VirtualRider[] = (() => {
  const random = seededRandom(17);
  const out: VirtualRider[] = [];
  while (out.length < 60) {
    const rider = comfortable(random);
    if (rider) out.push(rider);
  }
  return out;
})();

/** Crank angle at which the foot points furthest down. */
function pitchPeakDeg(rider: VirtualRider): number {
  const still = { ...rider, wanderDeg: 0 };
  let best = 0;
  for (let t = 0; t < 360; t += 1)
    if (poseAt(still, t, 0).footPitchDeg > poseAt(still, best, 0).footPitchDeg) best = t;
  return best;
}

const swing = (values: readonly number[]): number => Math.max(...values) - Math.min(...values);
const around = (rider: VirtualRider, f: (p: ReturnType<typeof poseAt>) => number): number[] =>
  Array.from({ length: 120 }, (_, i) => f(poseAt({ ...rider, wanderDeg: 0 }, 3 * i, 0)));
const sd = (v: readonly number[]): number => {
  const m = v.reduce((s, x) => s + x, 0) / v.length;
  return Math.sqrt(v.reduce((s, x) => s + (x - m) ** 2, 0) / (v.length - 1));
};

describe.each([
  ['the cast', CAST.map((m) => m.scene.rider)],
  ['random riders', RIDERS],
] as const)('%s pedal as people do', (name, riders) => {
  it('toes furthest down at 260 to 295 degrees', () => {
    for (const r of riders) {
      expect(pitchPeakDeg(r)).toBeGreaterThanOrEqual(255);
      expect(pitchPeakDeg(r)).toBeLessThanOrEqual(300);
    }
  });
  it('ankle, knee and hip through their human ranges', () => {
    for (const r of riders) {
      const t = trueFigures(r, 120);
      expect(t.ankleRangeDeg).toBeGreaterThan(12);
      expect(t.ankleRangeDeg).toBeLessThan(37);
      expect(t.kneeFlexionMaxDeg - t.kneeFlexionMinDeg).toBeGreaterThan(64);
      expect(t.kneeFlexionMaxDeg - t.kneeFlexionMinDeg).toBeLessThan(85);
      expect(t.hipAngleMaxDeg - t.hipAngleMinDeg).toBeGreaterThan(36);
      expect(t.hipAngleMaxDeg - t.hipAngleMinDeg).toBeLessThan(53);
    }
  });
  it('the hip rises a little, its sticker by the skin much more', () => {
    for (const r of riders) {
      const [bone, sticker] = [around(r, (p) => p.joints.hip.y), around(r, (p) => hipStickerMm(r, p).y)].map(
        swing,
      );
      expect(bone).toBeGreaterThanOrEqual(4.5);
      expect(bone).toBeLessThanOrEqual(12.5);
      expect(sticker).toBeGreaterThan(16);
      expect(sticker).toBeLessThan(34);
    }
  });
  it(`from stroke to stroke at random, not periodic (${name})`, () => {
    for (const r of riders.slice(0, 8)) {
      const at = (n: number): number => {
        const tS = (60 * n) / r.cadenceRpm;
        return poseAt(r, 180, tS).footPitchDeg;
      };
      const pitches = Array.from({ length: 40 }, (_, n) => at(n));
      expect(sd(pitches)).toBeGreaterThan(0.6);
      expect(sd(pitches)).toBeLessThan(2.4);
      const turns = Array.from({ length: 30 }, (_, n) => {
        const t = (k: number): number => (60 * k) / r.cadenceRpm;
        return (crankAngleDeg(r, t(n + 1)) - crankAngleDeg(r, t(n))) / 360;
      });
      expect(sd(turns)).toBeGreaterThan(0.004);
      expect(sd(turns)).toBeLessThan(0.035);
    }
  });
});

describe('comfortable riders', () => {
  it('sit where the handbook has them, three in four of those that are drawn', () => {
    for (const r of RIDERS) {
      const t = trueFigures(r, 120);
      expect(t.kneeFlexionMinDeg).toBeGreaterThan(35.3);
      expect(t.kneeFlexionMinDeg).toBeLessThan(39.7);
      expect(t.kneeOverSpindleMm).toBeGreaterThan(-18.5);
      expect(t.kneeOverSpindleMm).toBeLessThan(-1.5);
      expect(t.effectiveSeatAngleDeg).toBeGreaterThan(73);
      expect(t.effectiveSeatAngleDeg).toBeLessThan(78.5);
    }
    const random = seededRandom(2);
    const taken = Array.from({ length: 120 }, () => comfortable(random)).filter(Boolean).length;
    expect(taken / 120).toBeGreaterThan(0.6);
  });
  it('off the bike and on again they sit a little elsewhere, the hands near where they were', () => {
    const random = seededRandom(6);
    const r = RIDERS[0];
    const again = Array.from({ length: 120 }, () => satAnew(r, random));
    expect(sd(again.map((a) => a.hipMm.x))).toBeGreaterThan(3);
    expect(sd(again.map((a) => a.hipMm.x))).toBeLessThan(5);
    expect(sd(again.map((a) => a.footPitchMeanDeg))).toBeGreaterThan(1);
    const hands = again.map((a) => Math.hypot(hoodMm(a).x - hoodMm(r).x, hoodMm(a).y - hoodMm(r).y));
    expect(Math.max(...hands)).toBeLessThan(60);
    expect(sd(again.map((a) => trueFigures(a, 36).elbowFlexionDeg))).toBeLessThan(2.6);
    const knees = again.map((a) => trueFigures(a, 72).kneeFlexionMinDeg);
    expect(sd(knees)).toBeGreaterThan(0.7);
    expect(sd(knees)).toBeLessThan(2);
  });
  it('left is not right, and no two bodies are one', () => {
    const random = seededRandom(8);
    const off = Math.abs(otherLeg(RIDERS[0], random).footPitchMeanDeg - RIDERS[0].footPitchMeanDeg);
    expect(off).toBeGreaterThan(0.9);
    expect(off).toBeLessThan(3.1);
    expect(randomBody(random).thighMm).not.toBe(randomBody(random).thighMm);
  });
});

it('wandering has unit spread, and is the same again for the same seed', () => {
  const v = Array.from({ length: 4000 }, (_, i) => wander(3, 'pitch', i * 1.37));
  expect(sd(v)).toBeGreaterThan(0.85);
  expect(sd(v)).toBeLessThan(1.15);
  expect(wander(3, 'pitch', 12.4)).toBe(wander(3, 'pitch', 12.4));
  expect(wander(4, 'pitch', 12.4)).not.toBe(wander(3, 'pitch', 12.4));
});

it('a film shows the hip’s sticker where the skin has it', () => {
  const rider = { ...RIDERS[0], wanderDeg: 0, unevenness: 0 };
  const f = filmed({ rider, seconds: 1 });
  const pose = poseAt(rider, crankAngleDeg(rider, f.tS[30]), f.tS[30]);
  expect(f.landmarks.hip.xPx[30]).toBeCloseTo(600 + hipStickerMm(rider, pose).x / 2.75, 6);
});
