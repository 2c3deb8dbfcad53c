import { useEffect, useMemo, useState } from 'react';
import type { Part } from '../../../core/bike/parts.ts';
import type { Habits } from '../../../core/model/bodyModel.ts';
import { filmedTake, visitCase, type VisitCase } from '../../../core/visit/visitCase.ts';
import type { PlanCase, Prescription } from '../../../core/plan/terms/plan.ts';
import { roundNow } from '../../../core/visit/setups.ts';
import { setupOf } from '../../../core/visit/rounds.ts';
import { partnerOf } from '../../../core/visit/pairs.ts';
import type { FitSession } from '../../../core/records/types.ts';
import type { Reading } from '../../../core/kinematics/read.ts';
import { planOf } from '../../jobs/plans';
import { useStudio } from '../../session/useStudio';
import { sideReading, sideTake, useFrontalState, useTakeResults } from '../../jobs/useTakeResults';

/**
 * Everything that the plan is made from: both sides' models where both were filmed, bands, suspects, parts.
 * `waits`: one of the films is still being read, and what it says is not in it.
 */
export function useVisitCase(
  session: FitSession,
  reading: Reading | null,
  parts: readonly Part[],
  habits: Habits | null,
): VisitCase & { waits: boolean } {
  const { jointConvention } = useStudio();
  const { frontal, waits: frontalWaits } = useFrontalState(session);
  const take = sideTake(session);
  const partner = take ? partnerOf(session, take) : null;
  const others = useTakeResults(session, partner ? [partner] : []);
  const farReading = sideReading(others?.[0]);
  const waits = frontalWaits || (partner !== null && others === null);
  const seat = setupOf(session, take).frame.seatAngleDeg;
  // Models are fitted anew with the readings, not with every word that is edited.
  const near = useMemo(
    () => (reading ? filmedTake(session, take, reading) : null),
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [reading, take, seat],
  );
  const far = useMemo(
    () => (farReading && partner ? filmedTake(session, partner, farReading) : null),
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [farReading, partner, seat],
  );
  const made = useMemo(
    () =>
      visitCase({
        session,
        near,
        far,
        frontal,
        parts,
        habits,
        convention: jointConvention,
        round: roundNow(session),
      }),
    [session, near, far, frontal, parts, habits, jointConvention],
  );
  return useMemo(() => ({ ...made, waits }), [made, waits]);
}

/**
 * The prescription, worked out in parallel with the page; the last one stands while the next is made. Null until there is one.
 * @param waits what it is made from is not all there: a plan without it could be kept, and would be wrong
 */
export function usePrescription(c: PlanCase, waits: boolean): Prescription | null {
  const [plan, setPlan] = useState<Prescription | null>(null);
  useEffect(() => {
    if (waits) return undefined;
    let ended = false;
    planOf(c, () => !ended).then(
      (made) => {
        if (!ended && made) setPlan(made);
      },
      (error: unknown) => {
        if (!ended)
          setPlan(() => {
            throw error;
          });
      },
    );
    return () => {
      ended = true;
    };
  }, [c, waits]);
  return plan;
}
