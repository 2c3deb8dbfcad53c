import { elevationDeg, insideAngleDeg } from '../geometry/angles.ts';
import type { Vec2 } from '../geometry/vec.ts';
import type { SideLandmark } from './landmarks.ts';

/** The side-view angles of the first reading, with the landmarks that each hangs on. */
export const ANGLE_KEYS = [
  'kneeFlexionDeg',
  'hipAngleDeg',
  'ankleAngleDeg',
  'footPitchDeg',
  'backAngleDeg',
  'shoulderAngleDeg',
  'elbowFlexionDeg',
] as const;
export type AngleKey = (typeof ANGLE_KEYS)[number];

/** An angle between two limbs at a joint, or a limb's direction against the horizontal. */
export type AngleShape =
  | { kind: 'inside'; ends: [SideLandmark, SideLandmark]; vertex: SideLandmark; flexion: boolean }
  | { kind: 'direction'; from: SideLandmark; to: SideLandmark; sign: 1 | -1 };

/** Definitions of the handbook (measuring, angles in side view). Flexion is 180° less the inside angle. */
export const ANGLE_SHAPES: Record<AngleKey, AngleShape> = {
  kneeFlexionDeg: { kind: 'inside', ends: ['hip', 'ankle'], vertex: 'knee', flexion: true },
  hipAngleDeg: { kind: 'inside', ends: ['shoulder', 'knee'], vertex: 'hip', flexion: false },
  ankleAngleDeg: { kind: 'inside', ends: ['knee', 'toe'], vertex: 'ankle', flexion: false },
  footPitchDeg: { kind: 'direction', from: 'heel', to: 'toe', sign: -1 },
  backAngleDeg: { kind: 'direction', from: 'hip', to: 'shoulder', sign: 1 },
  shoulderAngleDeg: { kind: 'inside', ends: ['hip', 'elbow'], vertex: 'shoulder', flexion: false },
  elbowFlexionDeg: { kind: 'inside', ends: ['shoulder', 'wrist'], vertex: 'elbow', flexion: true },
};

export const ANGLE_NAMES: Record<AngleKey, string> = {
  kneeFlexionDeg: 'Knee',
  hipAngleDeg: 'Hip',
  ankleAngleDeg: 'Ankle',
  footPitchDeg: 'Foot pitch',
  backAngleDeg: 'Back',
  shoulderAngleDeg: 'Shoulder',
  elbowFlexionDeg: 'Elbow',
};

/**
 * One angle from the joints of one frame.
 * @param joints bike plane (y up, facing right), any length unit; NaN where unseen
 * @returns degrees, NaN where a joint is unseen
 */
export function jointAngleDeg(key: AngleKey, joints: Readonly<Record<SideLandmark, Vec2>>): number {
  const shape = ANGLE_SHAPES[key];
  if (shape.kind === 'direction') return shape.sign * elevationDeg(joints[shape.from], joints[shape.to]);
  const inside = insideAngleDeg(joints[shape.ends[0]], joints[shape.vertex], joints[shape.ends[1]]);
  return shape.flexion ? 180 - inside : inside;
}
