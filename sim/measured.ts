import { elevationDeg, insideAngleDeg, RAD_PER_DEG } from '../core/math/angles.ts';
import { poseAt, type VirtualRider } from './rider.ts';

/** What a rider truly does, by the handbook's definitions, without the wander from stroke to stroke. Degrees and mm. */
export interface TrueFigures {
  kneeFlexionMinDeg: number;
  kneeFlexionMaxDeg: number;
  hipAngleMinDeg: number;
  hipAngleMaxDeg: number;
  backAngleDeg: number;
  shoulderAngleDeg: number;
  elbowFlexionDeg: number;
  footPitch90Deg: number;
  footPitch180Deg: number;
  ankleRangeDeg: number;
  kneeOverSpindleMm: number;
  effectiveSeatAngleDeg: number;
}

export function trueFigures(rider: VirtualRider, points = 360): TrueFigures {
  const still = { ...rider, wanderDeg: 0 };
  const poses = Array.from({ length: points }, (_, i) => poseAt(still, (360 * i) / points, 0));
  const knee = poses.map(({ joints: j }) => 180 - insideAngleDeg(j.hip, j.knee, j.ankle));
  const hip = poses.map(({ joints: j }) => insideAngleDeg(j.shoulder, j.hip, j.knee));
  const mean = (f: (p: (typeof poses)[number]) => number): number =>
    poses.reduce((s, p) => s + f(p), 0) / points;
  const ankle = poses.map(({ joints: j }) => insideAngleDeg(j.knee, j.ankle, j.toe));
  const seat = { x: mean((p) => p.joints.hip.x), y: mean((p) => p.joints.hip.y) };
  return {
    kneeFlexionMinDeg: Math.min(...knee),
    kneeFlexionMaxDeg: Math.max(...knee),
    hipAngleMinDeg: Math.min(...hip),
    hipAngleMaxDeg: Math.max(...hip),
    backAngleDeg: mean((p) => elevationDeg(p.joints.hip, p.joints.shoulder)),
    shoulderAngleDeg: mean(({ joints: j }) => insideAngleDeg(j.hip, j.shoulder, j.elbow)),
    elbowFlexionDeg: mean(({ joints: j }) => 180 - insideAngleDeg(j.shoulder, j.elbow, j.wrist)),
    footPitch90Deg: poses[points / 4].footPitchDeg,
    footPitch180Deg: poses[points / 2].footPitchDeg,
    ankleRangeDeg: Math.max(...ankle) - Math.min(...ankle),
    kneeOverSpindleMm: poses[points / 4].joints.knee.x - poses[points / 4].spindle.x,
    effectiveSeatAngleDeg: Math.atan2(seat.y, -seat.x) / RAD_PER_DEG,
  };
}
