import { describe, expect, it } from 'vitest';
import { CAST_ON_BONE as CAST } from '../../sim/cast.ts';
import type { Camera } from '../../sim/camera.ts';
import {
  barOnPicture,
  filmedFrontal,
  FRONTAL_BODY,
  frontalPlaces,
  type FrontalBody,
} from '../../sim/frontal.ts';
import { turnDeg } from '../math/angles.ts';
import { crankAngleDeg } from '../../sim/rider.ts';
import { notFinite } from './notFinite.fixture.ts';
import { readFrontal } from './readFrontal.ts';
import type { FrontalReading } from './frontalReading.ts';
import { NO_WIDTH, scaleFromWidth } from '../camera/frontalScale.ts';

const { rider } = CAST[0].scene;
const camera = (c: Partial<Camera> = {}): Camera => ({
  widthPx: 1280,
  heightPx: 720,
  distanceMm: 4200,
  mmPerPx: 2.2,
  aimMm: { x: 0, y: 420 },
  centreShare: { x: 0.5, y: 0.5 },
  yawDeg: 0,
  rollDeg: 0,
  facing: 'right',
  ...c,
});
const centrePx = { x: 640, y: 360 };
const BAR = { x: 470, y: 600, widthMm: 420 };

function read(
  view: 'front' | 'rear',
  of: {
    body?: Partial<FrontalBody>;
    camera?: Partial<Camera>;
    noisePx?: number;
    bar?: boolean;
    crankMm?: number;
  } = {},
): FrontalReading {
  const cam = camera(of.camera);
  const tracks = filmedFrontal({
    rider,
    body: { ...FRONTAL_BODY, ...of.body },
    view,
    camera: cam,
    seconds: 7,
    rate: 60,
    noisePx: of.noisePx,
  });
  const ends = barOnPicture(cam, view, BAR);
  const scale = scaleFromWidth({ of: 'bar', mm: BAR.widthMm, ...ends });
  if (!scale.ok) throw new Error(scale.reason);
  const result = readFrontal(tracks, {
    view,
    centrePx,
    width: of.bar === false ? null : { ...scale, aheadMm: BAR.x },
    crankMm: 'crankMm' in of ? of.crankMm : rider.crankMm,
  });
  if (!result.ok) throw new Error(result.detail);
  return result;
}

describe('scaleFromWidth', () => {
  it('gives scale and tilt, whichever end is on which side of the picture', () => {
    const a = scaleFromWidth({ of: 'bar', mm: 400, right: { x: 100, y: 300 }, left: { x: 300, y: 310 } });
    const b = scaleFromWidth({ of: 'bar', mm: 400, left: { x: 100, y: 300 }, right: { x: 300, y: 310 } });
    expect(a).toEqual(b);
    expect(a.ok && a.mmPerPx).toBeCloseTo(400 / Math.hypot(200, 10), 6);
    expect(a.ok && a.tiltDeg).toBeCloseTo(2.862, 2);
  });
  it('says what is missing', () => {
    expect(scaleFromWidth(NO_WIDTH)).toEqual({ ok: false, reason: 'points-missing' });
    const at = { right: { x: 5, y: 5 }, left: { x: 6, y: 5 } };
    expect(scaleFromWidth({ of: 'hub', mm: 130, ...at })).toEqual({ ok: false, reason: 'points-coincide' });
    expect(scaleFromWidth({ of: 'hub', mm: null, right: at.right, left: { x: 90, y: 5 } })).toEqual({
      ok: false,
      reason: 'width-missing',
    });
  });
});

describe('readFrontal', () => {
  it.each(['front', 'rear'] as const)('finds the crank’s turn from the %s', (view) => {
    const r = read(view);
    const off = [...r.thetaDeg].map((t, i) => turnDeg(t, crankAngleDeg(rider, r.tS[i]))).slice(30, -30);
    const mean = off.reduce((s, v) => s + v, 0) / off.length;
    expect(Math.abs(mean)).toBeLessThan(2);
    expect(Math.max(...off.map((v) => Math.abs(v - mean)))).toBeLessThan(3);
    expect(r.cadenceRpm).toBeCloseTo(84, 0);
    expect(r.usedStrokes).toBeGreaterThanOrEqual(8);
  });
  it.each(['front', 'rear'] as const)(
    'reads knee path, stance and pelvis from the %s within some millimetres',
    (view) => {
      const body: Partial<FrontalBody> = {
        stanceMm: 250,
        kneeOutMm: {
          right: { mean: -8, waves: [{ order: 1, amplitude: 22, phaseDeg: 150 }] },
          left: { mean: 12, waves: [{ order: 1, amplitude: 8, phaseDeg: 100 }] },
        },
        pelvisTiltDeg: { mean: 2.5, waves: [{ order: 1, amplitude: 3, phaseDeg: 90 }] },
        hipShiftMm: { mean: 14, waves: [{ order: 1, amplitude: 8, phaseDeg: 60 }] },
      };
      const r = read(view, { body, noisePx: 0.2 });
      expect(Math.abs(r.legs.right.pathWidthMm.value - 44)).toBeLessThan(3);
      expect(Math.abs(r.legs.left.pathWidthMm.value - 16)).toBeLessThan(3);
      expect(Math.abs(r.legs.right.kneeOverFootMm.curve.mean + 8)).toBeLessThan(4);
      expect(Math.abs(r.legs.left.kneeOverFootMm.curve.mean - 12)).toBeLessThan(4);
      expect(Math.abs(r.stanceMm.value - 250)).toBeLessThan(4);
      expect(Math.abs(r.pelvis!.meanDeg - 2.5)).toBeLessThan(0.4);
      expect(Math.abs(r.pelvis!.swingDeg - 6)).toBeLessThan(0.6);
      expect(Math.abs(r.hipShiftMm!.mean.value - 14)).toBeLessThan(4);
      // The knee comes furthest in on the same part of the turn as the rider's own.
      const truth = Array.from({ length: 72 }, (_, k) => ({
        k: 5 * k,
        out: frontalPlaces({ rider, body: { ...FRONTAL_BODY, ...body }, view }, { thetaDeg: 5 * k, tS: 0 })
          .kneeR.right,
      }));
      const furthest = truth.reduce((a, b) => (b.out < a.out ? b : a)).k;
      expect(Math.abs(turnDeg(r.legs.right.kneeLateralMm.minAtThetaDeg, furthest))).toBeLessThan(8);
    },
  );
  it('takes the picture’s tilt out, and tells the distance from how much larger the bar looks', () => {
    const straight = read('front');
    const rolled = read('front', { camera: { rollDeg: 2 } });
    expect(rolled.tiltDeg).toBeCloseTo(2, 1);
    expect(rolled.pelvis!.meanDeg).toBeCloseTo(straight.pelvis!.meanDeg, 1);
    expect(Math.abs(straight.distanceMm! / 4200 - 1)).toBeLessThan(0.2);
  });
  it('goes by the crank alone, and by the width alone', () => {
    const both = read('front');
    const crank = read('front', { bar: false });
    const width = read('front', { crankMm: undefined });
    expect(crank.scaleFrom).toBe('crank');
    expect(Math.abs(crank.stanceMm.value - both.stanceMm.value)).toBeLessThan(3);
    expect(width.scaleFrom).toBe('width');
    // The bar stands half a metre nearer: a width alone reads what is at the feet too small.
    expect(width.stanceMm.value / both.stanceMm.value).toBeGreaterThan(0.85);
    expect(width.stanceMm.value / both.stanceMm.value).toBeLessThan(0.95);
  });
  it('says why there is nothing to read', () => {
    const tracks = filmedFrontal({
      rider,
      body: FRONTAL_BODY,
      view: 'front',
      camera: camera(),
      seconds: 3,
      rate: 60,
    });
    const rest = { ...tracks.landmarks };
    delete rest.kneeR;
    const options = { view: 'front', centrePx, crankMm: 170 } as const;
    expect(readFrontal({ tS: tracks.tS, landmarks: rest }, options)).toMatchObject({
      reason: 'landmark-missing',
    });
    expect(readFrontal(tracks, { view: 'front', centrePx })).toMatchObject({ reason: 'no-scale' });
    const still = { ...tracks.landmarks, toeR: tracks.landmarks.toeL };
    expect(readFrontal({ tS: tracks.tS, landmarks: still }, options)).toMatchObject({ reason: 'no-stroke' });
    const short = Object.fromEntries(
      Object.entries(tracks.landmarks).map(([k, t]) => [
        k,
        { xPx: t.xPx.slice(0, 8), yPx: t.yPx.slice(0, 8), confidence: t.confidence.slice(0, 8) },
      ]),
    );
    expect(readFrontal({ tS: tracks.tS.slice(0, 8), landmarks: short }, options)).toMatchObject({
      reason: 'too-few-frames',
    });
  });
});

describe('a short film from ahead, or a landmark seen in a part of it', () => {
  const cam = camera();
  const filmedFor = (seconds: number): ReturnType<typeof filmedFrontal> =>
    filmedFrontal({ rider, body: FRONTAL_BODY, view: 'front', camera: cam, seconds, rate: 60 });
  it('gives finite figures, or none with a reason', () => {
    let counted = 0;
    for (const seconds of [0.4, 0.8, 1, 1.2, 1.5, 2, 3]) {
      const whole = filmedFor(seconds);
      for (const key of [null, ...Object.keys(whole.landmarks)])
        for (const first of [8, 30]) {
          const landmarks = Object.fromEntries(
            Object.entries(whole.landmarks).map(([name, t]) => [
              name,
              name === key
                ? { ...t, xPx: t.xPx.slice().fill(NaN, first), yPx: t.yPx.slice().fill(NaN, first) }
                : t,
            ]),
          );
          const r = readFrontal(
            { ...whole, landmarks },
            { view: 'front', centrePx, width: null, crankMm: rider.crankMm },
          );
          if (r.ok) {
            counted += 1;
            expect(notFinite(r), `${seconds} s, ${key} in ${first} frames`).toEqual([]);
          } else expect(r.detail.length).toBeGreaterThan(10);
        }
    }
    expect(counted).toBeGreaterThan(20);
  });
});
