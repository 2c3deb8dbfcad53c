import { elevationDeg, insideAngleDeg } from '../math/angles.ts';
import type { PlanePoint } from '../math/vec.ts';
import type { SideLandmark, SideOptional } from '../landmarks/landmarks.ts';

/** The side-view angles that hang on the eight landmarks every film has. */
export const ANGLE_KEYS = [
  'kneeFlexionDeg',
  'hipAngleDeg',
  'ankleAngleDeg',
  'footPitchDeg',
  'backAngleDeg',
  'shoulderAngleDeg',
  'elbowFlexionDeg',
  'forearmAngleDeg',
] as const;
export type AngleKey = (typeof ANGLE_KEYS)[number];

/** Angles that need optional landmarks. */
export const OPTIONAL_ANGLE_KEYS = ['pelvisAngleDeg'] as const;
export type OptionalAngleKey = (typeof OPTIONAL_ANGLE_KEYS)[number];
export type AnyAngleKey = AngleKey | OptionalAngleKey;

/** Any landmark of the side view. */
export type SideKey = SideLandmark | SideOptional;
/** Joints of one frame; what is missing or NaN was not seen. */
export type Joints = Readonly<Partial<Record<SideKey, PlanePoint>>>;

/**
 * An angle between two limbs at a joint, or a limb's direction against the horizontal; `backward` where the limb points to the
 * rear as it is named.
 */
export type AngleShape =
  | { kind: 'inside'; ends: [SideLandmark, SideLandmark]; vertex: SideLandmark; flexion: boolean }
  | { kind: 'direction'; from: SideKey; to: SideKey; sign: 1 | -1; backward?: true };

/** Definitions of the angles (handbook: measuring, angles in side view). Flexion is 180° less the inside angle. */
export const ANGLE_SHAPES: Record<AnyAngleKey, AngleShape> = {
  kneeFlexionDeg: { kind: 'inside', ends: ['hip', 'ankle'], vertex: 'knee', flexion: true },
  hipAngleDeg: { kind: 'inside', ends: ['shoulder', 'knee'], vertex: 'hip', flexion: false },
  ankleAngleDeg: { kind: 'inside', ends: ['knee', 'toe'], vertex: 'ankle', flexion: false },
  footPitchDeg: { kind: 'direction', from: 'heel', to: 'toe', sign: -1 },
  backAngleDeg: { kind: 'direction', from: 'hip', to: 'shoulder', sign: 1 },
  shoulderAngleDeg: { kind: 'inside', ends: ['hip', 'elbow'], vertex: 'shoulder', flexion: false },
  elbowFlexionDeg: { kind: 'inside', ends: ['shoulder', 'wrist'], vertex: 'elbow', flexion: true },
  forearmAngleDeg: { kind: 'direction', from: 'wrist', to: 'elbow', sign: 1, backward: true },
  pelvisAngleDeg: { kind: 'direction', from: 'sacrum', to: 'asis', sign: 1 },
};

export const ANGLE_NAMES: Record<AnyAngleKey, string> = {
  kneeFlexionDeg: 'Knee',
  hipAngleDeg: 'Hip',
  ankleAngleDeg: 'Ankle',
  footPitchDeg: 'Foot pitch',
  backAngleDeg: 'Back',
  shoulderAngleDeg: 'Shoulder',
  elbowFlexionDeg: 'Elbow',
  forearmAngleDeg: 'Forearm',
  pelvisAngleDeg: 'Pelvis',
};

/** The landmarks that an angle hangs on. */
export function landmarksOf(key: AnyAngleKey): readonly SideKey[] {
  const shape = ANGLE_SHAPES[key];
  return shape.kind === 'direction' ? [shape.from, shape.to] : [...shape.ends, shape.vertex];
}

const UNSEEN: PlanePoint = { x: NaN, y: NaN };

/**
 * One angle from the joints of one frame.
 * @param joints bike plane (y up, facing right), any length unit
 * @returns degrees, NaN where a joint is unseen
 */
export function jointAngleDeg(key: AnyAngleKey, joints: Joints): number {
  const shape = ANGLE_SHAPES[key];
  const at = (k: SideKey): PlanePoint => joints[k] ?? UNSEEN;
  if (shape.kind === 'direction') {
    const [from, to] = [at(shape.from), at(shape.to)];
    // A limb that points backwards is measured on the mirrored picture: its rise above the horizontal behind.
    return (
      shape.sign *
      (shape.backward
        ? elevationDeg({ x: -from.x, y: from.y }, { x: -to.x, y: to.y })
        : elevationDeg(from, to))
    );
  }
  const inside = insideAngleDeg(at(shape.ends[0]), at(shape.vertex), at(shape.ends[1]));
  return shape.flexion ? 180 - inside : inside;
}
