import { useDeferredValue, useEffect } from 'react';
import { createStore } from 'zustand/vanilla';

/** Whether a page of the application has been drawn since it was loaded. */
const drawnStore = createStore<{ isDrawn: boolean }>()(() => ({ isDrawn: false }));

/**
 * False while the very first page is drawn, true right after that and on every later one: what is looked at last need not hold up what is
 * looked at first.
 */
export function useAfterFirst(): boolean {
  const isDrawn = useDeferredValue(true, drawnStore.getState().isDrawn);
  useEffect(() => drawnStore.setState({ isDrawn: true }), []);
  return isDrawn;
}
