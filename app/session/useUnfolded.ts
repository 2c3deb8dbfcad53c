import { useCallback } from 'react';
import { useStore } from 'zustand';
import { createJSONStorage, persist } from 'zustand/middleware';
import { createStore } from 'zustand/vanilla';

/** Which folded parts of which page stand open, as long as this tab does: going elsewhere and reloading leave them. */
const unfolded = createStore<{ open: readonly string[] }>()(
  persist(() => ({ open: [] as readonly string[] }), {
    name: 'deep-angle-unfolded',
    storage: createJSONStorage(() => sessionStorage),
  }),
);

/** The folded parts of a page: whether one is open, and opening or folding some. */
export function useUnfolded(page: string): {
  isOpen: (part: string) => boolean;
  unfold: (parts: readonly string[], open: boolean) => void;
} {
  const { open } = useStore(unfolded);
  const isOpen = (part: string): boolean => open.includes(`${page}/${part}`);
  const unfold = useCallback(
    (parts: readonly string[], to: boolean) =>
      unfolded.setState((s) => {
        const named = parts.map((part) => `${page}/${part}`);
        const others = s.open.filter((part) => !named.includes(part));
        return { open: to ? [...others, ...named] : others };
      }),
    [page],
  );
  return { isOpen, unfold };
}
