import { useEffect, useState } from 'react';

/** What a page is drawn from: there already, or to come. */
export interface Arriving<T> {
  now: T | null;
  later: Promise<T>;
}

/** What is read this quickly is waited for: the page is then drawn once, not first without it. */
const MOMENT_MS = 80;

export async function arriving<T>(later: Promise<T>): Promise<Arriving<T>> {
  const moment = new Promise<null>((pass) => setTimeout(pass, MOMENT_MS, null));
  // What it fails with is thrown where it is drawn.
  return { now: await Promise.race([later.catch(() => null), moment]), later };
}

/**
 * What a loader brings, as soon as it is there; null before that, and what the one before it brought meanwhile. A boundary that
 * shows something else meanwhile holds back for 300 ms what comes right after it; this draws it at once. What it fails with is
 * thrown for the route's own error page.
 */
export function useArrived<T>({ now, later }: Arriving<T>): T | null {
  const [arrived, setArrived] = useState(now);
  if (now !== null && now !== arrived) setArrived(() => now);
  useEffect(() => {
    if (now !== null) return undefined;
    let stale = false;
    later.then(
      (value) => !stale && setArrived(() => value),
      (error: unknown) =>
        setArrived(() => {
          throw error;
        }),
    );
    return () => {
      stale = true;
    };
  }, [now, later]);
  return now ?? arrived;
}
