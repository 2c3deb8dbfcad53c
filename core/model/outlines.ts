import type { PlanePoint } from '../math/vec.ts';
import { RAD_PER_DEG } from '../math/angles.ts';
import type { Outline } from './predict.ts';
import { evaluateCurve } from '../math/harmonics.ts';
import type { Reading } from '../kinematics/read.ts';

/** The filmed body at a crank angle, from the mean paths of its joints: bike plane, mm, BB origin. */
export function outlineAt(reading: Pick<Reading, 'body' | 'segmentsMm'>, thetaDeg: number): Outline {
  const { paths } = reading.body;
  const at = (key: keyof typeof paths): PlanePoint => {
    const p = paths[key]!;
    return { x: evaluateCurve(p.x.curve, thetaDeg), y: evaluateCurve(p.y.curve, thetaDeg) };
  };
  const { crank } = reading.segmentsMm;
  return {
    thetaDeg,
    spindle: { x: crank * Math.sin(thetaDeg * RAD_PER_DEG), y: crank * Math.cos(thetaDeg * RAD_PER_DEG) },
    heel: at('heel'),
    toe: at('toe'),
    ankle: at('ankle'),
    knee: at('knee'),
    hip: at('hip'),
    shoulder: at('shoulder'),
    elbow: at('elbow'),
    wrist: at('wrist'),
  };
}
