import { readFrontal } from '../../core/kinematics/readFrontal.ts';
import type { FrontalReading } from '../../core/kinematics/frontalReading.ts';
import { scaleFromWidth } from '../../core/camera/frontalScale.ts';
import { turnDeg } from '../../core/math/angles.ts';
import type { Vec2 } from '../../core/math/vec.ts';
import { mean, median } from '../../core/math/statistics.ts';
import { ANGLE_KEYS, jointAngleDeg, type AngleKey } from '../../core/kinematics/angles.ts';
import { RIGID_BONES, SIDE_LANDMARKS, type SideLandmark } from '../../core/landmarks/landmarks.ts';
import { scaleFromAxles } from '../../core/camera/plane.ts';
import { readTracks, type Reading } from '../../core/kinematics/read.ts';
import { emptyTracks, type Tracks } from '../../core/tracking/tracks.ts';
import { packedFrame } from '../../core/tracking/frame.ts';
import { startTracker, type TrackedPoint } from '../../core/tracking/tracker.ts';
import { project, wheelsInPicture } from '../../sim/camera.ts';
import type { CastMember } from '../../sim/cast.ts';
import { trueCadenceRpm } from '../../sim/cast.ts';
import { barOnPicture } from '../../sim/frontal.ts';
import {
  frameTruth,
  openCamera,
  openFilm,
  planesInto,
  toPlanes,
  type FilmCamera,
} from '../../sim/render/film.ts';
import { frontalAct, frontalStickers } from '../../sim/render/frontalScene.ts';
import { crankAngleDeg, hipStickerMm, hoodMm, poseAt, type JointKey } from '../../sim/rider.ts';
import { inRoom, shiftPx, written, type Room } from '../../sim/render/rooms.ts';
import type { FrontalVariant } from './variants.ts';

export interface LandmarkError {
  medianPx: number;
  p95Px: number;
  worstPx: number;
  lostFrames: number;
}

export interface Accuracy {
  landmarks: Record<SideLandmark, LandmarkError>;
  angleRmsDeg: Record<AngleKey, number>;
  crankCentrePx: number;
  cadencePercent: number;
  reading: Reading;
}

/** Follows the points of a film rendered in memory, from the truth on its first frame. */
function follow(
  film: FilmCamera,
  {
    framesPerS,
    frames,
    start,
    room = {},
  }: { framesPerS: number; frames: number; start: Readonly<Record<string, Vec2>>; room?: Room },
): Tracks {
  const keys = Object.keys(start);
  const tracks = emptyTracks(
    Float64Array.from({ length: frames }, (_, i) => written(room, i).stamp / framesPerS),
    keys,
  );
  const note = (i: number, points: readonly TrackedPoint[]): void =>
    keys.forEach((key, k) => {
      tracks.landmarks[key].xPx[i] = points[k].x;
      tracks.landmarks[key].yPx[i] = points[k].y;
      tracks.landmarks[key].confidence[i] = points[k].confidence;
    });
  const planes = toPlanes(film.shoot(0));
  const { width, height } = planes;
  const whole = packedFrame(planes);
  const tracker = startTracker(whole, 0, start, { bones: RIGID_BONES });
  note(
    0,
    keys.map((k) => ({ ...start[k], confidence: 1 })),
  );
  for (let i = 1; i < frames; i += 1) {
    // As on a film from disk: no more of a picture is made than the tracker says it looks at.
    const filled = tracker.lookingAt(whole, tracks.tS[i]);
    const part = filled ?? { x: 0, y: 0, width, height };
    planesInto(planes, film.shoot(i, part), part);
    note(i, tracker.step(filled ? { ...whole, filled } : whole, tracks.tS[i]));
  }
  return tracks;
}

/** Renders a film from the side in memory and follows its joints from the truth on its first frame. */
export function trackRendered({ scene, film }: CastMember, frames: number, room: Room = {}): Tracks {
  const camera = openFilm(scene, film);
  const start = frameTruth(scene, film, 0).joints;
  if (Object.keys(room).length === 0) return follow(camera, { framesPerS: film.framesPerS, frames, start });
  const by = shiftPx(room, 0);
  const moved = Object.fromEntries(
    Object.entries(start).map(([key, p]) => [key, { x: p.x + by.x, y: p.y + by.y }]),
  );
  return follow(inRoom(camera, room, film), { framesPerS: film.framesPerS, frames, start: moved, room });
}

/** What was read from ahead or behind, less the truth. */
export interface FrontalAccuracy {
  medianPx: number;
  p95Px: number;
  lostFrames: number;
  crankAngleDeg: number;
  pathMm: [left: number, right: number];
  kneeOverFootMm: [left: number, right: number];
  stanceMm: number;
  pelvisDeg: number;
  reading: FrontalReading;
}

/** Renders a film from ahead or behind, follows it and compares its reading with the truth. */
export function frontalAccuracy({ scene, film, frames }: FrontalVariant): FrontalAccuracy {
  const truth = Array.from({ length: frames }, (_, i) => frontalStickers(scene, i / film.framesPerS));
  const tracks = follow(openCamera(frontalAct(scene), film), {
    framesPerS: film.framesPerS,
    frames,
    start: truth[0],
  });
  const errors: number[] = [];
  let lostFrames = 0;
  for (const [key, track] of Object.entries(tracks.landmarks))
    for (let i = 1; i < frames; i += 1) {
      const miss = Math.hypot(track.xPx[i] - truth[i][key].x, track.yPx[i] - truth[i][key].y);
      if (Number.isFinite(miss)) errors.push(miss);
      else lostFrames += 1;
    }
  errors.sort((a, b) => a - b);
  const hood = hoodMm(scene.rider);
  const bar = { x: hood.x - 60, y: hood.y - 30, widthMm: scene.barWidthMm };
  const scale = scaleFromWidth({
    of: 'bar',
    mm: scene.barWidthMm,
    ...barOnPicture(scene.camera, scene.view, bar),
  });
  if (!scale.ok) throw new Error(scale.reason);
  const { widthPx, heightPx } = scene.camera;
  const reading = readFrontal(tracks, {
    view: scene.view,
    centrePx: { x: widthPx / 2, y: heightPx / 2 },
    width: { ...scale, aheadMm: bar.x },
    crankMm: scene.rider.crankMm,
  });
  if (!reading.ok) throw new Error(reading.detail);
  const { body } = scene;
  const out = (side: 'left' | 'right') => {
    const { mean: middle, waves } = body.kneeOutMm[side];
    return { middle, width: 2 * waves.reduce((s, h) => s + h.amplitude, 0) };
  };
  const { left, right } = reading.legs;
  const off = [...reading.thetaDeg].map((t, i) => turnDeg(t, crankAngleDeg(scene.rider, reading.tS[i])));
  return {
    medianPx: median(errors),
    p95Px: errors[Math.floor(0.95 * errors.length)],
    lostFrames,
    crankAngleDeg: median(off.filter(Number.isFinite)),
    pathMm: [left.pathWidthMm.value - out('left').width, right.pathWidthMm.value - out('right').width],
    kneeOverFootMm: [
      left.kneeOverFootMm.curve.mean - out('left').middle,
      right.kneeOverFootMm.curve.mean - out('right').middle,
    ],
    stanceMm: reading.stanceMm.value - body.stanceMm,
    pelvisDeg: (reading.pelvis?.meanDeg ?? NaN) - body.pelvisTiltDeg.mean,
    reading,
  };
}

/** How far tracks and their reading are from what the virtual rider really did. */
export function compareWithTruth(member: CastMember, tracks: Tracks, room: Room = {}): Accuracy {
  const { scene, film } = member;
  const frames = tracks.tS.length;
  const truth = Array.from({ length: frames }, (_, i) => {
    const seen = frameTruth(scene, film, written(room, i).shows);
    const by = shiftPx(room, seen.tS);
    const joints = { ...seen.joints };
    for (const [key, p] of Object.entries(joints) as [JointKey, Vec2][])
      joints[key] = { x: p.x + by.x, y: p.y + by.y };
    return { ...seen, joints };
  });
  const landmarks = {} as Accuracy['landmarks'];
  const repeats = truth.map((_, i) => i > 0 && written(room, i).shows === written(room, i - 1).shows);
  for (const key of SIDE_LANDMARKS) {
    const track = tracks.landmarks[key];
    const errors: number[] = [];
    for (let i = 1; i < frames; i += 1) {
      if (repeats[i]) continue;
      const miss = Math.hypot(track.xPx[i] - truth[i].joints[key].x, track.yPx[i] - truth[i].joints[key].y);
      if (Number.isFinite(miss)) errors.push(miss);
    }
    const sorted = [...errors].sort((a, b) => a - b);
    landmarks[key] = {
      medianPx: median(errors),
      p95Px: sorted[Math.floor(0.95 * sorted.length)],
      worstPx: sorted[sorted.length - 1],
      lostFrames: frames - 1 - repeats.filter(Boolean).length - errors.length,
    };
  }
  const wheels = wheelsInPicture(scene.camera, scene.bike);
  const scale = scaleFromAxles({
    rearAxlePx: wheels.rear,
    frontAxlePx: wheels.front,
    wheelbaseMm: scene.bike.frontAxle.x - scene.bike.rearAxle.x,
    rims: wheels,
    centrePx: { x: scene.camera.widthPx / 2, y: scene.camera.heightPx / 2 },
  });
  if (!scale.ok) throw new Error('the virtual bike must have a wheelbase');
  const reading = readTracks(tracks, { ...scale, crankMm: scene.rider.crankMm });
  if (!reading.ok) throw new Error(`no reading: ${reading.detail}`);
  const used = reading.strokes.filter((s) => !s.fault);
  const angleRmsDeg = {} as Accuracy['angleRmsDeg'];
  for (const key of ANGLE_KEYS) {
    const squares: number[] = [];
    reading.tS.forEach((t, i) => {
      if (!used.some((s) => t >= s.startS && t < s.endS)) return;
      // What the stickers say: the trochanter's slides with the skin.
      // A frame written twice is left out, and what is read there is of its own moment.
      const pose = poseAt(scene.rider, crankAngleDeg(scene.rider, t), t);
      const joints = { ...pose.joints, hip: hipStickerMm(scene.rider, pose) };
      const miss = (reading.frameAnglesDeg[key]?.[i] ?? NaN) - jointAngleDeg(key, joints);
      if (Number.isFinite(miss)) squares.push(miss * miss);
    });
    angleRmsDeg[key] = Math.sqrt(mean(squares));
  }
  // The pedal circle lies in the foot's plane, nearer the camera than the frame: its centre is seen there.
  const centre = project(scene.camera, { x: 0, y: 0 }, 172);
  const whole = { from: used[0].startS, to: used[used.length - 1].endS };
  const trueCadence =
    (trueCadenceRpm(scene.rider, whole.to) * whole.to -
      trueCadenceRpm(scene.rider, whole.from) * whole.from) /
    (whole.to - whole.from);
  return {
    landmarks,
    angleRmsDeg,
    crankCentrePx: Math.hypot(reading.crank.centrePx.x - centre.x, reading.crank.centrePx.y - centre.y),
    cadencePercent: 100 * Math.abs(reading.cadenceRpm / trueCadence - 1),
    reading,
  };
}
