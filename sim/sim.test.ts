import { describe, expect, it } from 'vitest';
import type { Vec2 } from '../core/math/vec.ts';
import { ridden, type Felt } from './answer.ts';
import { project, wheelsInPicture, type Camera } from './camera.ts';
import { CAST_ON_BONE as CAST } from './cast.ts';
import { MAT_CELL_MM, MAT_COLUMNS, MAT_ROWS, matAt, trainerAt, type Riding } from './devices.ts';
import { filmed, FILMED_MM_PER_PX } from './filmed.ts';
import { FRONTAL_BODY, frontalPlaces } from './frontal.ts';
import { gaussian, seededRandom } from './random.ts';
import { crankAngleDeg, extrasOf, footToPlane, hoodMm, poseAt, type VirtualRider } from './rider.ts';

// Everything is measured against these riders: what they do has to be right by itself.
const RIDERS: [string, VirtualRider][] = CAST.map((m) => [m.id, m.scene.rider]);
const apart = (a: Vec2, b: Vec2): number => Math.hypot(a.x - b.x, a.y - b.y);
const TURN = Array.from({ length: 72 }, (_, i) => 5 * i);

describe('random numbers', () => {
  it('are the same for the same seed, others for another, and even', () => {
    const [a, b, c] = [seededRandom(3), seededRandom(3), seededRandom(4)];
    const draw = (r: () => number): number[] => Array.from({ length: 2000 }, r);
    const first = draw(a);
    expect(draw(b)).toEqual(first);
    expect(draw(c)).not.toEqual(first);
    expect(first.reduce((s, v) => s + v, 0) / 2000).toBeCloseTo(0.5, 1);
    expect(Math.min(...first)).toBeGreaterThanOrEqual(0);
    expect(Math.max(...first)).toBeLessThan(1);
  });
  it('the normal ones have the mean nothing and the spread one', () => {
    const random = seededRandom(8);
    const list = Array.from({ length: 8000 }, () => gaussian(random));
    const mean = list.reduce((s, v) => s + v, 0) / list.length;
    expect(mean).toBeCloseTo(0, 1);
    expect(list.reduce((s, v) => s + (v - mean) ** 2, 0) / list.length).toBeCloseTo(1, 1);
  });
});

describe('a virtual rider', () => {
  for (const [id, r] of RIDERS)
    it(`${id}: limbs keep their lengths all round, the foot its pedal, the hand its hood, the knee bends forward`, () => {
      for (const theta of TURN) {
        const { joints: j, spindle, footPitchDeg } = poseAt(r, theta, 1.7);
        expect(apart(j.hip, j.knee)).toBeCloseTo(r.thighMm, 6);
        expect(apart(j.knee, j.ankle)).toBeCloseTo(r.shankMm, 6);
        expect(apart(j.shoulder, j.elbow)).toBeCloseTo(r.upperArmMm, 6);
        expect(apart(j.elbow, j.wrist)).toBeCloseTo(r.forearmMm, 6);
        expect(apart(j.hip, j.shoulder)).toBeCloseTo(r.trunkMm, 6);
        expect(apart(j.ankle, spindle)).toBeCloseTo(Math.hypot(r.ankleBehindMm, r.ankleAboveMm), 6);
        expect(Math.hypot(spindle.x, spindle.y)).toBeCloseTo(r.crankMm, 9);
        expect(j.wrist).toEqual(hoodMm(r));
        // Ahead of the line from hip to ankle.
        const cross =
          (j.ankle.x - j.hip.x) * (j.knee.y - j.hip.y) - (j.ankle.y - j.hip.y) * (j.knee.x - j.hip.x);
        expect(cross).toBeGreaterThan(0);
        expect(j.toe).toEqual(footToPlane(spindle, footPitchDeg, r.toeAheadMm ?? 0, r.soleAboveMm));
      }
    });
  it('pedals clockwise from the right: crank up at 0°, forward at 90°', () => {
    const [, r] = RIDERS[0];
    expect(poseAt(r, 0, 0).spindle.y).toBeCloseTo(r.crankMm, 9);
    expect(poseAt(r, 90, 0).spindle.x).toBeCloseTo(r.crankMm, 9);
    expect(crankAngleDeg(r, 10) - crankAngleDeg(r, 0)).toBeGreaterThan(0);
    expect((crankAngleDeg(r, 60) - crankAngleDeg(r, 0)) / 360).toBeCloseTo(r.cadenceRpm, 0);
  });
  it('toe-down is plus: the heel rises as the pitch grows', () => {
    const at = (pitch: number): number => footToPlane({ x: 0, y: 0 }, pitch, -150, 0).y;
    expect(at(20)).toBeGreaterThan(at(10));
  });
  it('that is impossible is refused, not drawn', () => {
    const [, r] = RIDERS[0];
    expect(() => poseAt({ ...r, shankMm: 200 }, 180, 0)).toThrow('leg cannot reach');
  });
  it('the further points ride along with trunk and hand', () => {
    const [, r] = RIDERS[0];
    const [a, b] = [poseAt(r, 20, 0), poseAt(r, 200, 0)];
    const from = (p: typeof a): number => apart(extrasOf(p).c7!, p.joints.shoulder);
    expect(from(a)).toBeCloseTo(from(b), 6);
    expect(extrasOf(a).spindle).toEqual(a.spindle);
  });
});

describe('the answer to a changed bike', () => {
  const still: Felt = {
    sitMm: { x: 0, y: 0 },
    handMm: { x: 0, y: 0 },
    crankMm: 0,
    cleatBackMm: 0,
    stackMm: 0,
  };
  for (const [id, r] of RIDERS)
    it(`${id}: nothing changed, nothing answers; a saddle that is higher is shared out between foot and knee`, () => {
      const same = ridden(r, still, { kappa: 0.4, rho: 0.5 })!;
      for (const theta of TURN) {
        const [p, q] = [poseAt(r, theta, 0).joints, poseAt(same, theta, 0).joints];
        for (const key of ['hip', 'knee', 'ankle', 'elbow'] as const)
          expect(apart(p[key], q[key])).toBeLessThan(0.01);
      }
      const up = { ...still, sitMm: { x: -2, y: 8 }, handMm: { x: 0, y: 8 } };
      const pitches = [0, 0.3, 0.6].map(
        (kappa) => ridden(r, up, { kappa, rho: 0 })!.footPitchMeanDeg - r.footPitchMeanDeg,
      );
      expect(pitches[0]).toBeCloseTo(0, 4);
      expect(pitches[1]).toBeGreaterThan(0);
      expect(pitches[2]).toBeGreaterThan(pitches[1]);
    });
  it('an arm that is pulled straight pulls the trunk down, and reaches the hood all round', () => {
    const [, r] = RIDERS[0];
    let backDeg = r.backDeg;
    for (const far of [40, 80, 120]) {
      const then = ridden(r, { ...still, handMm: { x: far, y: -far / 4 } }, { kappa: 0, rho: 0 });
      if (!then) break;
      for (const theta of TURN) expect(() => poseAt(then, theta, 0)).not.toThrow();
      expect(then.backDeg).toBeLessThanOrEqual(backDeg + 1e-9);
      backDeg = then.backDeg;
    }
    expect(backDeg).toBeLessThan(r.backDeg - 1);
    expect(ridden(r, { ...still, sitMm: { x: 0, y: 90 } }, { kappa: 0, rho: 0.5 })).toBeNull();
  });
});

describe('the camera', () => {
  const camera: Camera = {
    widthPx: 1280,
    heightPx: 720,
    distanceMm: 4000,
    mmPerPx: 2.5,
    aimMm: { x: 100, y: 300 },
    centreShare: { x: 0.5, y: 0.5 },
    yawDeg: 0,
    rollDeg: 0,
    facing: 'right',
  };
  it('square on, a plane is drawn to scale, and what is nearer looks larger', () => {
    expect(project(camera, camera.aimMm, 0)).toMatchObject({ x: 640, y: 360 });
    const p = project(camera, { x: 350, y: 550 }, 0);
    expect([p.x, p.y]).toEqual([640 + 250 / 2.5, 360 - 250 / 2.5]);
    expect(project(camera, { x: 350, y: 550 }, 200).pxPerMm).toBeCloseTo(4000 / 2.5 / 3800, 9);
    const left = project({ ...camera, facing: 'left' }, { x: 350, y: 550 }, 0);
    expect(left.x).toBe(640 - 250 / 2.5);
  });
  it('rolled, the picture turns about its middle; turned, the far wheel looks smaller', () => {
    const p = project({ ...camera, rollDeg: 90 }, { x: 350, y: 300 }, 0);
    expect(p.x).toBeCloseTo(640, 6);
    expect(Math.abs(p.y - 360)).toBeCloseTo(100, 6);
    const w = wheelsInPicture(
      { ...camera, yawDeg: 6 },
      { rearAxle: { x: -430, y: 70 }, frontAxle: { x: 600, y: 70 }, wheelRadiusMm: 340 },
    );
    const tall = (top: Vec2, bottom: Vec2): number => apart(top, bottom);
    expect(tall(w.rearTop, w.rearBottom)).not.toBeCloseTo(tall(w.frontTop, w.frontBottom), 0);
  });
  it('a perfect film gives back the pose, whichever way the bike faces', () => {
    const [, rider] = RIDERS[0];
    for (const facing of ['left', 'right'] as const) {
      const { tS, landmarks } = filmed({ rider, seconds: 0.5, facing });
      expect(tS.length).toBe(30);
      const pose = poseAt(rider, crankAngleDeg(rider, tS[12]), tS[12]).joints;
      const sign = facing === 'left' ? -1 : 1;
      expect(sign * (landmarks.knee.xPx[12] - landmarks.hip.xPx[12])).toBeCloseTo(
        (pose.knee.x - pose.hip.x) / FILMED_MM_PER_PX,
        6,
      );
      expect(landmarks.hip.yPx[12] - landmarks.knee.yPx[12]).toBeCloseTo(
        (pose.knee.y - pose.hip.y) / FILMED_MM_PER_PX,
        6,
      );
    }
  });
});

describe('from ahead', () => {
  const [, rider] = RIDERS[0];
  it('a level body is level, and every joint has its partner across the middle', () => {
    const level = {
      ...FRONTAL_BODY,
      pelvisTiltDeg: { mean: 0, waves: [] },
      hipShiftMm: { mean: 0, waves: [] },
    };
    const places = frontalPlaces({ rider, body: level, view: 'front' }, { thetaDeg: 30, tS: 0 });
    expect(places.hipR.y).toBeCloseTo(places.hipL.y, 9);
    expect(places.hipR.right).toBeCloseTo(-places.hipL.right, 9);
    expect(places.hipR.right - places.hipL.right).toBeCloseTo(level.hipWidthMm, 9);
  });
  it('a pelvis that leans is higher on the left by its sine', () => {
    const leaning = { ...FRONTAL_BODY, pelvisTiltDeg: { mean: 4, waves: [] } };
    const places = frontalPlaces({ rider, body: leaning, view: 'rear' }, { thetaDeg: 0, tS: 0 });
    expect(places.hipL.y - places.hipR.y).toBeCloseTo(leaning.hipWidthMm * Math.sin((4 * Math.PI) / 180), 6);
  });
});

describe('the simulated devices', () => {
  const [, rider] = RIDERS[0];
  const riding: Riding = {
    rider,
    powerW: 180,
    leftPercent: 48,
    massKg: 70,
    tiltDeg: 0,
    widthMm: 150,
    sitBonesMm: 110,
    leftByMm: 0,
    seed: 5,
  };
  const mean = (list: readonly number[]): number => list.reduce((s, v) => s + v, 0) / list.length;
  const times = Array.from({ length: 200 }, (_, i) => i / 4);
  it('a trainer tells power, cadence and share about what they are, and the same when asked again', () => {
    const read = times.map((t) => trainerAt(riding, t));
    expect(mean(read.map((r) => r.powerW))).toBeCloseTo(180, -1);
    expect(mean(read.map((r) => r.cadenceRpm))).toBeCloseTo(rider.cadenceRpm, 0);
    expect(mean(read.map((r) => r.leftPercent!))).toBeCloseTo(48, 0);
    expect(trainerAt(riding, 3.25)).toEqual(trainerAt(riding, 3.25));
  });
  const load = (of: Riding): { all: number; front: number; left: number } => {
    let [all, front, left] = [0, 0, 0];
    for (const t of times.slice(0, 60)) {
      const { gridKPa } = matAt(of, t);
      expect(gridKPa).toHaveLength(MAT_ROWS);
      for (const [row, cells] of gridKPa.entries()) {
        expect(cells).toHaveLength(MAT_COLUMNS);
        for (const [column, kPa] of cells.entries()) {
          expect(kPa).toBeGreaterThanOrEqual(0);
          all += kPa;
          if (row < MAT_ROWS / 2) front += kPa;
          if (column < MAT_COLUMNS / 2) left += kPa;
        }
      }
    }
    return { all: all / 60, front: front / all, left: left / all };
  };
  it('a mat bears a good part of the weight, alike on both sides over whole turns', () => {
    const { all, left } = load(riding);
    const newtons = all * 1000 * (MAT_CELL_MM / 1000) ** 2;
    expect(newtons).toBeGreaterThan(0.3 * 70 * 9.81);
    expect(newtons).toBeLessThan(0.6 * 70 * 9.81);
    expect(left).toBeGreaterThan(0.44);
    expect(left).toBeLessThan(0.56);
  });
  it('a nose that points down loads the front, sitting to the left the left', () => {
    expect(load({ ...riding, tiltDeg: -6 }).front).toBeGreaterThan(load(riding).front + 0.05);
    expect(load({ ...riding, leftByMm: 8 }).left).toBeGreaterThan(load(riding).left + 0.05);
  });
});
