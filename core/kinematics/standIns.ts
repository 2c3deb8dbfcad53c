import { DEG_PER_RAD, RAD_PER_DEG, elevationDeg } from '../math/angles.ts';
import { circleMeetLeft, fitCircle } from '../math/circle.ts';
import { distance, isSeen, type PlanePoint } from '../math/vec.ts';
import { mean, median } from '../math/statistics.ts';
import type { SideKey } from './angles.ts';
import {
  FRONTAL_NEEDED,
  isFrontal,
  type Landmark,
  type SideLandmark,
  type View,
} from '../landmarks/landmarks.ts';

type Set = Partial<Record<SideKey, PlanePoint[]>>;

/** In the shoe, in lengths from heel to toe landmark: the ankle ahead of the heel, and above the line between the two. */
const ANKLE_AHEAD = 0.3;
const ANKLE_ABOVE = 0.44;
/** Ankle to toe falls, and heel to ankle rises, against the line from heel to toe by so much, degrees. */
const TOE_FALLS_DEG = Math.atan2(ANKLE_ABOVE, 1 - ANKLE_AHEAD) * DEG_PER_RAD;
const ANKLE_RISES_DEG = Math.atan2(ANKLE_ABOVE, ANKLE_AHEAD) * DEG_PER_RAD;
/** Trunk, upper arm and forearm in lengths of the thigh (Drillis and Contini 1966; the trunk bent as on a bike). */
const TRUNK = 1.13;
const UPPER_ARM = 0.7;
const FOREARM = 0.6;
/** The knee at its straightest, and how trunk and arm usually lie, degrees above the horizontal ahead. */
const KNEE_STRAIGHTEST_DEG = 37;
const BACK_DEG = 45;
const UPPER_ARM_DEG = -65;
const FOREARM_DEG = -30;

const along = (from: PlanePoint, lengthMm: number, elevation: number): PlanePoint => ({
  x: from.x + lengthMm * Math.cos(elevation * RAD_PER_DEG),
  y: from.y + lengthMm * Math.sin(elevation * RAD_PER_DEG),
});

/** Foot pitch, toe-down +, degrees, from the ankle and one end of the shoe, by the usual shoe. */
export const pitchByToe = (ankle: PlanePoint, toe: PlanePoint): number =>
  -elevationDeg(ankle, toe) - TOE_FALLS_DEG;
const pitchByHeel = (heel: PlanePoint, ankle: PlanePoint): number =>
  ANKLE_RISES_DEG - elevationDeg(heel, ankle);

/** What may be missing of the leg: one of its three joints, and one end of the shoe where the ankle is there. */
export function legIsReadable(seen: (key: SideLandmark) => boolean): boolean {
  const joints = (['hip', 'knee', 'ankle'] as const).filter(seen).length;
  const ends = (['heel', 'toe'] as const).filter(seen).length;
  return joints >= 2 && (ends === 2 || (ends === 1 && seen('ankle')));
}

/** Whether a film of a view can be read from the landmarks that are there. */
export const enoughFor = (view: View, has: (key: Landmark) => boolean): boolean =>
  isFrontal(view) ? FRONTAL_NEEDED.every(has) : legIsReadable(has);

/** What may be missing, in words. */
export const MAY_BE_MISSING =
  'One of hip, knee and ankle may be missing, and one of heel and toe where the ankle is there; arm and trunk too.';

/**
 * Paths for landmarks that were not seen, by the rest and by usual proportions: so that crank and leg model stand without them. No angle
 * and no distance that hangs on one is ever quoted; the model's differences feel them little.
 * @param paths bike plane, y up, facing right, mm; of the leg at least what `legIsTold` asks for
 * @returns the missing paths, one point a frame, NaN where what they are made of is unseen
 */
// eslint-disable-next-line max-lines-per-function -- one landmark after the other, each made up from those before
export function standIns(paths: Set): Partial<Record<SideLandmark, PlanePoint[]>> {
  const out: Partial<Record<SideLandmark, PlanePoint[]>> = {};
  const of = (key: SideLandmark): PlanePoint[] => (paths[key] ?? out[key])!;
  const has = (key: SideLandmark): boolean => paths[key] !== undefined;
  const n = Object.values(paths)[0].length;
  const each = (at: (i: number) => PlanePoint): PlanePoint[] => Array.from({ length: n }, (_, i) => at(i));
  const apart = (a: SideLandmark, b: SideLandmark): number[] =>
    of(a)
      .map((p, i) => distance(p, of(b)[i]))
      .filter(Number.isFinite);
  const span = (a: SideLandmark, b: SideLandmark): number => median(apart(a, b));

  if (!has('heel')) {
    const shoe = span('ankle', 'toe') / Math.hypot(1 - ANKLE_AHEAD, ANKLE_ABOVE);
    out.heel = each((i) => along(of('toe')[i], -shoe, -pitchByToe(of('ankle')[i], of('toe')[i])));
  }
  if (!has('toe')) {
    const shoe = span('heel', 'ankle') / Math.hypot(ANKLE_AHEAD, ANKLE_ABOVE);
    out.toe = each((i) => along(of('heel')[i], shoe, -pitchByHeel(of('heel')[i], of('ankle')[i])));
  }
  if (!has('ankle')) {
    const reach = span('heel', 'toe') * Math.hypot(ANKLE_AHEAD, ANKLE_ABOVE);
    out.ankle = each((i) =>
      along(of('heel')[i], reach, elevationDeg(of('heel')[i], of('toe')[i]) + ANKLE_RISES_DEG),
    );
  }
  if (!has('knee')) {
    // A few wrong frames stretch the leg: all but the farthest fiftieth count.
    const legs = apart('hip', 'ankle').sort((a, b) => a - b);
    const farthest = legs[Math.floor(0.98 * (legs.length - 1))];
    const limb = farthest / (2 * Math.cos((KNEE_STRAIGHTEST_DEG / 2) * RAD_PER_DEG));
    out.knee = each((i) => circleMeetLeft(of('hip')[i], limb, of('ankle')[i], limb) ?? { x: NaN, y: NaN });
  }
  if (!has('hip')) {
    // The knee swings about it.
    const shank = span('knee', 'ankle');
    const seen = of('knee').filter(isSeen);
    const arc = fitCircle(seen);
    const middle = {
      x: mean(seen.map((p) => p.x)),
      y: mean(seen.map((p) => p.y)),
    };
    const usable = arc && Math.abs(arc.radius / shank - 1) < 0.25 && arc.centre.x < middle.x;
    const hip = usable ? arc.centre : along(middle, shank, 140);
    out.hip = each(() => hip);
  }
  const thigh = span('hip', 'knee');
  if (!has('shoulder'))
    out.shoulder = each((i) => {
      const hip = of('hip')[i];
      const met = has('elbow') && circleMeetLeft(hip, TRUNK * thigh, of('elbow')[i], UPPER_ARM * thigh);
      return met || along(hip, TRUNK * thigh, BACK_DEG);
    });
  if (!has('elbow'))
    out.elbow = each((i) => {
      const shoulder = of('shoulder')[i];
      if (!has('wrist')) return along(shoulder, UPPER_ARM * thigh, UPPER_ARM_DEG);
      const wrist = of('wrist')[i];
      return (
        circleMeetLeft(wrist, FOREARM * thigh, shoulder, UPPER_ARM * thigh) ?? {
          x: (wrist.x + shoulder.x) / 2,
          y: (wrist.y + shoulder.y) / 2,
        }
      );
    });
  if (!has('wrist')) out.wrist = each((i) => along(of('elbow')[i], FOREARM * thigh, FOREARM_DEG));
  return out;
}
