import { turnDeg } from '../math/angles.ts';
import type { Finding } from './finding.ts';
import type { AngleKey } from '../kinematics/angles.ts';
import type { Reading } from '../kinematics/read.ts';
import type { MeasureReading } from './measures.ts';
import type { MeasureKey } from './protocols.ts';

/** How sure it is that a measure lies outside its band. */
export type Sureness = 'inside' | 'open' | 'sure' | 'beyond-doubt';

/** A measure put as a finding. */
export interface WorkedFinding extends MeasureReading {
  /** How far outside its band, signed; 0 inside. */
  off: number;
  sureness: Sureness;
  /** The film's frame on which it shows most; −1 where no frame shows it. */
  frame: number;
}

/** The angle that shows a measure, and where in the turn: its least, its most, or at a crank angle. */
const SHOWN_BY: Record<MeasureKey, { angle: AngleKey; at: 'min' | 'max' | number } | null> = {
  kneeFlexionMinDeg: { angle: 'kneeFlexionDeg', at: 'min' },
  kneeFlexionMaxDeg: { angle: 'kneeFlexionDeg', at: 'max' },
  hipAngleMinDeg: { angle: 'hipAngleDeg', at: 'min' },
  backAngleDeg: { angle: 'backAngleDeg', at: 'min' },
  shoulderAngleDeg: { angle: 'shoulderAngleDeg', at: 'max' },
  elbowFlexionDeg: { angle: 'elbowFlexionDeg', at: 'min' },
  footPitch90Deg: { angle: 'footPitchDeg', at: 90 },
  footPitch180Deg: { angle: 'footPitchDeg', at: 180 },
  ankleRangeDeg: { angle: 'ankleAngleDeg', at: 'max' },
  kneeOverSpindleMm: { angle: 'kneeFlexionDeg', at: 90 },
  hipVerticalTravelMm: null,
  effectiveSeatAngleDeg: null,
  shoulderAboveMidBackMm: { angle: 'backAngleDeg', at: 'min' },
  headAboveBackMm: { angle: 'backAngleDeg', at: 'max' },
  kneePathWidthMm: null,
};

/** The frame, within the strokes that count, on which an angle is least or most, or the crank nearest to an angle. */
function frameOf(reading: Reading, key: MeasureKey): number {
  const shown = SHOWN_BY[key];
  if (!shown) return -1;
  const values = reading.frameAnglesDeg[shown.angle];
  const used = reading.strokes.filter((s) => !s.fault);
  if (!values) return -1;
  let best = -1;
  let least = Infinity;
  reading.tS.forEach((t, i) => {
    if (!used.some((s) => t >= s.startS && t < s.endS) || !Number.isFinite(values[i])) return;
    const cost =
      shown.at === 'min'
        ? values[i]
        : shown.at === 'max'
          ? -values[i]
          : Math.abs(turnDeg(reading.thetaDeg[i], shown.at));
    if (cost < least) [best, least] = [i, cost];
  });
  return best < 0 ? -1 : reading.frames[best];
}

/**
 * Measures as findings: how far out of the band, how sure, and on which frame it shows most. Sure is beyond the 95 % interval,
 * beyond doubt beyond 99.9 %.
 */
export function workFindings(reading: Reading | null, measures: readonly MeasureReading[]): WorkedFinding[] {
  return measures.map((m) => {
    const { low, high } = m.band;
    const off =
      high !== null && m.value > high ? m.value - high : low !== null && m.value < low ? m.value - low : 0;
    const z = (1.96 * Math.abs(off)) / Math.max(1e-9, m.uncertainty);
    const sureness: Sureness =
      off === 0 ? 'inside' : z <= 1.96 ? 'open' : z <= 3.29 ? 'sure' : 'beyond-doubt';
    return { ...m, off, sureness, frame: reading ? frameOf(reading, m.key) : -1 };
  });
}

/** Measures as they go on record. */
export const asFindings = (measures: readonly MeasureReading[]): Finding[] =>
  measures.map(({ key, value, uncertainty, unit, band, verdict }) => ({
    key,
    value,
    uncertainty,
    unit,
    band,
    verdict,
  }));

const SURENESS_ORDER: readonly Sureness[] = ['beyond-doubt', 'sure', 'open', 'inside'];

/** Findings with what is out of its band first: the surest, then the furthest for its uncertainty. */
export const byUrgency = (findings: readonly WorkedFinding[]): WorkedFinding[] =>
  [...findings].sort(
    (a, b) =>
      SURENESS_ORDER.indexOf(a.sureness) - SURENESS_ORDER.indexOf(b.sureness) ||
      Math.abs(b.off / b.uncertainty) - Math.abs(a.off / a.uncertainty),
  );
