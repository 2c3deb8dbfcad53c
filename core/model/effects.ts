import type { PlanePoint } from '../math/vec.ts';

export type LegSide = 'left' | 'right';

/** What moves do to the places where the rider touches the bike. */
export interface Effects {
  /** Of the sit point, and with it the hip, mm. */
  sitMm: PlanePoint;
  /** Of the hands, mm. */
  handMm: PlanePoint;
  crankMm: number;
  /** Cleat back, and what is between foot and spindle, by side. */
  legs: Record<LegSide, { cleatBackMm: number; stackMm: number; stanceMm: number }>;
  barWidthMm: number;
}

/** Nothing is moved. */
export const NO_EFFECTS: Effects = {
  sitMm: { x: 0, y: 0 },
  handMm: { x: 0, y: 0 },
  crankMm: 0,
  legs: {
    left: { cleatBackMm: 0, stackMm: 0, stanceMm: 0 },
    right: { cleatBackMm: 0, stackMm: 0, stanceMm: 0 },
  },
  barWidthMm: 0,
};
