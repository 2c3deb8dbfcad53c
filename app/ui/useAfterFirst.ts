import { useDeferredValue, useEffect } from 'react';

/** Whether a page of the application has been drawn since it was loaded. */
let hasDrawn = false;

/**
 * False while the very first page is drawn, true right after that and on every later one: what is looked at last need not hold up what is
 * looked at first.
 */
export function useAfterFirst(): boolean {
  const afterFirst = useDeferredValue(true, hasDrawn);
  useEffect(() => {
    hasDrawn = true;
  }, []);
  return afterFirst;
}
