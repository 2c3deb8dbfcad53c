import { NOT_TESTED } from '../body/tests.ts';

/** The parts of a session that are edited one value at a time. */
const EDITABLE = ['intake', 'body', 'asFound', 'final', 'changes', 'statics', 'planning', 'handOver'];

/** The parts of a session that are set as a whole. */
const WHOLE = ['final', 'plan', 'followUps'];

type Tree = { [key: string]: unknown };

const isTree = (v: unknown): v is Tree => typeof v === 'object' && v !== null && !Array.isArray(v);

const resultsOf = (record: object): unknown => (record as { body?: { results?: unknown } }).body?.results;

/** What is said of a take, beside what is pointed out and followed on it. */
const OF_TAKE = /^takes\.\d+\.(view|position|effort|effortW|cadenceRpm|pairWith|note|trim|devices)$/;

const FORBIDDEN = ['__proto__', 'constructor', 'prototype', ''];

/**
 * A copy of a record with one value changed; everything beside the path is shared with the old one. Items of a list are named by
 * their place in it.
 * @param path names from the record's root, joined by dots: “saddle.heightMm”
 * @returns null where the path leads through something that is no object
 */
export function putValue<T extends object>(record: T, path: string, value: unknown): T | null {
  const names = path.split('.');
  if (names.some((n) => FORBIDDEN.includes(n))) return null;
  const put = (at: Tree | unknown[], [name, ...rest]: string[]): Tree | unknown[] | null => {
    if (Array.isArray(at) && !(Number(name) in at)) return null;
    const held = (at as Tree)[name];
    // A test that was never done has no entry yet: its first answer makes one.
    const inner = held ?? (at === resultsOf(record) ? NOT_TESTED : undefined);
    if (rest.length > 0 && !isTree(inner) && !Array.isArray(inner)) return null;
    const changed = rest.length === 0 ? value : put(inner as Tree, rest);
    if (rest.length > 0 && changed === null) return null;
    if (Array.isArray(at)) return at.with(Number(name), changed);
    return { ...at, [name]: changed };
  };
  return put(record as Tree, names) as T | null;
}

/** The same for a session: only in the parts that are edited so; null elsewhere. */
export function withValue<T extends object>(record: T, path: string, value: unknown): T | null {
  const names = path.split('.');
  const allowed = names.length === 1 ? WHOLE.includes(path) : EDITABLE.includes(names[0]);
  return allowed || OF_TAKE.test(path) ? putValue(record, path, value) : null;
}

/** What stands at a path; undefined where nothing does. */
export function valueAt(record: object, path: string): unknown {
  return path
    .split('.')
    .reduce<unknown>(
      (at, name) =>
        (isTree(at) || Array.isArray(at)) && Object.prototype.hasOwnProperty.call(at, name)
          ? (at as Tree)[name]
          : undefined,
      record,
    );
}
