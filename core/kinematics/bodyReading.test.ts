import { describe, expect, it } from 'vitest';
import { CAST_ON_BONE as CAST } from '../../sim/cast.ts';
import { filmed, FILMED_MM_PER_PX } from '../../sim/filmed.ts';
import { crankAngleDeg, extrasOf, poseAt, type VirtualRider } from '../../sim/rider.ts';
import { sidesCompared } from '../protocol/asymmetry.ts';
import { studentT95 } from '../math/statistics.ts';
import { balanceOf } from './balance.ts';
import { readTracks, type Reading } from './read.ts';

function read(rider: VirtualRider, more: Partial<Parameters<typeof filmed>[0]> = {}): Reading {
  const r = readTracks(filmed({ rider, extras: true, ...more }), {
    mmPerPx: FILMED_MM_PER_PX,
    crankMm: rider.crankMm,
  });
  if (!r.ok) throw new Error(r.detail);
  return r;
}

/** Mean over the turn of something of the true pose. */
const meanOf = (rider: VirtualRider, of: (t: number) => number): number => {
  const turn = 60 / rider.cadenceRpm;
  const n = 200;
  return Array.from({ length: n }, (_, k) => of((k / n) * turn)).reduce((s, v) => s + v, 0) / n;
};
const poseOf = (rider: VirtualRider, t: number) =>
  poseAt({ ...rider, wanderDeg: 0 }, crankAngleDeg(rider, t), 0);

describe('the optional points', () => {
  it.each(CAST.map((m) => [m.id, m] as const))(
    'give pelvis, head, back and grip as the pose has them: %s',
    (_, m) => {
      const rider = { ...m.scene.rider, wanderDeg: 0 };
      const r = read(rider, { facing: m.scene.camera.facing });
      const at = (t: number) => ({ ...poseOf(rider, t).joints, ...extrasOf(poseOf(rider, t)) });
      const { body } = r;
      expect(r.angles.pelvisAngleDeg!.curve.mean).toBeCloseTo(
        meanOf(
          rider,
          (t) => (Math.atan2(at(t).asis.y - at(t).sacrum.y, at(t).asis.x - at(t).sacrum.x) * 180) / Math.PI,
        ),
        0,
      );
      expect(Math.abs(body.handAheadMm!.value - meanOf(rider, (t) => at(t).hand.x))).toBeLessThan(1);
      expect(
        Math.abs(body.handAboveElbowMm!.value - meanOf(rider, (t) => at(t).hand.y - at(t).elbow.y)),
      ).toBeLessThan(1);
      expect(
        Math.abs(
          body.shoulderAboveMidBackMm!.value -
            meanOf(rider, (t) => at(t).shoulder.y - (at(t).c7.y + at(t).sacrum.y) / 2),
        ),
      ).toBeLessThan(1);
      const top = (t: number) => at(t).head.y + 130 - Math.max(at(t).shoulder.y, at(t).c7.y, at(t).sacrum.y);
      expect(Math.abs(body.headAboveBackMm!.value - meanOf(rider, top))).toBeLessThan(1);
      expect(
        Math.abs(
          body.seenHeightMm!.value -
            meanOf(rider, (t) => at(t).shoulder.y - at(t).hip.y + Math.max(0, top(t))),
        ),
      ).toBeLessThan(1);
    },
  );
  it('are not needed: what hangs on them is left out, and nothing else', () => {
    const r = read(CAST[0].scene.rider, { extras: false });
    expect(r.angles.pelvisAngleDeg).toBeUndefined();
    expect(r.body.headDropMm).toBeNull();
    expect(r.body.seenHeightMm).toBeNull();
    expect(r.angles.forearmAngleDeg!.curve.mean).toBeGreaterThan(0);
  });
  it('the spindle, where it is marked, gives the crank itself', () => {
    const { rider } = CAST[1].scene;
    const r = read(rider, { facing: 'left' });
    expect(r.crank.spindleFromToeMm.x).toBeNaN();
    expect(Math.abs(r.crank.measuredMm - rider.crankMm)).toBeLessThan(0.3);
  });
});

describe('distances', () => {
  const { rider } = CAST[0].scene;
  it('heel, hip and seat angle are the pose’s own', () => {
    const r = read(rider);
    const heels = Array.from(
      { length: 360 },
      (_, d) => poseAt({ ...rider, wanderDeg: 0 }, d, 0).joints.heel.y,
    );
    expect(Math.abs(r.body.heelHeightMm!.least.value - Math.min(...heels))).toBeLessThan(2);
    expect(Math.abs(r.body.heelHeightMm!.most.value - Math.max(...heels))).toBeLessThan(2);
    const { x, y } = rider.hipMm;
    expect(r.body.effectiveSeatAngleDeg!.value).toBeCloseTo((Math.atan2(y, -x) * 180) / Math.PI, 0);
  });
  it('the parts of a ± add up to it, and stickers drop out of a change', () => {
    const { uncertainty: u } = read(rider, { noisePx: 0.3 }).body.kneeOverSpindleMm!;
    const sum = Math.hypot(
      u.localisationMm,
      u.stickerMm,
      u.skinMm,
      u.levelMm,
      u.rideMm,
      u.strokesMm,
      u.pictureMm,
    );
    expect(u.absoluteMm).toBeCloseTo(1.96 * sum, 9);
    expect(u.changeMm).toBeLessThan(u.absoluteMm);
    expect(u.stickerMm).toBeGreaterThan(u.localisationMm);
  });
  it('a rider who wanders more is told apart by steadiness', () => {
    const calm = read({ ...rider, wanderDeg: 0 });
    const loose = read({ ...rider, wanderDeg: 3 });
    expect(loose.body.paths.heel!.steadinessMm).toBeGreaterThan(3 * calm.body.paths.heel!.steadinessMm);
  });
  it('the mean curve lies closer than single strokes do, by Student’s t', () => {
    const a = read({ ...rider, wanderDeg: 2 }).angles.kneeFlexionDeg!;
    const n = a.perStroke.length;
    const i = 40;
    expect(a.ciOnGrid[i]).toBeCloseTo((studentT95(n - 1) * a.sdOnGrid[i]) / Math.sqrt(n), 9);
    expect(a.perStroke.every((s) => s.min <= s.at180 && s.max >= s.at0)).toBe(true);
  });
});

it('Student’s t against the tables', () => {
  for (const [df, t] of [
    [1, 12.706],
    [5, 2.571],
    [12, 2.179],
    [30, 2.042],
    [120, 1.98],
  ])
    expect(Math.abs(studentT95(df) - t)).toBeLessThan(0.004);
});

describe('balance', () => {
  const known = { powerW: 150, massKg: 70 };
  it('a lower trunk puts more on the hands, pedalling takes some off', () => {
    const { rider } = CAST[0].scene;
    const upright = balanceOf(read({ ...rider, backDeg: 55, shoulderDeg: 75 }), known)!;
    const low = balanceOf(read({ ...rider, backDeg: 30 }), known)!;
    expect(low.centreMm.x).toBeGreaterThan(upright.centreMm.x + 40);
    expect(low.handsShare).toBeGreaterThan(upright.handsShare + 0.03);
    const hard = balanceOf(read({ ...rider, backDeg: 30 }), { ...known, powerW: 350 })!;
    expect(hard.handsShare).toBeLessThan(low.handsShare);
    expect(low.handsLow).toBeLessThan(low.handsShare);
    expect(low.handsHigh).toBeGreaterThan(low.handsShare);
  });
  it('every demo rider bears 5 to 40 % on the hands, and what was taken for granted is said', () => {
    for (const m of CAST) {
      const b = balanceOf(read(m.scene.rider, { extras: false }), { powerW: null, massKg: null })!;
      expect(b.handsShare, m.id).toBeGreaterThan(0.05);
      expect(b.handsShare, m.id).toBeLessThan(0.4);
      expect(b.assumed.join()).toMatch(/75 kg/);
    }
  });
  it('moments about the sit bones add up', () => {
    const r = read(CAST[2].scene.rider);
    const b = balanceOf(r, known)!;
    const sit = r.body.paths.hip!.x.curve.mean - 20;
    const hand = r.body.paths.hand!.x.curve.mean;
    const own = 0.118;
    const push = b.feetShare - own;
    const moment =
      b.handsShare * (hand - sit) + push * ((2 * r.segmentsMm.crank) / Math.PI - sit) + own * (0 - sit);
    expect(moment).toBeCloseTo(b.centreMm.x - sit, 6);
  });
});

describe('left against right', () => {
  const { rider } = CAST[0].scene;
  it('alike when both are', () => {
    const rows = sidesCompared(read(rider, { seed: 3 }), read(rider, { seed: 4 }));
    expect(rows.map((r) => r.verdict)).toEqual(['alike', 'alike', 'alike']);
  });
  it('worth a look beyond threshold and noise, within noise between them', () => {
    const low = { ...rider, hipMm: { x: rider.hipMm.x, y: rider.hipMm.y - 48 } };
    const slightly = { ...rider, hipMm: { x: rider.hipMm.x, y: rider.hipMm.y - 15 } };
    const knee = (other: VirtualRider) => sidesCompared(read(other), read(rider))[0];
    expect(knee(low)).toMatchObject({ key: 'kneeFlexionMinDeg', verdict: 'worth-a-look' });
    expect(knee(low).by).toBeGreaterThan(5);
    expect(['alike', 'within-noise']).toContain(knee(slightly).verdict);
  });
});
