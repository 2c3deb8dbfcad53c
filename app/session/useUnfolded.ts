import { useCallback } from 'react';
import { useStore } from 'zustand';
import { createStore } from 'zustand/vanilla';

/** Which folded parts of which page stand open, as long as this tab does: going to another station and back leaves them. */
const unfolded = createStore<{ open: ReadonlySet<string> }>()(() => ({ open: new Set() }));

/** The folded parts of a page: whether one is open, and opening or folding some. */
export function useUnfolded(page: string): {
  isOpen: (part: string) => boolean;
  unfold: (parts: readonly string[], open: boolean) => void;
} {
  const { open } = useStore(unfolded);
  const isOpen = (part: string): boolean => open.has(`${page}/${part}`);
  const unfold = useCallback(
    (parts: readonly string[], to: boolean) =>
      unfolded.setState((s) => {
        const next = new Set(s.open);
        for (const part of parts) {
          if (to) next.add(`${page}/${part}`);
          else next.delete(`${page}/${part}`);
        }
        return { open: next };
      }),
    [page],
  );
  return { isOpen, unfold };
}
