import { useEffect, useState } from 'react';
import { openTake, type FitSession } from '../../core/records/types.ts';
import { scaleFromAxles, type ScaleResult } from '../../core/stroke/plane.ts';
import { withoutHidden } from '../../core/stroke/review.ts';
import type { ReadOptions, ReadResult } from '../../core/stroke/read.ts';
import type { Tracks } from '../../core/stroke/tracks.ts';
import { tracksOf } from '../storage/sessions';
import { spawnReading } from '../workers/spawn';

export type ReadingState =
  | { status: 'waiting' }
  | { status: 'missing'; what: 'tracks' | 'scale' }
  | { status: 'read'; result: ReadResult; tracks: Tracks };

/** Scale, level and squareness of a take's film (the open one's) from the points on its wheels; null while axles or wheelbase are open. */
export function scaleOf(session: FitSession, take = openTake(session)): ScaleResult | null {
  const { asFound } = session;
  if (!take?.axles.rear || !take.axles.front) return null;
  const { rearTop, rearBottom, frontTop, frontBottom } = take.rims;
  return scaleFromAxles({
    rearAxlePx: take.axles.rear,
    frontAxlePx: take.axles.front,
    wheelbaseMm: asFound.frame.wheelbaseMm ?? 0,
    rims:
      rearTop && rearBottom && frontTop && frontBottom
        ? { rearTop, rearBottom, frontTop, frontBottom }
        : null,
    centrePx: { x: take.video.widthPx / 2, y: take.video.heightPx / 2 },
  });
}

/** What the reading needs from the session beside the tracks; null while the scale is open. */
export function readOptions(session: FitSession, take = openTake(session)): ReadOptions | null {
  const scale = scaleOf(session, take);
  if (!scale?.ok) return null;
  return {
    mmPerPx: scale.mmPerPx,
    levelDeg: scale.levelDeg,
    facing: scale.facing,
    keystone: scale.keystone,
    crankMm: session.asFound.crank.lengthMm ?? undefined,
  };
}

/** The reading of the session's take, computed in a worker whenever tracks or scale have changed. */
export function useReading(session: FitSession): ReadingState {
  const [state, setState] = useState<ReadingState>({ status: 'waiting' });
  const options = readOptions(session);
  const take = openTake(session);
  const key = JSON.stringify([take?.id, take?.tracking, take?.hidden, options]);
  useEffect(() => {
    let ended = false;
    const [, , , given] = JSON.parse(key) as [unknown, unknown, unknown, ReadOptions | null];
    const reading = spawnReading();
    void (async () => {
      const kept = take ? await tracksOf(take) : null;
      const tracks = kept && withoutHidden(kept, take?.hidden ?? []);
      if (ended) return;
      if (!tracks || !given) {
        setState({ status: 'missing', what: tracks ? 'scale' : 'tracks' });
        return;
      }
      const result = await reading.api.readTracks(tracks, given);
      if (!ended) setState({ status: 'read', result, tracks });
    })().catch((error: unknown) => {
      // Into the page's error boundary: a reading that fails is a bug, and is said.
      if (!ended)
        setState(() => {
          throw error;
        });
    });
    return () => {
      ended = true;
      reading.end();
    };
    // `key` holds everything of the session that the reading depends on.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [key]);
  return state;
}
