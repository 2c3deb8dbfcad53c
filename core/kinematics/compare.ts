import { ANGLE_KEYS, type AngleKey } from './angles.ts';
import type { AngleReading, Reading } from './read.ts';

/** A figure of two readings side by side: the second less the first. */
export interface Difference {
  key: AngleKey;
  of: 'min' | 'max' | 'mean';
  first: number;
  second: number;
  /** Degrees, with its 95 % half-width. */
  byDeg: number;
  uncertaintyDeg: number;
  /** Beyond its uncertainty. */
  real: boolean;
}

const FIGURES = ['min', 'max', 'mean'] as const;

const figure = (a: AngleReading, of: Difference['of']): number => (of === 'mean' ? a.curve.mean : a[of]);

/**
 * How far two readings differ in every angle's least, most and mean value.
 * @param sameStickers both films were taken with the stickers left on: then where they sit on the bone cancels. Not so between the
 * left and the right side, nor after the rider was stickered anew.
 */
export function compareReadings(first: Reading, second: Reading, sameStickers: boolean): Difference[] {
  return ANGLE_KEYS.flatMap((key) => {
    const [p, q] = [first.angles[key], second.angles[key]];
    if (!p || !q) return [];
    const [u, v] = [p.uncertainty, q.uncertainty];
    // A change figure already stands for a difference of two such films: of two unlike ones it is their mean square.
    const uncertaintyDeg = sameStickers
      ? Math.sqrt((u.changeDeg ** 2 + v.changeDeg ** 2) / 2)
      : Math.hypot(u.absoluteDeg, v.absoluteDeg);
    return FIGURES.map((of): Difference => {
      const [a, b] = [figure(p, of), figure(q, of)];
      const byDeg = b - a;
      return { key, of, first: a, second: b, byDeg, uncertaintyDeg, real: Math.abs(byDeg) > uncertaintyDeg };
    });
  });
}
