import { useMemo } from 'react';
import { filmedTake, visitCase } from '../../../core/visit/visitCase.ts';
import type { SuspectsOf } from '../../../core/suspects/suspects.ts';
import { setupOf } from '../../../core/visit/rounds.ts';
import { openTake, type FitSession } from '../../../core/records/types.ts';
import { isFrontal } from '../../../core/landmarks/landmarks.ts';
import { useStudio } from '../../session/useStudio';
import { useFrontal, useReading } from '../../jobs/useTakeResults';

/** The suspects from everything known of the rider so far: words, tests, tape, and the film where there is one. */
export function useSuspects(session: FitSession): readonly SuspectsOf[] {
  const reading = useReading(session);
  const frontal = useFrontal(session);
  const { jointConvention } = useStudio();
  const take = openTake(session);
  const result = reading.status === 'read' && reading.result.ok ? reading.result : null;
  const side = take && !isFrontal(take.view) ? take : null;
  const seat = setupOf(session, side).frame.seatAngleDeg;
  const near = useMemo(
    () => (result && side ? filmedTake(session, side, result) : null),
    // The model is fitted anew with the film, not with every word that is edited.
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [result, side, seat],
  );
  return useMemo(
    () => visitCase({ session, near, frontal, parts: null, convention: jointConvention }).case.suspects,
    [session, near, frontal, jointConvention],
  );
}
