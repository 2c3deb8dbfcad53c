import { DYNAMIC_READS_MORE_DEG, STATIC_KNEE_BAND, type Statics } from '../../body/statics.ts';
import { judge, outOfBand, type Band } from '../../protocol/judge.ts';
import type { MeasureReading } from '../../protocol/measures.ts';
import type { LegSide } from '../../model/effects.ts';
import type { Schools } from './schools.ts';

/** Halfway between the least and the most that a filmed minimum usually reads more than the held one. */
const USUAL_MORE_DEG = (DYNAMIC_READS_MORE_DEG.least + DYNAMIC_READS_MORE_DEG.most) / 2;

/** A figure against another band. */
const judgedBy = (m: Pick<MeasureReading, 'value' | 'uncertainty'>, band: Band) => ({
  pOut: outOfBand(m.value, m.uncertainty, band),
  verdict: judge(m.value, m.uncertainty, band),
});

/** The static band of the knee for a rider whose filmed band was moved by so much: tight hamstrings ask for more bend in both. */
export const staticKneeBand = (movedDeg: number): { low: number; high: number } => ({
  low: STATIC_KNEE_BAND.low + movedDeg,
  high: STATIC_KNEE_BAND.high + movedDeg,
});

/**
 * The measures as the chosen school judges them: who goes by the goniometer has its band brought over to the filmed knee by what this
 * rider's own two readings differ, or by the usual difference where the knee was only filmed.
 * @param movedDeg by how much findings off the bike moved this rider's band
 */
export function bySchool(
  measures: readonly MeasureReading[],
  {
    schools,
    statics,
    side,
    movedDeg = 0,
  }: { schools: Schools; statics: Statics; side: LegSide; movedDeg?: number },
): MeasureReading[] {
  return measures.map((m) => {
    if (schools.knee !== 'static' || m.key !== 'kneeFlexionMinDeg') return m;
    const held = statics.kneeFlexionDeg[side];
    const more = held === null ? USUAL_MORE_DEG : m.value - held;
    const own = staticKneeBand(movedDeg);
    const band: Band = { low: own.low + more, high: own.high + more };
    return { ...m, band, ...judgedBy(m, band) };
  });
}
