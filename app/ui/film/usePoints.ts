import { useCallback, useEffect, useEffectEvent, useRef, useState } from 'react';
import type { ImagePoint } from '../../../core/math/vec.ts';
import { holdTyped, typedHandedOver } from '../../storage/saveState';
import { nextOpen, samePoints, type BoardItem, type BoardPoints } from './boardPoints';

/** How far an arrow key moves a point, px of the film. */
export const NUDGE_PX = 0.25;

/** What a board's points are, and where they go. */
export interface PointsOf {
  items: readonly BoardItem[];
  stored: BoardPoints;
  /** The frame that the stored points belong to; null where they hold on every frame. */
  boundFrame: number | null;
  /** Pulls a place to the sticker under it; null for points that carry no sticker. */
  snap: ((frame: number, at: ImagePoint) => Promise<ImagePoint | null>) | null;
  onChange: (points: BoardPoints, frame: number) => void;
  /** While edits are on their way, what is stored lags behind what stands here. */
  busy: boolean;
}

/**
 * The points of a board: shown at once, handed over with every settled change, and following what is stored.
 * @param shown the frame that the film stands on
 */
// eslint-disable-next-line max-lines-per-function -- what it gives shares its state
export function usePoints({
  items,
  stored,
  busy,
  boundFrame,
  snap,
  onChange,
  shown,
}: PointsOf & { shown: number }) {
  const [points, setPoints] = useState<BoardPoints>(stored);
  const [selected, setSelected] = useState<string | null>(nextOpen(items, stored));
  const live = useRef(points);
  /** Points that are placed and whose stickers are being looked for. */
  const placing = useRef(0);
  const storedJson = JSON.stringify(stored);
  useEffect(() => {
    // An undo, or another tab: what is stored now is shown.
    const now = JSON.parse(storedJson) as BoardPoints;
    // Stored meanwhile was what stood before a point that is being placed: it would go, and be asked for again.
    if (busy || placing.current > 0 || samePoints(now, live.current)) return;
    live.current = now;
    setPoints(now);
    // A point that was chosen meanwhile stays chosen.
    setSelected((chosen) => (chosen && now[chosen] ? chosen : nextOpen(items, now)));
  }, [busy, storedJson, items]);

  const count = Object.keys(points).length;
  const elsewhere = boundFrame !== null && count > 0 && shown !== boundFrame;
  const frame = boundFrame !== null && count > 0 ? boundFrame : shown;

  const settle = useCallback(
    (change: (now: BoardPoints) => BoardPoints): BoardPoints => {
      const next = change(live.current);
      setPoints(next);
      live.current = next;
      onChange(next, frame);
      return next;
    },
    [onChange, frame],
  );

  const put = useCallback(
    async (key: string, at: ImagePoint, pull: boolean) => {
      // Placed, and not handed over before its sticker is found: that is not saved yet.
      const name = `placing ${key}`;
      if (pull && snap) holdTyped(name);
      placing.current += 1;
      try {
        const centre = pull && snap ? await snap(frame, at) : null;
        return settle((now) => ({ ...now, [key]: { ...(centre ?? at), onSticker: centre !== null } }));
      } finally {
        placing.current -= 1;
        typedHandedOver(name);
      }
    },
    [snap, frame, settle],
  );

  const place = async (at: ImagePoint): Promise<void> => {
    if (elsewhere) return;
    // What a click before this one has put stands already, whether or not its sticker has been found yet.
    const key = selected && !live.current[selected] ? selected : nextOpen(items, live.current);
    if (!key) {
      setSelected(null);
      return;
    }
    const next = { ...live.current, [key]: { ...at, onSticker: false } };
    live.current = next;
    setPoints(next);
    setSelected(nextOpen(items, next) ?? key);
    await put(key, at, true);
  };
  const pointNow = (key: string): ImagePoint | null => live.current[key] ?? null;
  return { points, pointNow, selected, setSelected, elsewhere, settle, put, place };
}

/**
 * The chosen point by keys. Without a pointer Enter puts what is asked for into the middle, arrows move it, Enter draws it to its
 * sticker.
 */
export function usePointKeys({
  selected,
  pointOf,
  middle,
  onPut,
  onRemove,
}: {
  /** Null while none can be moved. */
  selected: string | null;
  pointOf: (key: string) => ImagePoint | null;
  middle: ImagePoint | null;
  /** @param pull it is drawn to its sticker */
  onPut: (key: string, at: ImagePoint, pull: boolean) => void;
  onRemove: (key: string) => void;
}): void {
  const press = useEffectEvent((e: KeyboardEvent): void => {
    if (e.target instanceof HTMLInputElement && e.target.type !== 'range') return;
    if (e.ctrlKey || e.metaKey || !selected) return;
    const point = pointOf(selected);
    if (e.key === 'Enter' && (e.target === document.body || e.target instanceof HTMLCanvasElement)) {
      e.preventDefault();
      if (point) onPut(selected, point, true);
      else if (middle) onPut(selected, middle, false);
      return;
    }
    if (!point) return;
    const by = NUDGE_PX * (e.shiftKey ? 8 : 1);
    const move: Record<string, ImagePoint> = {
      ArrowLeft: { x: -by, y: 0 },
      ArrowRight: { x: by, y: 0 },
      ArrowUp: { x: 0, y: -by },
      ArrowDown: { x: 0, y: by },
    };
    if (e.key === 'Delete' || e.key === 'Backspace') {
      e.preventDefault();
      onRemove(selected);
    } else if (move[e.key]) {
      e.preventDefault();
      onPut(selected, { x: point.x + move[e.key].x, y: point.y + move[e.key].y }, false);
    }
  });
  useEffect(() => {
    // Before the slider of the transport or a focused list takes the arrow keys for itself.
    const onKey = (e: KeyboardEvent): void => press(e);
    window.addEventListener('keydown', onKey, { capture: true });
    return () => window.removeEventListener('keydown', onKey, { capture: true });
  }, []);
}
