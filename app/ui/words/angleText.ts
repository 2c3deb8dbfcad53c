export { conventionWord, hasConvention, quoted, type Convention } from '../../../core/protocol/convention.ts';
import type { AnyAngleKey } from '../../../core/kinematics/angles.ts';

export const degrees = (v: number, digits = 1): string =>
  Number.isFinite(v) ? `${v.toFixed(digits).replace('-', '−')}°` : '–';

export const ANGLE_HINTS: Record<AnyAngleKey, string> = {
  kneeFlexionDeg: 'thigh against shank',
  hipAngleDeg: 'trunk against thigh',
  ankleAngleDeg: 'shank against foot, inside',
  footPitchDeg: 'sole against horizontal, toe-down +',
  backAngleDeg: 'trunk above horizontal',
  shoulderAngleDeg: 'trunk against upper arm',
  elbowFlexionDeg: 'upper arm against forearm',
  forearmAngleDeg: 'forearm above horizontal, wrist to elbow',
  pelvisAngleDeg: 'sacrum to ASIS above horizontal',
};
