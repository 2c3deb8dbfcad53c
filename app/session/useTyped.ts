import {
  createContext,
  createElement,
  useCallback,
  useContext,
  useEffect,
  useId,
  useRef,
  useState,
  type ReactNode,
} from 'react';
import { useLocation } from 'react-router';
import { inBurst } from './burst';
import { dropDraft, keepDraft, readDraft } from '../storage/drafts';
import { holdTyped, onceSaved, typedHandedOver } from '../storage/saveState';

/** How long typing rests before what stands in a field is handed over, ms. */
const REST_MS = 600;

const Place = createContext('');

/** The part of the page that a field stands in, by the places around it. */
export const usePlace = (): string => useContext(Place);

/** Names the part of a page whose fields have labels that stand on it more than once; within another such part it is a part of that. */
export function FieldPlace({ value, children }: { value: string; children?: ReactNode }): ReactNode {
  return createElement(Place, { value: [usePlace(), value].join(' ').trim() }, children);
}

/** What was handed over since this page was loaded, by place: its draft stays until it is stored, and is not handed over a second time. */
const handedOver = new Map<string, string>();

/** What still waits to be handed over; null for nothing. */
function waitingDraft(place: string): string | null {
  const draft = readDraft(place);
  return draft !== null && handedOver.get(place) === draft ? null : draft;
}

/** What a text says: a value to hand over, or why it is none. */
export type ReadText<V> = { ok: true; value: V } | { ok: false; message: string };

interface Typed {
  /** What is being typed; null while the field shows its value. */
  text: string | null;
  trouble: string | null;
  type: (text: string) => void;
  /** The field is left, or Enter was pressed: the text gives way to the value that it stands for. */
  leave: () => void;
  /** What was typed is dropped: the value from before stands again. */
  drop: () => void;
}

/**
 * A field that hands over what it holds while it is typed in, a moment after the last key, and on every way out: left, navigated away
 * from, the page hidden or closed. What is refused or half typed is kept as a draft, with its message, until it is put right.
 * @param name the field's own name in its place on the page  @param value the one that stands
 */
// eslint-disable-next-line max-lines-per-function -- what it gives shares its state
export function useTyped<V>(
  name: string,
  { value, read, onChange }: { value: V; read: (text: string) => ReadText<V>; onChange: (value: V) => void },
): Typed {
  const place = [useLocation().pathname, usePlace(), name].join(' ');
  const field = useId();
  const [text, setText] = useState<string | null>(() => waitingDraft(place));
  const [trouble, setTrouble] = useState<string | null>(() => {
    const draft = waitingDraft(place);
    const first = draft === null ? null : read(draft);
    return first && !first.ok ? first.message : null;
  });
  const timer = useRef<ReturnType<typeof setTimeout> | null>(null);
  const go = useRef(0);
  /** What stood before this go; set once something was handed over. */
  const before = useRef<{ value: V } | null>(null);
  const latest = useRef({ value, read, onChange, text });
  useEffect(() => {
    latest.current = { value, read, onChange, text };
  });

  /** @param left whether the field is left: then a text that stands for no value is reported, and one that does is let go */
  const handOver = useCallback(
    (left: boolean): void => {
      if (timer.current) clearTimeout(timer.current);
      timer.current = null;
      const { text: typed, ...now } = latest.current;
      if (typed === null) return;
      const got = now.read(typed);
      if (!got.ok) {
        typedHandedOver(place);
        if (left) setTrouble(got.message);
        return;
      }
      setTrouble(null);
      handedOver.set(place, typed);
      // Only what the store has needs no draft any more.
      onceSaved(() => readDraft(place) === typed && dropDraft(place));
      if (!Object.is(now.value, got.value)) {
        before.current ??= { value: now.value };
        inBurst(`${field} ${go.current}`, () => now.onChange(got.value));
      }
      typedHandedOver(place);
      if (left) {
        latest.current.text = null;
        before.current = null;
        setText(null);
      }
    },
    [place, field],
  );
  // A draft that stands for a value was on its way when the page went: it is handed over now.
  useEffect(() => handOver(true), [handOver]);
  useEffect(() => {
    const hide = (): void => handOver(false);
    document.addEventListener('visibilitychange', hide);
    window.addEventListener('pagehide', hide);
    return () => {
      document.removeEventListener('visibilitychange', hide);
      window.removeEventListener('pagehide', hide);
      // Navigated away without leaving the field.
      handOver(false);
    };
  }, [handOver]);
  return {
    text,
    trouble,
    type: (next) => {
      if (text === null) go.current += 1;
      latest.current.text = next;
      setText(next);
      setTrouble(null);
      handedOver.delete(place);
      keepDraft(place, next);
      holdTyped(place);
      if (timer.current) clearTimeout(timer.current);
      timer.current = setTimeout(() => handOver(false), REST_MS);
    },
    leave: () => handOver(true),
    drop: () => {
      if (timer.current) clearTimeout(timer.current);
      dropDraft(place);
      typedHandedOver(place);
      const was = before.current;
      if (was) inBurst(`${field} ${go.current}`, () => latest.current.onChange(was.value));
      before.current = null;
      latest.current.text = null;
      setText(null);
      setTrouble(null);
    },
  };
}
