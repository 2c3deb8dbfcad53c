import { useEffect, useEffectEvent } from 'react';
import type { ImagePoint } from '../../../core/math/vec.ts';
import type { Tracks } from '../../../core/tracking/tracks.ts';
import { lastSeen, type Review } from './reviewSteps';

const NUDGE_PX = 0.5;

/** The review by keys: n and p from doubt to doubt, arrows nudge, Enter puts right, h hides, x swaps, Escape lets go. */
export function useReviewKeys(review: Review, tracks: Tracks | null, frame: number): void {
  const { selected, draft, busy, nearest } = review;
  const onKey = useEffectEvent((e: KeyboardEvent): void => {
    const typing = e.target instanceof HTMLInputElement && e.target.type !== 'range';
    if (typing || e.ctrlKey || e.metaKey || e.altKey || !tracks) return;
    const own = (run: () => void): void => {
      e.preventDefault();
      e.stopPropagation();
      run();
    };
    if (e.key === 'n') return own(() => review.next(1));
    if (e.key === 'p') return own(() => review.next(-1));
    if (!selected) return undefined;
    const by = NUDGE_PX * (e.shiftKey ? 10 : 1);
    const move: Record<string, ImagePoint> = {
      ArrowLeft: { x: -by, y: 0 },
      ArrowRight: { x: by, y: 0 },
      ArrowUp: { x: 0, y: -by },
      ArrowDown: { x: 0, y: by },
    };
    if (move[e.key]) {
      const from = draft ?? lastSeen(tracks, selected, frame);
      if (!from) return undefined;
      return own(() => review.setDraft({ x: from.x + move[e.key].x, y: from.y + move[e.key].y }));
    }
    // With a place at hand, Enter means it, wherever the focus was left.
    const pressing = e.target instanceof HTMLButtonElement || e.target instanceof HTMLAnchorElement;
    if (e.key === 'Enter' && (draft || !pressing)) return own(() => void review.putRight());
    // While a stretch is followed again nothing else is begun.
    if (busy) return undefined;
    if (e.key === 'h') return own(() => void review.hide());
    if (e.key === 'x') return own(() => void review.swap(nearest[0]));
    if (e.key === 'Escape') return own(() => (draft ? review.setDraft(null) : review.select(null)));
    return undefined;
  });
  useEffect(() => {
    const listen = (e: KeyboardEvent): void => onKey(e);
    window.addEventListener('keydown', listen, { capture: true });
    return () => window.removeEventListener('keydown', listen, { capture: true });
  }, []);
}
