import { readFrontal } from '../../core/kinematics/readFrontal.ts';
import { scaleFromWidth } from '../../core/camera/frontalScale.ts';
import type { Vec2 } from '../../core/math/vec.ts';
import { mean } from '../../core/math/statistics.ts';
import type { FrontalLandmark } from '../../core/landmarks/landmarks.ts';
import { frontalStickerSdMm, type Measured } from '../../core/kinematics/uncertainty.ts';
import type { Camera } from '../../sim/camera.ts';
import { CAST } from '../../sim/cast.ts';
import {
  barOnPicture,
  filmedFrontal,
  FRONTAL_BODY,
  frontalPlaces,
  type FrontalBody,
} from '../../sim/frontal.ts';
import { gaussian, seededRandom } from '../../sim/random.ts';
import { hoodMm } from '../../sim/rider.ts';

export const FRONTAL_FIGURES = [
  'path width',
  'knee over foot, pushing',
  'knee off the line, pushing',
  'stance',
  'pelvis, mean',
  'shoulders, mean',
  'hips across, mean',
] as const;
type Figure = (typeof FRONTAL_FIGURES)[number];

export interface FrontalCoverage {
  riders: number;
  cases: number;
  held: number;
  byFigure: Record<Figure, { held: number; rms: number; halfWidth: number }>;
}

const SECONDS = 5;

/** Reads many random riders from ahead and behind through random cameras and compares each figure with the truth. */
export function coverageFrontal(riders: number, seed: number): FrontalCoverage {
  const random = seededRandom(seed);
  const sums = Object.fromEntries(
    FRONTAL_FIGURES.map((k) => [k, { n: 0, held: 0, square: 0, width: 0 }]),
  ) as Record<Figure, { n: number; held: number; square: number; width: number }>;
  const note = (key: Figure, got: number, is: number, half: number): void => {
    const s = sums[key];
    s.n += 1;
    s.square += (got - is) ** 2;
    s.width += half;
    if (Math.abs(got - is) <= half) s.held += 1;
  };
  for (let done = 0; done < riders; done += 1) {
    const base = CAST[Math.floor(random() * CAST.length)].scene.rider;
    const rider = { ...base, cadenceRpm: 60 + 50 * random(), wanderDeg: 1.5 * random() };
    const view = random() < 0.5 ? 'front' : 'rear';
    const knee = (): FrontalBody['kneeOutMm']['left'] => ({
      mean: 14 * gaussian(random),
      waves: [{ order: 1, amplitude: 4 + 18 * random(), phaseDeg: 360 * random() }],
    });
    const body: FrontalBody = {
      ...FRONTAL_BODY,
      stanceMm: 240 + 50 * random(),
      hipWidthMm: 300 + 70 * random(),
      shoulderWidthMm: 330 + 80 * random(),
      kneeOutMm: { left: knee(), right: knee() },
      pelvisTiltDeg: {
        mean: 1.5 * gaussian(random),
        waves: [{ order: 1, amplitude: 3 * random(), phaseDeg: 80 }],
      },
      shoulderTiltDeg: 1.5 * gaussian(random),
      hipShiftMm: {
        mean: 8 * gaussian(random),
        waves: [{ order: 1, amplitude: 8 * random(), phaseDeg: 60 }],
      },
    };
    const camera: Camera = {
      widthPx: 1280,
      heightPx: 720,
      distanceMm: 3500 + 2500 * random(),
      mmPerPx: 2 + 0.6 * random(),
      aimMm: { x: 0, y: 300 + 300 * random() },
      centreShare: { x: 0.5, y: 0.5 },
      // Whoever stands ahead of the bike sees the wheels in one line: 1.5° off is seen by eye.
      yawDeg: 1.5 * gaussian(random),
      rollDeg: 0.8 * gaussian(random),
      facing: 'right',
    };
    const stickers: Record<string, Vec2> = {};
    for (const key of Object.keys(frontalPlaces({ rider, body, view }, { thetaDeg: 0, tS: 0 }))) {
      const sd = frontalStickerSdMm(key as FrontalLandmark);
      stickers[key] = { x: sd * gaussian(random), y: sd * gaussian(random) };
    }
    const tracks = filmedFrontal({
      rider,
      body,
      view,
      camera,
      seconds: SECONDS,
      rate: [30, 60, 120][Math.floor(3 * random())],
      noisePx: 0.1 + 0.4 * random(),
      stickerOffMm: stickers,
      seed: done + 7,
    });
    const hood = hoodMm(rider);
    const bar = { x: hood.x - 60, y: hood.y - 30, widthMm: 420 };
    const ends = barOnPicture(camera, view, bar);
    const pointed = (p: Vec2): Vec2 => ({ x: p.x + 0.5 * gaussian(random), y: p.y + 0.5 * gaussian(random) });
    const scale = scaleFromWidth({
      of: 'bar',
      mm: 420,
      right: pointed(ends.right),
      left: pointed(ends.left),
    });
    if (!scale.ok) throw new Error(scale.reason);
    const read = readFrontal(tracks, {
      view,
      centrePx: { x: 640, y: 360 },
      // How level the bar stood, and how far ahead of the bottom bracket, is known only so well.
      width: {
        ...scale,
        tiltDeg: scale.tiltDeg + 0.3 * gaussian(random),
        aheadMm: bar.x + 40 * gaussian(random),
      },
      crankMm: rider.crankMm,
    });
    if (!read.ok) throw new Error(read.detail);
    const places = Array.from({ length: 180 }, (_, k) =>
      frontalPlaces({ rider: { ...rider, wanderDeg: 0 }, body, view }, { thetaDeg: 2 * k, tS: 0 }),
    );
    const own = (letter: 'R' | 'L', k: number) => places[(k + (letter === 'R' ? 0 : 90)) % 180];
    for (const [letter, side, sign] of [
      ['R', 'right', 1],
      ['L', 'left', -1],
    ] as const) {
      const across = (key: string, k: number): number => sign * own(letter, k)[`${key}${letter}`].right;
      const all = Array.from({ length: 180 }, (_, k) => across('knee', k));
      const push = Array.from({ length: 91 }, (_, k) => k);
      const leg = read.legs[side];
      const put = (key: Figure, m: Measured | null, is: number): void => {
        if (m) note(key, m.value, is, m.uncertainty.absoluteMm);
      };
      put('path width', leg.pathWidthMm, Math.max(...all) - Math.min(...all));
      put(
        'knee over foot, pushing',
        leg.kneeOverFootPushMm,
        mean(push.map((k) => across('knee', k) - across('toe', k))),
      );
      put(
        'knee off the line, pushing',
        leg.kneeOffLinePushMm,
        mean(
          push.map((k) => {
            const at = own(letter, k);
            const [h, n, t] = [at[`hip${letter}`], at[`knee${letter}`], at[`toe${letter}`]];
            return sign * (n.right - (t.right + ((h.right - t.right) * (n.y - t.y)) / (h.y - t.y)));
          }),
        ),
      );
    }
    note('stance', read.stanceMm.value, body.stanceMm, read.stanceMm.uncertainty.absoluteMm);
    note('pelvis, mean', read.pelvis!.meanDeg, body.pelvisTiltDeg.mean, read.pelvis!.absoluteDeg);
    note('shoulders, mean', read.shoulders!.meanDeg, body.shoulderTiltDeg, read.shoulders!.absoluteDeg);
    const shift = read.hipShiftMm!.mean;
    note('hips across, mean', shift.value, body.hipShiftMm.mean, shift.uncertainty.absoluteMm);
  }
  const all = Object.values(sums);
  const cases = all.reduce((n, s) => n + s.n, 0);
  return {
    riders,
    cases,
    held: all.reduce((n, s) => n + s.held, 0) / cases,
    byFigure: Object.fromEntries(
      FRONTAL_FIGURES.map((k) => {
        const s = sums[k];
        return [k, { held: s.held / s.n, rms: Math.sqrt(s.square / s.n), halfWidth: s.width / s.n }];
      }),
    ) as FrontalCoverage['byFigure'],
  };
}
