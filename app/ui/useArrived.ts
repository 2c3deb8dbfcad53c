import { useEffect, useState } from 'react';

/**
 * What a promise brings, as soon as it is there; null before that, and what the one before it brought meanwhile. A boundary that
 * shows something else meanwhile holds back for 300 ms what comes right after it; this draws it at once. What it fails with is
 * thrown for the route's own error page.
 */
export function useArrived<T>(promise: Promise<T>): T | null {
  const [arrived, setArrived] = useState<T | null>(null);
  useEffect(() => {
    let stale = false;
    promise.then(
      (value) => !stale && setArrived(() => value),
      (error: unknown) =>
        setArrived(() => {
          throw error;
        }),
    );
    return () => {
      stale = true;
    };
  }, [promise]);
  return arrived;
}
