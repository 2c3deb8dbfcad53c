import type { Vec2 } from '../../core/math/vec.ts';
import { ANGLE_KEYS, type AngleKey } from '../../core/kinematics/angles.ts';
import { SIDE_LANDMARKS, type SideLandmark } from '../../core/landmarks/landmarks.ts';
import { scaleFromAxles } from '../../core/camera/plane.ts';
import { readTracks, type Reading } from '../../core/kinematics/read.ts';
import { emptyTracks, type Tracks } from '../../core/tracking/tracks.ts';
import { project, wheelsInPicture, type Camera } from '../../sim/camera.ts';
import { CAST } from '../../sim/cast.ts';
import { turnedWithLimb } from '../../sim/filmed.ts';
import { satAnew, stickOn } from '../../sim/human.ts';
import { gaussian, seededRandom } from '../../sim/random.ts';
import { crankAngleDeg, footToPlane, hipStickerMm, poseAt, type VirtualRider } from '../../sim/rider.ts';

/** How often the 95 % interval holds the truth, over many random riders, cameras and stickers. */
export interface Coverage {
  riders: number;
  cases: number;
  /** Share of all cases, and of each angle's, in which the interval holds the truth. */
  held: number;
  byAngle: Record<AngleKey, { held: number; rmsDeg: number; halfWidthDeg: number }>;
}

/** Where each joint's sticker stands towards the camera from the bike's plane, mm. */
const DEPTH_MM: Record<SideLandmark, number> = {
  hip: 165,
  knee: 150,
  ankle: 155,
  heel: 155,
  toe: 165,
  shoulder: 190,
  elbow: 215,
  wrist: 225,
};
const SECONDS = 5;

/** A rider unlike the others: one of the cast with every measure shifted; null where such a body can't sit on its bike. */
function randomRider(random: () => number): VirtualRider | null {
  const base = CAST[Math.floor(random() * CAST.length)].scene.rider;
  const by = (share: number): number => 1 + share * (2 * random() - 1);
  const rider: VirtualRider = {
    ...base,
    thighMm: base.thighMm * by(0.05),
    shankMm: base.shankMm * by(0.05),
    hipMm: { x: base.hipMm.x + 15 * gaussian(random), y: base.hipMm.y - 30 * random() },
    backDeg: base.backDeg + 5 * gaussian(random),
    elbowFlexionDeg: Math.max(8, base.elbowFlexionDeg + 6 * gaussian(random)),
    cadenceRpm: 60 + 50 * random(),
    wanderDeg: 1.5 * random(),
  };
  try {
    for (let k = 0; k < 40 * SECONDS; k += 1) poseAt(rider, crankAngleDeg(rider, k / 40), k / 40);
    for (let d = 0; d < 360; d += 3)
      poseAt({ ...rider, wanderDeg: 0, footPitchMeanDeg: rider.footPitchMeanDeg + 2.5 }, d, 0);
    return rider;
  } catch {
    return null;
  }
}

interface Setting {
  camera: Camera;
  rate: number;
  noisePx: number;
  stickers: Record<SideLandmark, Vec2>;
}

/** What a tracker leaves: every joint's sticker in the picture, with the noise of finding it. */
function tracksOf(rider: VirtualRider, s: Setting, random: () => number): Tracks {
  const n = Math.round(SECONDS * s.rate);
  const tracks = emptyTracks(
    Float64Array.from({ length: n }, (_, i) => i / s.rate),
    SIDE_LANDMARKS,
  );
  tracks.tS.forEach((t, i) => {
    const pose = poseAt(rider, crankAngleDeg(rider, t), t);
    for (const key of SIDE_LANDMARKS) {
      const off = turnedWithLimb(s.stickers[key], key, pose);
      const joint = key === 'hip' ? hipStickerMm(rider, pose) : pose.joints[key];
      const p = project(s.camera, { x: joint.x + off.x, y: joint.y + off.y }, DEPTH_MM[key]);
      const track = tracks.landmarks[key];
      track.xPx[i] = p.x + s.noisePx * gaussian(random);
      track.yPx[i] = p.y + s.noisePx * gaussian(random);
      track.confidence[i] = 1;
    }
  });
  return tracks;
}

/** The same rider's angles from the joints themselves. */
function truthOf(rider: VirtualRider): Reading {
  const rate = 60;
  const tracks = emptyTracks(
    Float64Array.from({ length: SECONDS * rate }, (_, i) => i / rate),
    [...SIDE_LANDMARKS, 'spindle'],
  );
  tracks.tS.forEach((t, i) => {
    const pose = poseAt(rider, crankAngleDeg(rider, t), t);
    const points = { ...pose.joints, spindle: footToPlane(pose.spindle, 0, 0, 0) };
    for (const [key, p] of Object.entries(points)) {
      tracks.landmarks[key].xPx[i] = p.x;
      tracks.landmarks[key].yPx[i] = -p.y;
      tracks.landmarks[key].confidence[i] = 1;
    }
  });
  const read = readTracks(tracks, { mmPerPx: 1, facing: 'right' });
  if (!read.ok) throw new Error(`The truth can’t be read: ${read.detail}`);
  return read;
}

/** What the films are made with: stickers so many times as far off as assumed, and whether the trochanter's skin slides. */
export interface Assumed {
  stickers?: number;
  skin?: boolean;
}

/** Reads many random riders through random cameras and compares each figure with the truth. */
export function coverage(riders: number, seed: number, of: Assumed = {}): Coverage {
  const random = seededRandom(seed);
  const sums = Object.fromEntries(
    ANGLE_KEYS.map((k) => [k, { n: 0, held: 0, square: 0, width: 0 }]),
  ) as Record<AngleKey, { n: number; held: number; square: number; width: number }>;
  let done = 0;
  while (done < riders) {
    const rider = randomRider(random);
    if (!rider) continue;
    const facing = random() < 0.5 ? 'left' : 'right';
    const camera: Camera = {
      widthPx: 1280,
      heightPx: 720,
      distanceMm: 3500 + 2500 * random(),
      mmPerPx: 2.4 + 0.6 * random(),
      aimMm: { x: 60, y: 250 },
      centreShare: { x: 0.5, y: 0.5 },
      yawDeg: 10 * random() - 5,
      rollDeg: 0.8 * gaussian(random),
      facing,
    };
    const stickers = stickOn(random, of.stickers ?? 1);
    const setting: Setting = {
      camera,
      rate: [30, 60, 120][Math.floor(3 * random())],
      noisePx: 0.1 + 0.4 * random(),
      stickers,
    };
    const wheels = wheelsInPicture(camera, {
      rearAxle: { x: -410, y: 70 },
      frontAxle: { x: 600, y: 70 },
      wheelRadiusMm: 340,
    });
    const pointed = (p: Vec2): Vec2 => ({ x: p.x + 0.5 * gaussian(random), y: p.y + 0.5 * gaussian(random) });
    const scale = scaleFromAxles({
      rearAxlePx: pointed(wheels.rear),
      frontAxlePx: pointed(wheels.front),
      wheelbaseMm: 1010,
      rims: {
        rearTop: pointed(wheels.rearTop),
        rearBottom: pointed(wheels.rearBottom),
        frontTop: pointed(wheels.frontTop),
        frontBottom: pointed(wheels.frontBottom),
      },
      centrePx: { x: 640, y: 360 },
    });
    if (!scale.ok) throw new Error(scale.reason);
    const read = readTracks(
      tracksOf(satAnew(of.skin === false ? { ...rider, hipSkinMm: 0 } : rider, random), setting, random),
      {
        ...scale,
        // How level the bike itself stood nobody sees.
        levelDeg: scale.levelDeg + 0.3 * gaussian(random),
        crankMm: rider.crankMm,
      },
    );
    if (!read.ok) throw new Error(read.detail);
    const truth = truthOf(rider);
    for (const key of ANGLE_KEYS) {
      const half = read.angles[key]!.uncertainty.absoluteDeg;
      const pairs = [
        [read.angles[key]!.min, truth.angles[key]!.min],
        [read.angles[key]!.max, truth.angles[key]!.max],
        [read.angles[key]!.curve.mean, truth.angles[key]!.curve.mean],
      ];
      for (const [got, is] of pairs) {
        const s = sums[key];
        s.n += 1;
        s.square += (got - is) ** 2;
        s.width += half;
        if (Math.abs(got - is) <= half) s.held += 1;
      }
    }
    done += 1;
  }
  const all = Object.values(sums);
  const cases = all.reduce((n, s) => n + s.n, 0);
  return {
    riders,
    cases,
    held: all.reduce((n, s) => n + s.held, 0) / cases,
    byAngle: Object.fromEntries(
      ANGLE_KEYS.map((k) => {
        const s = sums[k];
        return [k, { held: s.held / s.n, rmsDeg: Math.sqrt(s.square / s.n), halfWidthDeg: s.width / s.n }];
      }),
    ) as Coverage['byAngle'],
  };
}
