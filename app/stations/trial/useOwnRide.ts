import { useMemo } from 'react';
import { legOf, measuresOf } from '../../../core/visit/visitCase.ts';
import type { FitSession } from '../../../core/records/types.ts';
import { ownRide, type OwnRide } from '../../../core/protocol/ownRide.ts';
import { useTakeReadings } from '../../jobs/useTakeResults';

/** This rider's own ride-to-ride SD, from takes of one set-up that were filmed twice before anything was moved. */
export function useOwnRide(session: FitSession): OwnRide {
  const repeats = useMemo(
    () =>
      session.takes.flatMap((t) => {
        const first = session.takes.find((q) => q.id === t.baselineOf);
        return first ? [{ first, again: t }] : [];
      }),
    [session.takes],
  );
  const ids = useMemo(() => [...new Set(repeats.flatMap((r) => [r.first.id, r.again.id]))], [repeats]);
  const read = useTakeReadings(session, ids);
  return useMemo(() => {
    const reading = (id: string) => read.find((r) => r?.take.id === id)?.reading ?? null;
    return ownRide(
      repeats.flatMap(({ first, again }) => {
        const [a, b] = [reading(first.id), reading(again.id)];
        return a && b
          ? [[measuresOf(session, a, legOf(first)), measuresOf(session, b, legOf(again))] as const]
          : [];
      }),
    );
  }, [repeats, read, session]);
}
