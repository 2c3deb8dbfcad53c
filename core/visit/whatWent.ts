import { complaintName } from '../intake/intake.ts';
import type { FitSession } from '../records/types.ts';

type Item = object;

/** What an edit took out of one of a visit's lists. */
export interface Went {
  /** The list's place in the record. */
  at: string;
  /** What went, in a sentence without its full stop. */
  words: string;
  items: readonly { index: number; item: Item }[];
}

interface List<T extends Item> {
  of: (s: FitSession) => readonly T[];
  keyOf: (item: T) => string;
  words: (gone: readonly T[]) => string | null;
}

const list = <T extends Item>(l: List<T>): List<Item> => l as unknown as List<Item>;

/** Lists from which one press takes something that was typed or decided; takes lie in the trash and have words of their own. */
const LISTS: Readonly<Record<string, List<Item>>> = {
  'intake.complaints': list({
    of: (s) => s.intake.complaints,
    keyOf: (c) => c.id,
    words: (gone) => `Complaint removed: ${gone.map(complaintName).join(', ')}`,
  }),
  followUps: list({
    of: (s) => s.followUps,
    keyOf: (f) => f.id,
    words: (gone) => ['Follow-up removed', ...gone.map((f) => f.why).filter(Boolean)].join(': '),
  }),
  'planning.decisions': list({
    of: (s) => s.planning.decisions,
    keyOf: (d) => d.key,
    // One that is opened again stands in sight.
    words: (gone) => (gone.length > 1 ? `${gone.length} decisions reset` : null),
  }),
};

/** What an edit took out of a visit's lists; null where nothing went. */
export function whatWent(before: FitSession, after: FitSession): Went | null {
  for (const [at, { of, keyOf, words }] of Object.entries(LISTS)) {
    const left = new Set(of(after).map(keyOf));
    const items = of(before).flatMap((item, index) => (left.has(keyOf(item)) ? [] : [{ index, item }]));
    const text = items.length > 0 ? words(items.map((i) => i.item)) : null;
    if (text) return { at, words: text, items };
  }
  return null;
}

/** The list as it is now with what went put back where it stood; what stands there again already is left. */
export function withReturned(now: FitSession, went: Went): Item[] {
  const { of, keyOf } = LISTS[went.at];
  const back = [...of(now)];
  const there = new Set(back.map(keyOf));
  for (const { index, item } of went.items)
    if (!there.has(keyOf(item))) back.splice(Math.min(index, back.length), 0, item);
  return back;
}
