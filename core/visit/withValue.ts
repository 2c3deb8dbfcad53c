import { putValue } from '../bike/path.ts';
import { NOT_TESTED } from '../body/bodyTests.ts';

/** The parts of a session that are edited one value at a time. */
const EDITABLE = ['intake', 'body', 'asFound', 'final', 'changes', 'statics', 'planning', 'handOver'];

/** The parts of a session that are set as a whole. */
const WHOLE = ['final', 'plan', 'followUps'];

/** What is said of a take, beside what is pointed out and followed on it. */
const OF_TAKE =
  /^takes\.#[A-Za-z0-9_-]{1,40}\.(view|position|effort|effortW|cadenceRpm|pairWith|note|trim|devices)$/;

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
  return allowed || OF_TAKE.test(path) ? putValue(record, path, value, blankIn) : null;
}
