import type { Studio } from '../../core/records/types.ts';
import type { AnyAngleKey } from '../../core/stroke/angles.ts';

export type Convention = Studio['jointConvention'];

/** Only knee and elbow have the two conventions; all others are quoted as defined. */
export const hasConvention = (key: string): boolean => key.startsWith('knee') || key.startsWith('elbow');

/** A flexion in the studio's convention: bend (0 straight) or the inside angle (180 straight). */
export const quoted = (key: string, flexionDeg: number, convention: Convention): number =>
  convention === 'inside' && hasConvention(key) && !key.endsWith('Mm') ? 180 - flexionDeg : flexionDeg;

/** The convention's name beside a figure that has one. */
export const conventionWord = (key: string, convention: Convention): string =>
  hasConvention(key) && !key.endsWith('Mm') ? (convention === 'inside' ? 'inside' : 'bend') : '';

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
