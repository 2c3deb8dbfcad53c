import { useEffect, useRef, useState } from 'react';

/** Figures that change faster nobody reads. */
export const READ_MS = 60;

/** A value that goes on changing, passed on no more often than this; what it comes to rest at always is. */
export function useAtMostEvery<T>(ms: number, value: T): T {
  const [passedOn, setPassedOn] = useState(value);
  const lastMs = useRef(-Infinity);
  useEffect(() => {
    const wait = lastMs.current + ms - performance.now();
    const timer = setTimeout(
      () => {
        lastMs.current = performance.now();
        setPassedOn(value);
      },
      Math.max(0, wait),
    );
    return () => clearTimeout(timer);
  }, [ms, value]);
  return passedOn;
}
