import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { useEffect, useEffectEvent, useLayoutEffect, useRef, useState, type RefObject } from 'react';
import { isTyping } from '../typing';

export interface Zoom {
  /** How much closer than the whole picture. */
  by: number;
  closer: () => void;
  further: () => void;
  whole: () => void;
  /** The element that scrolls. */
  room: RefObject<HTMLDivElement | null>;
}

const STEPS = [1, 1.5, 2, 3, 4];

/**
 * How close the film is looked at: by buttons, by + and − and 0, by pinching or the wheel with Ctrl. What lies under the pointer, else in the
 * middle, stays where it is; the rest is reached by scrolling.
 */
export function useZoom(): Zoom {
  const room = useRef<HTMLDivElement | null>(null);
  const [by, setBy] = useState(1);
  /** The place that stays, in shares of the room, and how close it was seen before. */
  const held = useRef<{ x: number; y: number; before: number } | null>(null);
  const step = (way: 1 | -1, at: { x: number; y: number } | null = null): void => {
    const next = STEPS[Math.min(STEPS.length - 1, Math.max(0, STEPS.indexOf(by) + way))];
    held.current = { ...(at ?? { x: 0.5, y: 0.5 }), before: by };
    setBy(next);
  };
  useLayoutEffect(() => {
    const [element, hold] = [room.current, held.current];
    if (!element || !hold) return;
    held.current = null;
    const k = by / hold.before;
    const [x, y] = [hold.x * element.clientWidth, hold.y * element.clientHeight];
    element.scrollTo((element.scrollLeft + x) * k - x, (element.scrollTop + y) * k - y);
  }, [by, room]);
  const onWheel = useEffectEvent((e: WheelEvent): void => {
    if (!e.ctrlKey) return;
    e.preventDefault();
    const box = room.current!.getBoundingClientRect();
    step(e.deltaY < 0 ? 1 : -1, { x: (e.clientX - box.x) / box.width, y: (e.clientY - box.y) / box.height });
  });
  const onKey = useEffectEvent((e: KeyboardEvent): void => {
    if (e.ctrlKey || e.metaKey || e.altKey || isTyping(e)) return;
    if (e.key === '+' || e.key === '=') step(1);
    else if (e.key === '-') step(-1);
    else if (e.key === '0') setBy(1);
  });
  useEffect(() => {
    const element = room.current;
    const wheel = (e: WheelEvent): void => onWheel(e);
    const key = (e: KeyboardEvent): void => onKey(e);
    element?.addEventListener('wheel', wheel, { passive: false });
    window.addEventListener('keydown', key);
    return () => {
      element?.removeEventListener('wheel', wheel);
      window.removeEventListener('keydown', key);
    };
  }, [room]);
  return { by, closer: () => step(1), further: () => step(-1), whole: () => setBy(1), room };
}

/** Closer, further, and the whole picture again. */
export function ZoomButtons({ zoom }: { zoom: Zoom }) {
  const button = (label: string, text: string, onClick: () => void, disabled: boolean) => (
    <Button
      size="small"
      color="inherit"
      aria-label={label}
      title={label}
      disabled={disabled}
      onClick={onClick}
      sx={{ minWidth: 34, minHeight: 34, px: 0.5, fontVariantNumeric: 'tabular-nums' }}
    >
      {text}
    </Button>
  );
  return (
    <Box role="group" aria-label="How close" sx={{ display: 'flex', ml: 1 }}>
      {button('Further', '−', zoom.further, zoom.by === STEPS[0])}
      {button('The whole picture', `${100 * zoom.by} %`, zoom.whole, zoom.by === 1)}
      {button('Closer', '+', zoom.closer, zoom.by === STEPS[STEPS.length - 1])}
    </Box>
  );
}
