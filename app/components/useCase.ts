import { useMemo } from 'react';
import { resolveBike, type ResolvedBike } from '../../core/bike/resolve.ts';
import { legsCompared } from '../../core/plan/asymmetry.ts';
import { judgeReading, type MeasureReading } from '../../core/protocol/measures.ts';
import { protocolOf } from '../../core/plan/planGround.ts';
import { rankSuspects, type SuspectsOf } from '../../core/suspects/suspects.ts';
import { setupOf } from '../../core/trial/rounds.ts';
import { openTake, type FitSession } from '../../core/records/types.ts';
import { useFrontal, useReading } from './useTakeResults';

/** Everything known of the rider so far, put together: bike resolved, film judged where there is one, suspects ranked. */
export function useCase(session: FitSession): {
  resolved: ResolvedBike;
  measures: readonly MeasureReading[];
  suspects: readonly SuspectsOf[];
} {
  const reading = useReading(session);
  const frontal = useFrontal(session);
  const bike = setupOf(session, openTake(session));
  const resolved = useMemo(() => resolveBike(bike), [bike]);
  const result = reading.status === 'read' && reading.result.ok ? reading.result : null;
  const measures = useMemo(
    () => judgeReading(result, protocolOf(session), frontal),
    [result, frontal, session],
  );
  const suspects = useMemo(
    () =>
      rankSuspects({
        intake: session.intake,
        body: session.body,
        bike,
        resolved,
        measures,
        onBike: session.planning.onBike,
        apart: frontal ? legsCompared(frontal) : [],
        cadenceRpm: result?.cadenceRpm ?? null,
      }),
    [session, bike, resolved, measures, frontal, result],
  );
  return { resolved, measures, suspects };
}
