import { RECORD_VERSIONS } from '../../core/records/migrations.ts';
import { checkRecord } from '../../core/records/schemas.ts';
import { summaryOfVisit, withRecords, type StudioIndex } from '../../core/records/summaries.ts';
import type { FitSession, Rider } from '../../core/records/types.ts';
import { alone } from './tabs';
import { riderStore, sessionStore, settingsStore } from './stores';
import { settleTouched, touched, type TouchedKind } from './touched';

/** Kept as JSON text: a browser reads that several times faster than as many objects. */
const KEY = 'studio-index';

/** Counts up when what a summary holds changes; with newer record shapes the index is made anew as well. */
const SHAPE = `4/${RECORD_VERSIONS.rider}/${RECORD_VERSIONS.session}`;

interface StoredIndex extends StudioIndex {
  shape: string;
  /** Records that can't be read, as “kind:id”. */
  unread: string[];
}

const BLANK: StoredIndex = { shape: SHAPE, riders: [], visits: [], unread: [] };

/** Reads every record: once after an update, or when the index does not fit what is stored. */
async function fromAllRecords(): Promise<StoredIndex> {
  const index: StoredIndex = { ...BLANK, riders: [], visits: [], unread: [] };
  await riderStore.iterate<unknown, void>((stored, key) => {
    const checked = checkRecord('rider', stored);
    if (checked.ok) index.riders.push(checked.value);
    else index.unread.push(`rider:${key}`);
  });
  await sessionStore.iterate<unknown, void>((stored, key) => {
    const checked = checkRecord('session', stored);
    if (checked.ok) index.visits.push(summaryOfVisit(checked.value));
    else index.unread.push(`session:${key}`);
  });
  return index;
}

const count = (index: StoredIndex, kind: TouchedKind): number =>
  (kind === 'rider' ? index.riders : index.visits).length +
  index.unread.filter((u) => u.startsWith(`${kind}:`)).length;

/** Brings the index up to date with the records touched since. */
async function withTouched(
  index: StoredIndex,
  marks: Awaited<ReturnType<typeof touched>>,
): Promise<StoredIndex> {
  const riders = new Map<string, Rider | null>();
  const sessions = new Map<string, FitSession | null>();
  const unread = new Set(index.unread);
  for (const { kind, id } of marks) {
    const stored = await (kind === 'rider' ? riderStore : sessionStore).getItem(id);
    unread.delete(`${kind}:${id}`);
    const checked = stored === null ? null : checkRecord(kind, stored);
    if (checked && !checked.ok) unread.add(`${kind}:${id}`);
    const value = checked?.ok ? checked.value : null;
    if (kind === 'rider') riders.set(id, value as Rider | null);
    else sessions.set(id, value as FitSession | null);
  }
  return { ...index, ...withRecords(index, riders, sessions), unread: [...unread] };
}

/** Riders and visits as lists show them, and how many records can't be read. One stored record, brought up to date when needed. */
export function studioIndex(): Promise<{ index: StudioIndex; unread: number }> {
  return alone('studio-index', async () => {
    const [text, marks, ...counts] = await Promise.all([
      settingsStore.getItem<string>(KEY),
      touched(),
      riderStore.length(),
      sessionStore.length(),
    ]);
    const stored = text === null ? null : (JSON.parse(text) as StoredIndex);
    const usable = stored?.shape === SHAPE ? stored : null;
    let index = usable ?? (await fromAllRecords());
    if (usable && marks.length > 0) index = await withTouched(usable, marks);
    const fits = counts[0] === count(index, 'rider') && counts[1] === count(index, 'session');
    // A record that came or went some other way, or is being written by another tab right now.
    if (!fits) index = await fromAllRecords();
    if (index !== stored) {
      await settingsStore.setItem(KEY, JSON.stringify(index));
      await settleTouched(marks);
    }
    return { index: { riders: index.riders, visits: index.visits }, unread: index.unread.length };
  });
}
