import { putValue, valueAt } from '../bike/path.ts';
import { NOT_TESTED } from '../body/bodyTests.ts';

/** The parts of a session that are edited one value at a time. */
const EDITABLE = ['intake', 'body', 'asFound', 'final', 'changes', 'statics', 'planning', 'handOver'];

/** The parts of a session that are set as a whole. */
const WHOLE = ['asFound', 'final', 'plan', 'followUps', 'startedIso'];

/** What is stated about a take, beside what is pointed out and followed on it. */
const OF_TAKE =
  /^takes\.#[A-Za-z0-9_-]{1,40}\.(view|position|effort|effortW|cadenceRpm|pairWith|note|trim|devices)$/;

/** Words of the fitter's own in place of proposed ones: none (null) lets the proposed ones stand again. */
const OWN_WORDS = /^handOver\.texts\.[A-Za-z]+$/;

function withoutKey<T extends object>(record: T, names: readonly string[]): T | null {
  const owner = names.slice(0, -1).join('.');
  const held = valueAt(record, owner);
  if (typeof held !== 'object' || held === null) return null;
  const kept = Object.entries(held).filter(([key]) => key !== names.at(-1));
  return putValue(record, owner, Object.fromEntries(kept));
}

const resultsOf = (record: object): unknown => (record as { body?: { results?: unknown } }).body?.results;

/** A copy of a session with one value changed, only in the parts that are edited so; null elsewhere. */
export function withValue<T extends object>(record: T, path: string, value: unknown): T | null {
  const names = path.split('.');
  // An id is what an item is found by.
  if (names.at(-1) === 'id') return null;
  // A test that was never done has no entry yet: its first answer makes one.
  const results = resultsOf(record);
  const blankIn = (owner: unknown) => (owner === results ? NOT_TESTED : undefined);
  const allowed = names.length === 1 ? WHOLE.includes(path) : EDITABLE.includes(names[0]);
  if (!allowed && !OF_TAKE.test(path)) return null;
  if (value === null && OWN_WORDS.test(path)) return withoutKey(record, names);
  return putValue(record, path, value, blankIn);
}
