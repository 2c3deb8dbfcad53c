import { useMemo } from 'react';
import { resolveBike, type ResolvedBike } from '../../core/bike/resolve.ts';
import { adjustBands } from '../../core/prescribe/adjust.ts';
import { judgeReading, type MeasureReading } from '../../core/prescribe/measures.ts';
import type { Protocol } from '../../core/prescribe/protocols.ts';
import { protocolUsed } from '../../core/prescribe/shelf.ts';
import { rankSuspects, type SuspectsOf } from '../../core/prescribe/suspects.ts';
import type { FitSession } from '../../core/records/types.ts';
import { useFrontal, useReading } from './useTakeResults';

/** The session's protocol with its bands as they hold for this rider. */
export function protocolOf(session: FitSession): Protocol & { movedBy: string[]; halfSteps: boolean } {
  const protocol = protocolUsed(session);
  const { bands, adjustments, halfSteps } = adjustBands(protocol, session.body, session.intake);
  return {
    ...protocol,
    bands,
    halfSteps,
    movedBy: adjustments.filter((a) => a.on && a.shifts.length > 0).map((a) => a.finding),
  };
}

/** Everything known of the rider so far, put together: bike resolved, film judged where there is one, suspects ranked. */
export function useCase(session: FitSession): {
  resolved: ResolvedBike;
  measures: readonly MeasureReading[];
  suspects: readonly SuspectsOf[];
} {
  const reading = useReading(session);
  const frontal = useFrontal(session);
  const resolved = useMemo(() => resolveBike(session.asFound), [session.asFound]);
  const result = reading.status === 'read' && reading.result.ok ? reading.result : null;
  const measures = useMemo(
    () => judgeReading(result, protocolOf(session), frontal),
    [result, frontal, session],
  );
  const suspects = useMemo(
    () =>
      rankSuspects({ intake: session.intake, body: session.body, bike: session.asFound, resolved, measures }),
    [session, resolved, measures],
  );
  return { resolved, measures, suspects };
}
