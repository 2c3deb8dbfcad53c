import type { SessionEdit } from '../../core/records/edits.ts';

/** How many edits of a session can be taken back. */
const DEPTH = 200;

interface Past {
  undo: SessionEdit[];
  redo: SessionEdit[];
}

/** What takes each edit of this tab's sessions back, newest last. It lives as long as the page. */
const pasts = new Map<string, Past>();

function pastOf(id: string): Past {
  let past = pasts.get(id);
  if (!past) {
    past = { undo: [], redo: [] };
    pasts.set(id, past);
  }
  return past;
}

/** Notes what would take an edit back; whatever was undone before can no longer be redone. */
export function note(id: string, inverse: SessionEdit): void {
  const past = pastOf(id);
  past.undo = [...past.undo.slice(1 - DEPTH), inverse];
  past.redo = [];
}

export const canStep = (id: string): { undo: boolean; redo: boolean } => {
  const past = pasts.get(id);
  return { undo: Boolean(past?.undo.length), redo: Boolean(past?.redo.length) };
};

/** Forgets a session's past; the films that only an undo could have brought back. */
export function forgetPast(id: string): string[] {
  const past = pasts.get(id);
  pasts.delete(id);
  return [...(past?.undo ?? []), ...(past?.redo ?? [])].flatMap((edit) => {
    return edit.kind === 'restored' ? (edit.part.takes ?? []).map((t) => t.id) : [];
  });
}

/** The edit that steps back (or forward again), without taking it off yet. */
export const nextStep = (id: string, which: 'undo' | 'redo'): SessionEdit | null =>
  pasts.get(id)?.[which].at(-1) ?? null;

/** After a step: it is taken off its pile, and its own inverse goes on to the other. */
export function stepped(id: string, which: 'undo' | 'redo', inverse: SessionEdit): void {
  const past = pastOf(id);
  past[which] = past[which].slice(0, -1);
  const other = which === 'undo' ? 'redo' : 'undo';
  past[other] = [...past[other], inverse];
}
