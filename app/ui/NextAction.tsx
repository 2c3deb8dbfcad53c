import { createContext, use, type ReactNode } from 'react';
import { createPortal } from 'react-dom';

/** Where the bar under every station has its room for that station’s own main act; null before it is drawn. */
export const NextPlace = createContext<HTMLElement | null>(null);

/** A station’s main act, drawn in the bar that says what is next. */
export function NextAction({ children }: { children: ReactNode }) {
  const place = use(NextPlace);
  return place && createPortal(children, place);
}
