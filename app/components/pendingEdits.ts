import { applyEdit, type SessionEdit } from '../../core/records/edits.ts';
import type { FitSession } from '../../core/records/types.ts';

/** Edits on their way to the store: shown at once, so that the next gesture starts from them and not from what was before. */
interface Pending {
  sessionId: string;
  edit: SessionEdit;
}

let list: readonly Pending[] = [];
let underWay = 0;
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

/** The router draws what it has read back a little after the write has ended: until then the value stays laid over it. */
const LINGER_MS = 300;

/** Shows an edit until every one under way has been stored, read back and drawn. */
export async function whilePending(edit: Pending, store: () => Promise<void>): Promise<void> {
  underWay += 1;
  change([...list, edit]);
  try {
    await store();
  } finally {
    underWay -= 1;
    setTimeout(() => {
      if (underWay === 0 && list.length > 0) change([]);
    }, LINGER_MS);
  }
}

/** The stored session with what is under way laid over it. */
export const withPending = (session: FitSession, pending: readonly Pending[]): FitSession =>
  pending.reduce((s, p) => {
    const shown = p.sessionId === session.id ? applyEdit(s, p.edit) : null;
    return shown?.ok ? shown.session : s;
  }, session);
