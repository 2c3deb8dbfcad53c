import { mean, median } from '../../core/signal/statistics.ts';
import { ANGLE_KEYS, jointAngleDeg, type AngleKey } from '../../core/stroke/angles.ts';
import { SIDE_BONES, SIDE_LANDMARKS, type SideLandmark } from '../../core/stroke/landmarks.ts';
import { scaleFromAxles } from '../../core/stroke/plane.ts';
import { readTracks, type Reading } from '../../core/stroke/read.ts';
import { emptyTracks, type Tracks } from '../../core/stroke/tracks.ts';
import { packedFrame } from '../../core/tracking/frame.ts';
import { startTracker, type Tracker } from '../../core/tracking/tracker.ts';
import { project, wheelsInPicture } from '../../sim/camera.ts';
import type { CastMember } from '../../sim/cast.ts';
import { trueCadenceRpm } from '../../sim/cast.ts';
import { frameTruth, openFilm, toPlanes } from '../../sim/render/film.ts';
import { poseAt } from '../../sim/rider.ts';

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

/** Renders a film in memory and follows its joints from the truth on its first frame. */
export function trackRendered(member: CastMember, frames: number): Tracks {
  const film = openFilm(member.scene, member.film);
  const tracks = emptyTracks(
    Float64Array.from({ length: frames }, (_, i) => i / member.film.framesPerS),
    SIDE_LANDMARKS,
  );
  let tracker: Tracker | null = null;
  for (let i = 0; i < frames; i += 1) {
    const p = toPlanes(film.shoot(i));
    const frame = packedFrame(p.width, p.height, p.y, p.u, p.v);
    const truth = frameTruth(member.scene, member.film, i).joints;
    tracker ??= startTracker(frame, 0, truth, SIDE_BONES);
    const points =
      i === 0
        ? SIDE_LANDMARKS.map((k) => ({ ...truth[k], confidence: 1 }))
        : tracker.step(frame, tracks.tS[i]);
    SIDE_LANDMARKS.forEach((key, k) => {
      const at = i === 0 ? truth[key] : points[tracker!.keys.indexOf(key)];
      tracks.landmarks[key].xPx[i] = at.x;
      tracks.landmarks[key].yPx[i] = at.y;
      tracks.landmarks[key].confidence[i] = points[k].confidence;
    });
  }
  return tracks;
}

/** How far tracks and their reading are from what the virtual rider really did. */
export function compareWithTruth(member: CastMember, tracks: Tracks): Accuracy {
  const { scene, film } = member;
  const frames = tracks.tS.length;
  const truth = Array.from({ length: frames }, (_, i) => frameTruth(scene, film, i));
  const landmarks = {} as Accuracy['landmarks'];
  for (const key of SIDE_LANDMARKS) {
    const track = tracks.landmarks[key];
    const errors: number[] = [];
    for (let i = 1; i < frames; i += 1) {
      const miss = Math.hypot(track.xPx[i] - truth[i].joints[key].x, track.yPx[i] - truth[i].joints[key].y);
      if (Number.isFinite(miss)) errors.push(miss);
    }
    const sorted = [...errors].sort((a, b) => a - b);
    landmarks[key] = {
      medianPx: median(errors),
      p95Px: sorted[Math.floor(0.95 * sorted.length)],
      worstPx: sorted[sorted.length - 1],
      lostFrames: frames - 1 - errors.length,
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
      const { joints } = poseAt(scene.rider, truth[i].thetaDeg, truth[i].tS);
      const miss = reading.frameAnglesDeg[key][i] - jointAngleDeg(key, joints);
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
