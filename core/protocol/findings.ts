import { turnDeg } from '../math/angles.ts';
import type { FitSession } from '../records/types.ts';
import type { Finding } from '../records/work.ts';
import { ANGLE_KEYS, ANGLE_NAMES, landmarksOf, type AngleKey } from '../kinematics/angles.ts';
import { isFrontal, plainName, type SideOptional } from '../landmarks/landmarks.ts';
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

/** What a side film leaves out for a landmark that was not seen. */
function withoutLandmarks(reading: Reading): [what: string, why: string][] {
  const lost = reading.standIns;
  return ANGLE_KEYS.flatMap((key): [string, string][] => {
    const points = landmarksOf(key).filter((k) => (lost as readonly string[]).includes(k));
    return points.length
      ? [
          [
            ANGLE_NAMES[key],
            `${points.map(plainName).join(' and ')} ${points.length > 1 ? 'were' : 'was'} not seen`,
          ],
        ]
      : [];
  });
}

/** What this visit's films do not tell, and why: said so that nobody takes silence for health. */
export function notMeasured(session: FitSession, reading: Reading | null): { what: string; why: string }[] {
  const views = new Set(session.takes.map((t) => t.view));
  const out: { what: string; why: string }[] = [];
  const other = views.has('drive') ? (views.has('nonDrive') ? null : 'left') : 'right';
  if (other) out.push({ what: `The ${other} leg`, why: 'there is no film of that side' });
  if (!views.has('front') && !views.has('rear'))
    out.push({
      what: 'Knee path, stance, pelvis and shoulders level or not',
      why: 'there is no film from the front or the rear',
    });
  if (reading) {
    const open = (keys: readonly SideOptional[]): string =>
      keys
        .filter((k) => !reading.landmarks[k])
        .map(plainName)
        .join(' and ');
    const hidden: [string, string][] = [
      ['Pelvis tilt', open(['sacrum', 'asis'])],
      ['Head and what the wind sees', open(['head'])],
      ['Shoulder against mid-back', open(['c7', 'sacrum'])],
      ['Grip', open(['hand'])],
    ];
    for (const [what, points] of hidden)
      if (points) out.push({ what, why: `${points} ${points.includes(' and ') ? 'are' : 'is'} not marked` });
    for (const [what, points] of withoutLandmarks(reading)) out.push({ what, why: points });
    const lost = Object.entries(reading.landmarks).filter(([, n]) => n.lostFrames > 0);
    if (lost.length)
      out.push({
        what: 'Some frames',
        why: `${lost.map(([key, n]) => `${plainName(key)} on ${n.lostFrames}`).join(', ')} could not be followed`,
      });
  }
  const holds = new Set(
    session.takes
      .filter((t) => !isFrontal(t.view))
      .map((t) => t.position)
      .filter(Boolean),
  );
  if (holds.size < 2) out.push({ what: 'Other holds', why: 'only one position of the hands was filmed' });
  if (!Object.values(session.statics).some((r) => r.left !== null || r.right !== null || r.both !== null))
    out.push({ what: 'Standing still', why: 'no goniometer reading was typed in' });
  return out;
}
