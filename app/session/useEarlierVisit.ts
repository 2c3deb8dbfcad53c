import { useEffect, useState } from 'react';
import type { FitSession } from '../../core/records/types.ts';
import { loadSession } from '../storage/sessions';

/** The visit that this one goes on from; null while it is read, or where there is none. */
export function useEarlierVisit({ followsId }: Pick<FitSession, 'followsId'>): FitSession | null {
  const [earlier, setEarlier] = useState<FitSession | null>(null);
  useEffect(() => {
    if (followsId === null) return undefined;
    let ended = false;
    void loadSession(followsId).then((stored) => {
      if (!ended && stored?.ok) setEarlier(stored.value);
    });
    return () => {
      ended = true;
    };
  }, [followsId]);
  return followsId !== null && earlier?.id === followsId ? earlier : null;
}
