import { describe, expect, it } from 'vitest';
import { CAST_ON_BONE as CAST } from '../../sim/cast.ts';
import { filmed, FILMED_MM_PER_PX } from '../../sim/filmed.ts';
import { fitBody, USUAL_HABITS } from '../model/bodyModel.ts';
import { NO_EFFECTS } from '../model/effects.ts';
import { forecastOf, preparedOnce } from '../model/forecast.ts';
import { judgeReading } from '../protocol/measures.ts';
import { PROTOCOLS } from '../protocol/protocols.ts';
import { ANGLE_KEYS, landmarksOf } from './angles.ts';
import { SIDE_LANDMARKS, type SideLandmark } from '../landmarks/landmarks.ts';
import { readTracks, type Reading } from './read.ts';
import { cutStrokes, framesByStroke } from './strokes.ts';
import type { Tracks } from '../tracking/tracks.ts';

const rider = { ...CAST[0].scene.rider, wanderDeg: 0 };
const protocol = PROTOCOLS[0];

function without(keys: readonly SideLandmark[], from = 0, tracks: Tracks = filmed({ rider })): Tracks {
  const landmarks = { ...tracks.landmarks };
  for (const key of keys) {
    const { xPx, yPx, confidence } = landmarks[key];
    landmarks[key] = { xPx: xPx.slice().fill(NaN, from), yPx: yPx.slice().fill(NaN, from), confidence };
  }
  return { ...tracks, landmarks };
}

function read(tracks: Tracks): Reading {
  const r = readTracks(tracks, { mmPerPx: FILMED_MM_PER_PX, crankMm: rider.crankMm });
  if (!r.ok) throw new Error(r.detail);
  return r;
}

const whole = read(filmed({ rider }));
const measured = judgeReading(whole, protocol);
/** Knee per millimetre of saddle, by the model. */
const kneeByHeight = (r: Reading): number => {
  const got = forecastOf(preparedOnce(fitBody(r, 'right', 73)), {
    measured,
    fx: { ...NO_EFFECTS, sitMm: { x: 0, y: 10 } },
    habits: USUAL_HABITS,
  });
  if (!got.ok) throw new Error('out of reach');
  const knee = got.measures.find((m) => m.key === 'kneeFlexionMinDeg')!;
  return knee.after - knee.before;
};

describe.each(SIDE_LANDMARKS)('without the %s', (lost) => {
  const r = read(without([lost]));
  it('only what hangs on it is lost', () => {
    expect(r.standIns).toEqual([lost]);
    for (const key of ANGLE_KEYS) expect(Boolean(r.angles[key]), key).toBe(!landmarksOf(key).includes(lost));
    for (const m of judgeReading(r, protocol)) {
      const before = measured.find((q) => q.key === m.key)!;
      // The toe tells the crank's turn: made up from the heel it shifts what is read at a crank angle a little.
      expect(Math.abs(m.value - before.value), m.key).toBeLessThan(lost === 'toe' ? 1.5 : 0.3);
    }
    const heights = r.body.heelHeightMm;
    expect(heights === null).toBe(lost === 'heel');
    expect(r.body.kneeOverSpindleMm === null).toBe(lost === 'knee' || lost === 'toe');
    expect(r.body.effectiveSeatAngleDeg === null).toBe(lost === 'hip');
  });
  it('the crank stands', () => {
    expect(r.usedStrokes).toBe(whole.usedStrokes);
    expect(Math.hypot(r.crank.centrePx.x - 600, r.crank.centrePx.y - 500)).toBeLessThan(
      lost === 'toe' ? 4 : 0.5,
    );
    expect(Math.abs(r.cadenceRpm / whole.cadenceRpm - 1)).toBeLessThan(0.003);
  });
  // A made-up knee bends as the usual rider’s does, this one’s saddle is too low: no knee is quoted from it.
  it('the model answers nearly as it does with it', () => {
    expect(Math.abs(kneeByHeight(r) / kneeByHeight(whole) - 1)).toBeLessThan(lost === 'knee' ? 0.4 : 0.2);
  });
});

it('with hip and knee gone the leg can’t be told, and that is said in plain words', () => {
  const r = readTracks(without(['hip', 'knee']), { mmPerPx: FILMED_MM_PER_PX });
  expect(r).toMatchObject({ ok: false, reason: 'landmark-missing' });
  if (!r.ok) expect(r.detail).toContain('hip, knee');
});

it('a film of the legs alone gives the legs', () => {
  const r = read(without(['shoulder', 'elbow', 'wrist']));
  expect(Object.keys(r.angles)).toEqual(['kneeFlexionDeg', 'ankleAngleDeg', 'footPitchDeg']);
  expect(judgeReading(r, protocol).map((m) => m.key)).toContain('kneeFlexionMinDeg');
});

it('a heel lost half way through costs no stroke', () => {
  const r = read(without(['heel'], 200));
  expect(r.usedStrokes).toBe(whole.usedStrokes);
  expect(r.angles.kneeFlexionDeg!.min).toBeCloseTo(whole.angles.kneeFlexionDeg!.min, 0);
  expect(r.angles.footPitchDeg!.curve.mean).toBeCloseTo(whole.angles.footPitchDeg!.curve.mean, 0);
  expect(r.angles.footPitchDeg!.perStroke.length).toBeLessThan(r.usedStrokes);
});

describe('few turns', () => {
  const turnS = 60 / rider.cadenceRpm;
  it.each([1.1, 1.9, 2.4])('%s turns give a provisional reading, wherever they begin', (turns) => {
    for (const startThetaDeg of [10, 100, 200, 300]) {
      const tracks = filmed({ rider: { ...rider, startThetaDeg }, seconds: turns * turnS });
      const r = read(tracks);
      expect(r.provisional).toBe(true);
      expect(r.usedStrokes).toBeGreaterThanOrEqual(1);
      const knee = r.angles.kneeFlexionDeg!;
      expect(Math.abs(knee.min - whole.angles.kneeFlexionDeg!.min)).toBeLessThan(0.6);
      expect(Math.abs(knee.perStroke[0].at90 - whole.angles.kneeFlexionDeg!.at['90'])).toBeLessThan(1);
    }
  });
  it('pieces of strokes are told apart from whole ones, and from standing still', () => {
    const tS = Array.from({ length: 400 }, (_, i) => i / 100);
    // 90 rpm from 20° on; lost for a tenth of a second, and from 3 s the crank stands.
    const theta = tS.map((t) => (t > 1.5 && t < 1.6 ? NaN : 20 + 540 * Math.min(t, 3)));
    const used = cutStrokes(theta, tS).filter((s) => !s.fault);
    expect(used.map((s) => s.startDeg)).toEqual([360, 1080]);
    const of = framesByStroke(theta, tS, used);
    expect([of[0], of[100], of[140], of[155], of[170], of[250], of[295], of[350]]).toEqual([
      2, 0, 3, -1, 4, 1, 5, -1,
    ]);
  });
});
