import { NOT_TESTED } from '../body/tests.ts';

/** The parts of a session that are edited one value at a time. */
export const EDITABLE = ['intake', 'body', 'asFound'] as const;

type Tree = { [key: string]: unknown };

const isTree = (v: unknown): v is Tree => typeof v === 'object' && v !== null && !Array.isArray(v);

const resultsOf = (record: object): unknown => (record as { body?: { results?: unknown } }).body?.results;

/**
 * A copy of a record with one value changed; everything beside the path is shared with the old one.
 * @param path names from the record's root, joined by dots: “asFound.saddle.heightMm”
 * @returns null where the path does not begin in an editable part, or leads through something that is no object
 */
export function withValue<T extends object>(record: T, path: string, value: unknown): T | null {
  const names = path.split('.');
  if (!EDITABLE.includes(names[0] as 'body') || names.length < 2) return null;
  if (names.some((n) => n === '__proto__' || n === 'constructor' || n === 'prototype' || n === ''))
    return null;
  const put = (at: Tree, [name, ...rest]: string[]): Tree | null => {
    if (rest.length === 0) return { ...at, [name]: value };
    // A test that was never done has no entry yet: its first answer makes one.
    const inner = at[name] ?? (at === resultsOf(record) ? NOT_TESTED : undefined);
    if (!isTree(inner)) return null;
    const changed = put(inner, rest);
    return changed && { ...at, [name]: changed };
  };
  return put(record as Tree, names) as T | null;
}

/** What stands at a path; undefined where nothing does. */
export function valueAt(record: object, path: string): unknown {
  return path
    .split('.')
    .reduce<unknown>(
      (at, name) => (isTree(at) && Object.prototype.hasOwnProperty.call(at, name) ? at[name] : undefined),
      record,
    );
}
