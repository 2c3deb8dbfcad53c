import { nanoid } from 'nanoid';
import { store } from './database';
import { tellWritten } from './tabs';

/** Records written since the index was last brought up to date: a mark before and after every write outlives any crash. */
const touchedStore = store('touched');

export type TouchedKind = 'rider' | 'session';

interface Touch {
  kind: TouchedKind;
  id: string;
  stamp: string;
}

const touch = (kind: TouchedKind, id: string): Promise<Touch> =>
  touchedStore.setItem<Touch>(`${kind}:${id}`, { kind, id, stamp: nanoid() });

/** A record was found that can't be read: the index looks at it anew. */
export const distrust = async (kind: TouchedKind, id: string): Promise<void> => void (await touch(kind, id));

/** Runs a write of a record between two marks: whoever reads the index in between reads this record once more afterwards. */
export async function touching<T>(kind: TouchedKind, id: string, write: () => Promise<T>): Promise<T> {
  await touch(kind, id);
  const written = await write();
  await touch(kind, id);
  tellWritten(id);
  return written;
}

export async function touched(): Promise<Touch[]> {
  const list: Touch[] = [];
  await touchedStore.iterate<Partial<Touch> | null, void>((t, key) => {
    // A damaged mark still says by its name which record to look at.
    const [kind, id] = [key.slice(0, key.indexOf(':')), key.slice(key.indexOf(':') + 1)];
    if (kind === 'rider' || kind === 'session') list.push({ kind, id, stamp: String(t?.stamp) });
  });
  return list;
}

/** Takes marks off, but for those that were set anew meanwhile. */
export async function settleTouched(list: readonly Touch[]): Promise<void> {
  for (const t of list) {
    const key = `${t.kind}:${t.id}`;
    const now = await touchedStore.getItem<Partial<Touch>>(key);
    if (String(now?.stamp) === t.stamp) await touchedStore.removeItem(key);
  }
}
