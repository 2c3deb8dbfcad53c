import { useCallback, useEffect, useRef } from 'react';
import type { ImagePoint } from '../../../core/math/vec.ts';
import { spawnTracker, type Spawned } from '../../workers/spawn';
import type { TrackApi } from '../../workers/track.worker';

/** Draws a place that was pointed at to the sticker under it, in a worker that is kept while the page is; null where there is none. */
export function useSnap(blob: Blob | null): (frame: number, at: ImagePoint) => Promise<ImagePoint | null> {
  const worker = useRef<Spawned<TrackApi> | null>(null);
  const snapping = useRef<Promise<unknown>>(Promise.resolve());
  useEffect(
    () => () => {
      const left = worker.current;
      worker.current = null;
      // A point that was just placed is still drawn to its sticker, and kept.
      void snapping.current.finally(() => left?.end());
    },
    [],
  );
  return useCallback(
    async (frame, at) => {
      if (!blob) return null;
      worker.current ??= spawnTracker();
      const mine = worker.current;
      const centre = mine.api.snap(blob, frame, at).catch(() => {
        // One that broke down is not asked again; the point stays where the finger put it.
        mine.end();
        if (worker.current === mine) worker.current = null;
        return null;
      });
      snapping.current = centre;
      return centre;
    },
    [blob],
  );
}
