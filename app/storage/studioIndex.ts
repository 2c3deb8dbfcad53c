import { RECORD_VERSIONS } from '../../core/records/migrations.ts';
import { checkRecord } from '../../core/records/schemas.ts';
import { unreadable, type Unreadable } from '../../core/records/unreadable.ts';
import { summaryAtSight } from '../../core/visit/summaryAtSight.ts';
import {
  summaryOfVisit,
  withRecords,
  type StudioIndex,
  type VisitSummary,
} from '../../core/visit/summaries.ts';
import type { FitSession, Rider } from '../../core/records/types.ts';
import { eachRecord } from './database';
import { alone } from './tabs';
import { riderStore, sessionStore, settingsStore } from './stores';
import { distrust, settleTouched, touched, type TouchedKind } from './touched';

/** Kept as JSON text: a browser reads that several times faster than as many objects. */
const KEY = 'studio-index';

/** Counts up when what a summary holds changes; with newer record shapes the index is made anew as well. */
const SHAPE = `7/${RECORD_VERSIONS.rider}/${RECORD_VERSIONS.session}`;

interface StoredIndex extends StudioIndex {
  shape: string;
  unreadable: Unreadable[];
  /** Whether every visit in it was checked to its last part; at sight only what a summary holds is. */
  whole: boolean;
}

function wholeSummary(stored: unknown): VisitSummary | null {
  const checked = checkRecord('session', stored);
  return checked.ok ? summaryOfVisit(checked.value) : null;
}

/** Reads every record at sight: once after an update, or when the index does not fit what is stored. */
async function fromAllRecords(): Promise<StoredIndex> {
  const index: StoredIndex = { shape: SHAPE, riders: [], visits: [], unreadable: [], whole: false };
  await eachRecord(riderStore, 400, (stored, key) => {
    const checked = checkRecord('rider', stored);
    if (checked.ok) index.riders.push(checked.value);
    else index.unreadable.push(unreadable('rider', key, stored));
  });
  await eachRecord(sessionStore, 400, (stored, key) => {
    const summary = summaryAtSight(stored) ?? wholeSummary(stored);
    if (summary) index.visits.push(summary);
    else index.unreadable.push(unreadable('session', key, stored));
  });
  return index;
}

const count = (index: StoredIndex, kind: TouchedKind): number =>
  (kind === 'rider' ? index.riders : index.visits).length +
  index.unreadable.filter((u) => u.kind === kind).length;

/** Brings the index up to date with the records touched since. */
async function withTouched(
  index: StoredIndex,
  marks: Awaited<ReturnType<typeof touched>>,
): Promise<StoredIndex> {
  const riders = new Map<string, Rider | null>();
  const sessions = new Map<string, FitSession | null>();
  let unread = index.unreadable;
  for (const { kind, id } of marks) {
    const stored = await (kind === 'rider' ? riderStore : sessionStore).getItem(id);
    unread = unread.filter((u) => u.kind !== kind || u.id !== id);
    const checked = stored === null ? null : checkRecord(kind, stored);
    if (checked && !checked.ok) unread = [...unread, unreadable(kind, id, stored)];
    const value = checked?.ok ? checked.value : null;
    if (kind === 'rider') riders.set(id, value as Rider | null);
    else sessions.set(id, value as FitSession | null);
  }
  return { ...index, ...withRecords(index, riders, sessions), unreadable: unread };
}

/** The index as it was stored; null where there is none of this shape, or it is damaged: it can be made anew. */
function parsed(text: unknown): StoredIndex | null {
  try {
    const stored = JSON.parse(String(text)) as StoredIndex | null;
    const whole =
      stored?.shape === SHAPE &&
      [stored.riders, stored.visits, stored.unreadable].every(
        (list) => Array.isArray(list) && !list.includes(null as never),
      );
    return whole ? stored : null;
  } catch {
    return null;
  }
}

/** Riders and visits as lists show them, and the records that can't be read. */
export interface StudioNow {
  index: StudioIndex;
  unreadable: Unreadable[];
  /** Whether every visit was checked to its last part. */
  whole: boolean;
}

/**
 * The studio’s index after every visit has been checked to its last part, which takes seconds in a studio of many years: asked
 * for before anything is removed by what no visit names.
 */
export async function wholeIndex(): Promise<StudioNow> {
  const now = await studioIndex();
  if (now.whole) return now;
  const broken: string[] = [];
  await eachRecord(sessionStore, 10, (stored, key) => {
    if (!checkRecord('session', stored).ok) broken.push(key);
  });
  for (const id of broken) await distrust('session', id);
  await alone('studio-index', async () => {
    const stored = parsed(await settingsStore.getItem(KEY));
    if (stored) await settingsStore.setItem(KEY, JSON.stringify({ ...stored, whole: true }));
  });
  return studioIndex();
}

/** The studio’s index: one stored record, brought up to date when needed, made anew where it is damaged. */
export function studioIndex(): Promise<StudioNow> {
  return alone('studio-index', async () => {
    const [text, marks, ...counts] = await Promise.all([
      settingsStore.getItem(KEY),
      touched(),
      riderStore.length(),
      sessionStore.length(),
    ]);
    const stored = parsed(text);
    // What was found broken is marked: read at sight it would pass.
    const madeAnew = async (): Promise<StoredIndex> => withTouched(await fromAllRecords(), marks);
    let index = stored ?? (await madeAnew());
    if (stored && marks.length > 0) index = await withTouched(stored, marks);
    const fits = counts[0] === count(index, 'rider') && counts[1] === count(index, 'session');
    // A record that came or went some other way, or is being written by another tab right now.
    if (!fits) index = await madeAnew();
    if (index !== stored) {
      // A full device keeps no index: then it is made anew the next time as well.
      await settingsStore
        .setItem(KEY, JSON.stringify(index))
        .then(() => settleTouched(marks))
        .catch(() => undefined);
    }
    const { riders, visits, unreadable: unread, whole } = index;
    return { index: { riders, visits }, unreadable: unread, whole };
  });
}
