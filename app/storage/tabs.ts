/** What one tab tells the others of this browser: that a session was written, that somebody works on it, asks who does, or has left it. */
interface Word {
  kind: 'wrote' | 'here' | 'who' | 'gone';
  sessionId: string;
  tab: string;
}

const TAB = Math.random().toString(36).slice(2);
const channel = typeof BroadcastChannel === 'undefined' ? null : new BroadcastChannel('deep-angle');

const say = (kind: Word['kind'], sessionId: string): void =>
  channel?.postMessage({ kind, sessionId, tab: TAB } satisfies Word);

/** Tells the other tabs that a record was stored anew or is gone: a rider, a visit, or one of the studio's own. */
export const tellWritten = (id: string): void => say('wrote', id);

/**
 * Listens for anything that other tabs store.
 * @returns ends the listening
 */
export function followStudio(onWritten: () => void): () => void {
  if (!channel) return () => undefined;
  let waits: ReturnType<typeof setTimeout> | undefined;
  const hear = ({ data }: MessageEvent<Word>): void => {
    if (data.kind !== 'wrote') return;
    // Many come at once: a restore, or somebody typing.
    clearTimeout(waits);
    waits = setTimeout(onWritten, 400);
  };
  channel.addEventListener('message', hear);
  return () => {
    clearTimeout(waits);
    channel.removeEventListener('message', hear);
  };
}

/**
 * Listens for other tabs on the same session.
 * @param onWritten another tab has stored an edit  @param onCompany whether another tab is open on it
 * @returns ends the listening
 */
export function followSession(
  sessionId: string,
  onWritten: () => void,
  onCompany: (others: boolean) => void,
): () => void {
  if (!channel) return () => undefined;
  const seen = new Map<string, number>();
  const hear = ({ data }: MessageEvent<Word>): void => {
    if (data.sessionId !== sessionId) return;
    // Who writes is not company by that: a tab's last edit may be stored after it has left.
    if (data.kind === 'wrote') return onWritten();
    if (data.kind === 'who') say('here', sessionId);
    if (data.kind === 'gone') seen.delete(data.tab);
    else seen.set(data.tab, Date.now());
    onCompany(seen.size > 0);
  };
  const leave = (): void => say('gone', sessionId);
  channel.addEventListener('message', hear);
  globalThis.addEventListener?.('pagehide', leave);
  say('who', sessionId);
  // A tab that was killed says nothing, and no longer answers.
  const ask = setInterval(() => {
    for (const [tab, at] of seen) if (Date.now() - at > 9000) seen.delete(tab);
    onCompany(seen.size > 0);
    say('who', sessionId);
  }, 4000);
  return () => {
    channel.removeEventListener('message', hear);
    globalThis.removeEventListener?.('pagehide', leave);
    clearInterval(ask);
    leave();
  };
}

const turns = new Map<string, Promise<unknown>>();

/** Without locks: one after another in this page at least. */
function inTurn<T>(what: string, work: () => Promise<T>): Promise<T> {
  const mine = (turns.get(what) ?? Promise.resolve()).then(work, work);
  turns.set(what, mine);
  return mine;
}

/**
 * Runs a read-change-write so that no other tab's comes between: an edit is never lost under another one.
 */
export async function alone<T>(what: string, work: () => Promise<T>): Promise<T> {
  if (!('locks' in navigator)) return inTurn(what, work);
  // The lock's own result is typed loosely; the work's goes out by hand.
  let result!: T;
  await navigator.locks.request(`deep-angle:${what}`, async () => {
    result = await work();
  });
  return result;
}
