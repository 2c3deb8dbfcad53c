import { useMemo } from 'react';
import { legOf, measuresOf } from '../../../core/visit/visitCase.ts';
import type { MeasureReading } from '../../../core/protocol/measures.ts';
import type { FitSession, Take } from '../../../core/records/types.ts';
import { isFrontal } from '../../../core/landmarks/landmarks.ts';
import type { Reading } from '../../../core/kinematics/read.ts';
import type { Tracks } from '../../../core/tracking/tracks.ts';
import { useTakeResults } from '../../jobs/useTakeResults';

/** A visit's film from the side, read and judged. */
export interface FilmedEnd {
  take: Take;
  reading: Reading;
  tracks: Tracks;
  measures: MeasureReading[];
}

export interface FilmedEnds {
  first: FilmedEnd | null;
  /** The newest of the same side, where the bike was filmed again; null otherwise. */
  last: FilmedEnd | null;
}

/** The first film of a visit and the last of the same side; null while they are read. */
export function useFilmedEnds(session: FitSession): FilmedEnds | null {
  const sides = session.takes.filter((t) => !isFrontal(t.view) && t.tracking.state !== 'none');
  const first = sides[0] ?? null;
  const last =
    sides.findLast((t) => t.view === first?.view && t.id !== first?.id && t.round > first.round) ?? null;
  const results = useTakeResults(
    session,
    [first, last].filter((t) => t !== null),
  );
  return useMemo(() => {
    if (!first) return { first: null, last: null };
    if (!results) return null;
    const of = (take: Take | null): FilmedEnd | null => {
      const got = results.find((r) => r.take.id === take?.id);
      return take && got?.kind === 'side' && got.result.ok
        ? {
            take,
            reading: got.result,
            tracks: got.tracks,
            measures: measuresOf(session, got.result, legOf(take)),
          }
        : null;
    };
    return { first: of(first), last: of(last) };
  }, [session, first, last, results]);
}
