import type { Statics } from '../records/statics.ts';
import { judge, type Band } from './judge.ts';
import type { MeasureReading } from './measures.ts';
import type { LegSide } from './controls.ts';
import type { Schools } from './proposals.ts';

/** Knee flexion by goniometer, foot held in its pedalling attitude, crank at the bottom (handbook: targets, static protocol). */
export const STATIC_KNEE: Band = { low: 25, high: 35 };
/** The filmed minimum usually reads 5–8° more than the held one (handbook: targets). */
const USUAL_MORE_DEG = 6.5;

/**
 * The measures as the chosen school judges them: who goes by the goniometer has its band brought over to the filmed knee by what this
 * rider's own two readings differ, or by the usual difference where the knee was only filmed.
 */
export function bySchool(
  measures: readonly MeasureReading[],
  schools: Schools,
  statics: Statics,
  side: LegSide,
): MeasureReading[] {
  return measures.map((m) => {
    if (schools.knee !== 'static' || m.key !== 'kneeFlexionMinDeg') return m;
    const held = statics.kneeFlexionDeg[side];
    const more = held === null ? USUAL_MORE_DEG : m.value - held;
    const band: Band = { low: STATIC_KNEE.low! + more, high: STATIC_KNEE.high! + more };
    return { ...m, band, verdict: judge(m.value, m.uncertainty, band) };
  });
}
