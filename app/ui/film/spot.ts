import type { Vec2 } from '../../../core/math/vec.ts';

/** A place that changes with every movement of the pointer: watched by the close-up alone, so that the page need not be drawn anew. */
export interface SpotStore {
  get: () => Vec2 | null;
  set: (at: Vec2 | null) => void;
  watch: (tell: () => void) => () => void;
}

export function newSpot(): SpotStore {
  let at: Vec2 | null = null;
  const watchers = new Set<() => void>();
  return {
    get: () => at,
    set(next) {
      at = next;
      watchers.forEach((tell) => tell());
    },
    watch(tell) {
      watchers.add(tell);
      return () => watchers.delete(tell);
    },
  };
}
