import { applyEdit, type SessionEdit } from '../../core/records/edits.ts';
import type { FitSession } from '../../core/records/types.ts';

/** Edits on their way to the store: shown at once, so that the next gesture starts from them and not from what was before. */
interface Pending {
  sessionId: string;
  edit: SessionEdit;
  /** When it had been stored (page time, ms); null before that. */
  storedMs: number | null;
}

let list: readonly Pending[] = [];
const listeners = new Set<() => void>();

function change(next: readonly Pending[]): void {
  list = next;
  listeners.forEach((tell) => tell());
}

export const readPending = (): readonly Pending[] => list;

export function watchPending(tell: () => void): () => void {
  listeners.add(tell);
  return () => listeners.delete(tell);
}

/** Shows an edit until the session that is read back has it: the router draws that a little after the write has ended. */
export async function whilePending(
  sessionId: string,
  edit: SessionEdit,
  store: () => Promise<void>,
): Promise<void> {
  const entry: Pending = { sessionId, edit, storedMs: null };
  change([...list, entry]);
  try {
    await store();
  } finally {
    entry.storedMs = performance.now();
    change([...list]);
  }
}

/** After this time what is stored counts, whatever it says: another tab may have changed the same value. */
const LONGEST_MS = 4000;

/** Takes off what the session as it is stored has by now (or has refused). Later edits are kept with those before them. */
export function settlePending(stored: FitSession): void {
  const has = ({ edit, storedMs }: Pending): boolean => {
    if (storedMs === null) return false;
    if (performance.now() - storedMs > LONGEST_MS) return true;
    const again = applyEdit(stored, edit);
    return !again.ok || JSON.stringify(again.session) === JSON.stringify(stored);
  };
  const mine = list.filter((p) => p.sessionId === stored.id);
  // An edit that a later one has overtaken is never seen in what is stored: the last one decides.
  const last = mine.at(-1);
  if (last && mine.every((p) => p.storedMs !== null) && has(last))
    change(list.filter((p) => !mine.includes(p)));
}

/** The stored session with what is under way laid over it. */
export const withPending = (session: FitSession, pending: readonly Pending[]): FitSession =>
  pending.reduce((s, p) => {
    const shown = p.sessionId === session.id ? applyEdit(s, p.edit) : null;
    return shown?.ok ? shown.session : s;
  }, session);
