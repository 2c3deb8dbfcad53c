import { nanoid } from 'nanoid';

const KEY = 'deep-angle:tab';
const lockOf = (tab: string): string => `deep-angle:tab:${tab}`;

/** The tabs of this browser that are open now; null where the browser does not tell. */
export async function openTabs(): Promise<ReadonlySet<string> | null> {
  if (typeof navigator === 'undefined' || !('locks' in navigator) || !navigator.locks.query) return null;
  const { held = [] } = await navigator.locks.query();
  const prefix = lockOf('');
  return new Set(
    held.flatMap(({ name = '' }) => (name.startsWith(prefix) ? [name.slice(prefix.length)] : [])),
  );
}

async function chosen(): Promise<string> {
  const fresh = nanoid();
  if (typeof sessionStorage === 'undefined' || !('locks' in navigator)) return fresh;
  // The same tab drawn anew keeps its name; a tab that was copied from another one gets its own.
  const kept = sessionStorage.getItem(KEY);
  const tab = kept === null || (await openTabs())?.has(kept) ? fresh : kept;
  sessionStorage.setItem(KEY, tab);
  // Held until the tab goes, one way or another.
  void navigator.locks.request(lockOf(tab), () => new Promise<never>(() => undefined));
  return tab;
}

let claim: Promise<string> | null = null;

/** What this tab is called: its steps are its own to take back. */
export const thisTab = (): Promise<string> => (claim ??= chosen());
