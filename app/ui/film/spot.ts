import { createStore, type StoreApi } from 'zustand/vanilla';
import type { ImagePoint } from '../../../core/math/vec.ts';

/** A place that changes with every movement of the pointer: watched by the close-up alone, so that the page need not be drawn anew. */
export type SpotStore = StoreApi<{ at: ImagePoint | null }>;

export const newSpot = (): SpotStore => createStore<{ at: ImagePoint | null }>()(() => ({ at: null }));
