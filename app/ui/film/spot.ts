import { createStore, type StoreApi } from 'zustand/vanilla';
import type { Vec2 } from '../../../core/math/vec.ts';

/** A place that changes with every movement of the pointer: watched by the close-up alone, so that the page need not be drawn anew. */
export type SpotStore = StoreApi<{ at: Vec2 | null }>;

export const newSpot = (): SpotStore => createStore<{ at: Vec2 | null }>()(() => ({ at: null }));
