import { useEffect, useState } from 'react';
import type { FitSession, Take } from '../../core/records/types.ts';
import type { Reading } from '../../core/stroke/read.ts';
import { withoutHidden } from '../../core/stroke/review.ts';
import { tracksOf } from '../storage/sessions';
import { spawnReading } from '../workers/spawn';
import { readOptions } from './useReading';

export interface TakeReading {
  take: Take;
  reading: Reading;
}

/** The readings of further takes of a visit; those that can't be read are left out. */
export function useTakeReadings(session: FitSession, takeIds: readonly string[]): readonly TakeReading[] {
  const [readings, setReadings] = useState<readonly TakeReading[]>([]);
  const wanted = session.takes.filter((t) => takeIds.includes(t.id));
  const key = JSON.stringify(wanted.map((t) => [t.id, t.tracking, t.hidden, readOptions(session, t)]));
  useEffect(() => {
    if (wanted.length === 0) {
      setReadings([]);
      return undefined;
    }
    let ended = false;
    const worker = spawnReading();
    void (async () => {
      const out: TakeReading[] = [];
      for (const take of wanted) {
        const options = readOptions(session, take);
        const tracks = options && (await tracksOf(take));
        if (ended) return;
        if (!tracks || !options) continue;
        const result = await worker.api.readTracks(withoutHidden(tracks, take.hidden), options);
        if (result.ok) out.push({ take, reading: result });
      }
      if (!ended) setReadings(out);
    })().catch(() => undefined);
    return () => {
      ended = true;
      worker.end();
    };
    // `key` holds everything that the readings depend on.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [key]);
  return readings;
}
