import { useEffect, useState } from 'react';
import type { FrontalReading } from '../../core/kinematics/frontalReading.ts';
import { roundNow } from '../../core/visit/setups.ts';
import { takesOf } from '../../core/visit/rounds.ts';
import { openTake, type FitSession, type Take } from '../../core/records/types.ts';
import { isFrontal } from '../../core/landmarks/landmarks.ts';
import type { Reading, ReadResult } from '../../core/kinematics/read.ts';
import type { Tracks } from '../../core/tracking/tracks.ts';
import { readingKey, readingOf, type TakeResult } from './readings';

/** Readings of some takes of a visit, computed in a worker, in the order asked; null while they are being made. */
export function useTakeResults(session: FitSession, takes: readonly Take[]): readonly TakeResult[] | null {
  const [state, setState] = useState<{ key: string; results: readonly TakeResult[] } | null>(null);
  const key = takes.map((t) => readingKey(session, t)).join();
  useEffect(() => {
    if (takes.length === 0) return undefined;
    let ended = false;
    void Promise.all(takes.map((take) => readingOf(session, take))).then(
      (results) => !ended && setState({ key, results }),
      (error: unknown) => {
        // Into the page's error boundary: it says what happened.
        if (!ended)
          setState(() => {
            throw error;
          });
      },
    );
    return () => {
      ended = true;
    };
    // `key` holds everything that the readings depend on.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [key]);
  // While a changed take is read anew, what was read before stands, as long as it is of the same takes.
  const same =
    state &&
    state.results.length === takes.length &&
    state.results.every((r, i) => r.take.id === takes[i].id);
  return same ? state.results : null;
}

/** The takes of the round that is open: films of another set-up tell nothing of this one. */
const ofRound = (session: FitSession): Take[] =>
  takesOf(session, openTake(session)?.round ?? roundNow(session));

/** The take from the side that the figures come from: the open one, else the newest that was followed, else the newest. */
export function sideTake(session: FitSession): Take | null {
  const open = openTake(session);
  if (open && !isFrontal(open.view)) return open;
  const sides = ofRound(session).filter((t) => !isFrontal(t.view));
  return sides.findLast((t) => t.tracking.state !== 'none') ?? sides.at(-1) ?? null;
}

/** The take from the front or the rear that goes with them: the open one, else the newest that was followed. */
function frontalTake(session: FitSession): Take | null {
  const open = openTake(session);
  if (open && isFrontal(open.view)) return open;
  return ofRound(session).findLast((t) => isFrontal(t.view) && t.tracking.state !== 'none') ?? null;
}

export type ReadingState =
  | { status: 'waiting' }
  | { status: 'missing'; what: 'tracks' | 'scale' }
  | { status: 'read'; result: ReadResult; tracks: Tracks };

/** The side reading that the session's figures come from. */
export function useReading(session: FitSession): ReadingState {
  const take = sideTake(session);
  const results = useTakeResults(session, take ? [take] : []);
  if (!take) return { status: 'missing', what: 'tracks' };
  const got = results?.[0];
  if (!got) return { status: 'waiting' };
  if (got.kind === 'missing') return { status: 'missing', what: got.what };
  // A take that has just been said to be from the front still shows its old result for a moment.
  return got.kind === 'side'
    ? { status: 'read', result: got.result, tracks: got.tracks }
    : { status: 'waiting' };
}

/** The reading from the front or the rear that goes with them; null where there is none. `waits`: it is being made. */
export function useFrontalState(session: FitSession): { frontal: FrontalReading | null; waits: boolean } {
  const take = frontalTake(session);
  const results = useTakeResults(session, take ? [take] : []);
  const got = results?.[0];
  return {
    frontal: got?.kind === 'frontal' && got.result.ok ? got.result : null,
    waits: take !== null && results === null,
  };
}

/** The reading from the front or the rear that goes with them; null while there is none. */
export const useFrontal = (session: FitSession): FrontalReading | null => useFrontalState(session).frontal;

export interface TakeReading {
  take: Take;
  reading: Reading;
}

/** What a take gave from the side; null where it gave nothing, or is still being read. */
export const sideReading = (got: TakeResult | undefined): Reading | null =>
  got?.kind === 'side' && got.result.ok ? got.result : null;

/** Side readings of further takes of a visit; those that can't be read are left out. */
export function useTakeReadings(session: FitSession, takeIds: readonly string[]): readonly TakeReading[] {
  const results = useTakeResults(
    session,
    session.takes.filter((t) => takeIds.includes(t.id)),
  );
  return (results ?? []).flatMap((r) => {
    const reading = sideReading(r);
    return reading ? [{ take: r.take, reading }] : [];
  });
}
