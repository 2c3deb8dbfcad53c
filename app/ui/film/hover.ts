import { createStore, type StoreApi } from 'zustand/vanilla';
import type { ImagePoint } from '../../../core/math/vec.ts';

/** A place that changes with every movement of the pointer: watched by the close-up alone, so that the page need not be drawn anew. */
export type HoverStore = StoreApi<{ at: ImagePoint | null }>;

export const newHover = (): HoverStore => createStore<{ at: ImagePoint | null }>()(() => ({ at: null }));
