import { describe, expect, it } from 'vitest';
import { CAST_ON_BONE as CAST, stillPose, trueCadenceRpm } from '../../sim/cast.ts';
import { filmed, FILMED_MM_PER_PX, type Filming } from '../../sim/filmed.ts';
import { gaussian, seededRandom } from '../../sim/random.ts';
import { ANGLE_KEYS, jointAngleDeg } from './angles.ts';
import { SIDE_LANDMARKS } from '../landmarks/landmarks.ts';
import { fromPlane, scaleFromAxles, toPlane } from '../camera/plane.ts';
import { readTracks, type Reading, type ReadResult } from './read.ts';
import { cutStrokes } from './strokes.ts';
import type { Tracks } from '../tracking/tracks.ts';
import { angleSdDeg } from './uncertainty.ts';

const MM_PER_PX = FILMED_MM_PER_PX;

/** The first of the cast on film, unless it is stated otherwise. */
const film = (f: Partial<Filming> = {}): Tracks => filmed({ rider: CAST[0].scene.rider, ...f });

function mustRead(result: ReadResult): Reading {
  if (!result.ok) throw new Error(result.detail);
  return result;
}

describe('a film the wrong way round', () => {
  const tracks = film();
  it('played backwards is said so', () => {
    const end = tracks.tS[tracks.tS.length - 1];
    const back = <T extends { slice(): T; reverse(): T }>(a: T): T => a.slice().reverse();
    const landmarks = Object.fromEntries(
      Object.entries(tracks.landmarks).map(([key, l]) => [key, { ...l, xPx: back(l.xPx), yPx: back(l.yPx) }]),
    ) as Tracks['landmarks'];
    const reversed: Tracks = { ...tracks, tS: back(tracks.tS).map((t) => end - t), landmarks };
    expect(readTracks(reversed, { mmPerPx: MM_PER_PX })).toMatchObject({ ok: false, reason: 'backwards' });
  });
  it('facing the other way than it is set is said so', () => {
    const facing = mustRead(readTracks(tracks, { mmPerPx: MM_PER_PX })).map.facing;
    const wrong = facing === 'right' ? 'left' : 'right';
    expect(readTracks(tracks, { mmPerPx: MM_PER_PX, facing: wrong })).toMatchObject({ reason: 'backwards' });
  });
});

describe('a reading of known truth', () => {
  it.each(['right', 'left'] as const)('agrees with the virtual rider, facing %s', (facing) => {
    const rider = { ...CAST[0].scene.rider, wanderDeg: 0 };
    const r = mustRead(readTracks(film({ rider, facing }), { mmPerPx: MM_PER_PX }));
    expect(r.map.facing).toBe(facing);
    expect(r.usedStrokes).toBe(8);
    expect(Math.abs(r.cadenceRpm / trueCadenceRpm(rider, 7) - 1)).toBeLessThan(0.002);
    expect(Math.hypot(r.crank.centrePx.x - 600, r.crank.centrePx.y - 500)).toBeLessThan(0.3);
    expect(r.crank.measuredMm).toBeCloseTo(172.5, 0);
    expect(r.crank.spindleFromToeMm.y).toBeCloseTo(-24, 0);
    for (const key of ANGLE_KEYS) {
      for (const at of [0, 90, 180, 270] as const) {
        const truth = jointAngleDeg(key, stillPose(rider, at).joints);
        expect(Math.abs(r.angles[key]!.at[`${at}`] - truth), `${key} at ${at}`).toBeLessThan(0.25);
      }
    }
    const forward = stillPose(rider, 90);
    expect(r.body.kneeOverSpindleMm!.value).toBeCloseTo(forward.joints.knee.x - forward.spindle.x, 0);
    expect(r.segmentsMm.thigh).toBeCloseTo(rider.thighMm, 0);
    expect(r.segmentsMm.ankleBehind).toBeCloseTo(rider.ankleBehindMm, 0);
    expect(r.segmentsMm.ankleAbove).toBeCloseTo(rider.ankleAboveMm, 0);
  });

  it('reads the spindle from the toe wherever the toe sticker sits', () => {
    for (const soleAboveMm of [0, 15, 30]) {
      const r = mustRead(
        readTracks(film({ rider: { ...CAST[0].scene.rider, soleAboveMm }, noisePx: 0.1 }), {
          mmPerPx: MM_PER_PX,
        }),
      );
      expect(Math.hypot(r.crank.centrePx.x - 600, r.crank.centrePx.y - 500), `${soleAboveMm}`).toBeLessThan(
        0.6,
      );
    }
  });

  it('brings the rider’s side to the crank’s length, and refuses to hide a wrong wheelbase', () => {
    const near = mustRead(readTracks(film(), { mmPerPx: MM_PER_PX * 1.035, crankMm: 172.5 }));
    expect(near.crank.ratio).toBeCloseTo(1.035, 2);
    expect(near.riderMmPerPx).toBeCloseTo(MM_PER_PX, 2);
    expect(near.segmentsMm.thigh).toBeCloseTo(418, 0);
    const wrong = mustRead(readTracks(film(), { mmPerPx: MM_PER_PX * 1.2, crankMm: 172.5 }));
    expect(wrong.riderMmPerPx).toBeCloseTo(MM_PER_PX * 1.2, 6);
  });

  it('holds its 95 % interval against localisation noise and misplaced stickers', () => {
    const rider = { ...CAST[2].scene.rider, wanderDeg: 0 };
    const truth = Math.min(
      ...Array.from({ length: 360 }, (_, d) => jointAngleDeg('kneeFlexionDeg', stillPose(rider, d).joints)),
    );
    let held = 0;
    const riders = 60;
    for (let k = 0; k < riders; k += 1) {
      const tracks = film({ rider, noisePx: 0.4, seconds: 5, rate: 30, seed: 100 + k });
      const random = seededRandom(900 + k);
      for (const key of SIDE_LANDMARKS) {
        const dx = (5 * gaussian(random)) / MM_PER_PX;
        const dy = (5 * gaussian(random)) / MM_PER_PX;
        tracks.landmarks[key].xPx.forEach((_, i, all) => (all[i] += dx));
        tracks.landmarks[key].yPx.forEach((_, i, all) => (all[i] += dy));
      }
      const { min, uncertainty } = mustRead(readTracks(tracks, { mmPerPx: MM_PER_PX })).angles
        .kneeFlexionDeg!;
      if (Math.abs(min - truth) <= uncertainty.absoluteDeg) held += 1;
    }
    expect(held / riders).toBeGreaterThan(0.87);
    expect(held / riders).toBeLessThanOrEqual(1);
  });
});

describe('strokes', () => {
  it('survives stop and go, and leaves the odd turns out', () => {
    // Four even turns, a stop of a second, backpedalling, four even turns.
    const theta = (t: number): number => {
      if (t < 3) return 500 * t;
      if (t < 4) return 1500;
      if (t < 4.5) return 1500 - 200 * (t - 4);
      return 1400 + 500 * (t - 4.5);
    };
    const r = mustRead(readTracks(film({ theta, seconds: 8 }), { mmPerPx: MM_PER_PX }));
    expect(r.strokes.some((s) => s.fault !== null)).toBe(true);
    expect(r.cadenceRpm).toBeCloseTo(500 / 6, 0);
    for (const s of r.strokes.filter((k) => !k.fault)) expect(s.endS < 3.01 || s.startS > 4.5).toBe(true);
  });
  const rider = { ...CAST[0].scene.rider, wanderDeg: 0 };
  const steady = mustRead(readTracks(film({ rider }), { mmPerPx: MM_PER_PX })).angles.kneeFlexionDeg!;
  it('survives backpedalling in the middle', () => {
    // Four turns on, one and a half back, then on again.
    const theta = (t: number): number => {
      if (t < 3) return 480 * t;
      if (t < 4.5) return 1440 - 360 * (t - 3);
      return 900 + 480 * (t - 4.5);
    };
    const r = mustRead(readTracks(film({ rider, theta, seconds: 8 }), { mmPerPx: MM_PER_PX }));
    expect(r.usedStrokes).toBeGreaterThanOrEqual(5);
    expect(r.angles.kneeFlexionDeg!.min).toBeCloseTo(steady.min, 0);
    for (const s of r.strokes.filter((k) => !k.fault)) expect(s.cadenceRpm).toBeCloseTo(80, 0);
  });
  it('reads a ramp from 60 to 110 rpm: strokes near the middle cadence count, the others are said to be off', () => {
    const theta = (t: number): number => 360 * t + (150 / 10) * t * t;
    const r = mustRead(readTracks(film({ rider, theta, seconds: 10 }), { mmPerPx: MM_PER_PX }));
    expect(r.strokes.length).toBeGreaterThanOrEqual(13);
    expect(r.strokes.some((s) => s.fault === 'cadence')).toBe(true);
    expect(r.strokes.every((s) => s.fault === null || s.fault === 'cadence')).toBe(true);
    expect(r.angles.kneeFlexionDeg!.min).toBeCloseTo(steady.min, 0);
  });
  it('reads a one-legged drill: the crank races down and crawls up', () => {
    const theta = (t: number): number => 420 * t + 28 * Math.sin((420 * t * Math.PI) / 180);
    const r = mustRead(readTracks(film({ rider, theta, seconds: 7 }), { mmPerPx: MM_PER_PX }));
    expect(r.usedStrokes).toBeGreaterThanOrEqual(7);
    expect(r.angles.kneeFlexionDeg!.min).toBeCloseTo(steady.min, 0);
    expect(r.cadenceRpm).toBeCloseTo(70, 0);
  });
  it('reads 2.3 turns only, and calls it provisional', () => {
    const theta = (t: number): number => -50 + 480 * t;
    const r = mustRead(
      readTracks(film({ rider, theta, seconds: (2.3 * 360) / 480 }), { mmPerPx: MM_PER_PX }),
    );
    expect([r.usedStrokes, r.provisional]).toEqual([2, true]);
    expect(r.angles.kneeFlexionDeg!.min).toBeCloseTo(steady.min, 0);
  });
  it('cuts whole turns only', () => {
    const t = Float64Array.from({ length: 138 }, (_, i) => i / 60);
    const strokes = cutStrokes(
      t.map((s) => 10 + 360 * s),
      t,
    );
    expect(strokes.map((s) => s.fault)).toEqual([null]);
    expect(strokes[0].endS - strokes[0].startS).toBeCloseTo(1, 6);
  });
  it('says provisional below five strokes, and why there is none', () => {
    expect(mustRead(readTracks(film({ seconds: 2.3 }), { mmPerPx: MM_PER_PX })).provisional).toBe(true);
    const still = readTracks(film({ theta: (t) => 90 + 20 * t, seconds: 5 }), { mmPerPx: MM_PER_PX });
    expect(still).toMatchObject({ ok: false });
  });
  it('bridges a hip hidden for 80 ms a stroke, and flags it; a longer loss stays a gap', () => {
    const tracks = film();
    const whole = mustRead(readTracks(tracks, { mmPerPx: MM_PER_PX }));
    for (let i = 20; i < 400; i += 43)
      for (let k = 0; k < 5; k += 1) tracks.landmarks.hip.xPx[i + k] = tracks.landmarks.hip.yPx[i + k] = NaN;
    const r = mustRead(readTracks(tracks, { mmPerPx: MM_PER_PX }));
    expect(r.landmarks.hip).toMatchObject({ bridgedFrames: 45, lostFrames: 0 });
    expect(Math.abs(r.angles.kneeFlexionDeg!.min - whole.angles.kneeFlexionDeg!.min)).toBeLessThan(0.2);
    for (let i = 200; i < 230; i += 1) tracks.landmarks.hip.xPx[i] = NaN;
    expect(mustRead(readTracks(tracks, { mmPerPx: MM_PER_PX })).landmarks.hip!.lostFrames).toBe(30);
  });
  it('takes doubled stamps and dropped frames as they come', () => {
    const tracks = film();
    tracks.tS[100] = tracks.tS[99];
    for (const key of SIDE_LANDMARKS) tracks.landmarks[key].xPx[240] = tracks.landmarks[key].yPx[240] = NaN;
    const r = mustRead(readTracks(tracks, { mmPerPx: MM_PER_PX }));
    expect(r.frames.length).toBe(tracks.tS.length - 1);
    expect(r.usedStrokes).toBe(8);
  });
});

describe('the bike plane', () => {
  it('goes to millimetres and back, for both facings and any level', () => {
    for (const facing of ['left', 'right'] as const) {
      const map = { facing, mmPerPx: 2.4, levelDeg: 1.7 };
      const p = { x: 712.3, y: 288.9 };
      const back = fromPlane(map, toPlane(map, p));
      expect(back.x).toBeCloseTo(p.x, 9);
      expect(back.y).toBeCloseTo(p.y, 9);
    }
  });
  it('takes scale, level and facing from the axles, and says what is missing', () => {
    const scale = scaleFromAxles({
      rearAxlePx: { x: 900, y: 500 },
      frontAxlePx: { x: 500, y: 493 },
      wheelbaseMm: 1000,
    });
    expect(scale).toMatchObject({ ok: true, facing: 'left' });
    if (scale.ok) {
      const map = { facing: scale.facing, mmPerPx: scale.mmPerPx, levelDeg: scale.levelDeg };
      expect(toPlane(map, { x: 900, y: 500 }).y).toBeCloseTo(toPlane(map, { x: 500, y: 493 }).y, 6);
    }
    expect(
      scaleFromAxles({ rearAxlePx: { x: 1, y: 1 }, frontAxlePx: { x: 1, y: 1 }, wheelbaseMm: 1000 }),
    ).toMatchObject({ reason: 'axles-coincide' });
    expect(
      scaleFromAxles({ rearAxlePx: { x: 1, y: 1 }, frontAxlePx: { x: 400, y: 1 }, wheelbaseMm: 0 }),
    ).toMatchObject({ reason: 'wheelbase-missing' });
  });
});

it('angle sensitivity is what moving each landmark does', () => {
  const { joints } = stillPose(CAST[0].scene.rider, 120);
  for (const key of ANGLE_KEYS) {
    let squares = 0;
    for (const name of SIDE_LANDMARKS) {
      for (const axis of ['x', 'y'] as const) {
        const at = (d: number): number =>
          jointAngleDeg(key, { ...joints, [name]: { ...joints[name], [axis]: joints[name][axis] + d } });
        squares += ((at(0.01) - at(-0.01)) / 0.02) ** 2;
      }
    }
    expect(angleSdDeg(key, joints, 1)).toBeCloseTo(Math.sqrt(squares), 5);
  }
});
