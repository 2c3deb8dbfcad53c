import { NOT_TESTED } from '../body/bodyTests.ts';

/** The parts of a session that are edited one value at a time. */
const EDITABLE = ['intake', 'body', 'asFound', 'final', 'changes', 'statics', 'planning', 'handOver'];

/** The parts of a session that are set as a whole. */
const WHOLE = ['final', 'plan', 'followUps'];

type Tree = { [key: string]: unknown };

const isTree = (v: unknown): v is Tree => typeof v === 'object' && v !== null && !Array.isArray(v);

const resultsOf = (record: object): unknown => (record as { body?: { results?: unknown } }).body?.results;

/** What is said of a take, beside what is pointed out and followed on it. */
const OF_TAKE =
  /^takes\.#[A-Za-z0-9_-]{1,40}\.(view|position|effort|effortW|cadenceRpm|pairWith|note|trim|devices)$/;

const FORBIDDEN = ['__proto__', 'constructor', 'prototype', ''];

/** Where in a list an item stands: by its id (“#maren-take”) where its items have ids, else by its place. */
function placeIn(list: readonly unknown[], name: string): number {
  const ids = list.map((item) => (isTree(item) && typeof item.id === 'string' ? item.id : null));
  if (name.startsWith('#')) return ids.indexOf(name.slice(1));
  return /^\d+$/.test(name) && Number(name) < list.length && ids[Number(name)] === null ? Number(name) : -1;
}

/**
 * A copy of a record with one value changed; everything beside the path is shared with the old one. Items of a list that have an id
 * are named by it.
 * @param path names from the record's root, joined by dots: “saddle.heightMm”, “takes.#maren-take.note”
 * @returns null where the path leads through something that is no object
 */
export function putValue<T extends object>(record: T, path: string, value: unknown): T | null {
  const names = path.split('.');
  if (names.some((n) => FORBIDDEN.includes(n))) return null;
  const put = (at: Tree | unknown[], [name, ...rest]: string[]): Tree | unknown[] | null => {
    const place = Array.isArray(at) ? placeIn(at, name) : 0;
    if (place < 0) return null;
    const held = Array.isArray(at) ? at[place] : at[name];
    // A test that was never done has no entry yet: its first answer makes one.
    const inner = held ?? (at === resultsOf(record) ? NOT_TESTED : undefined);
    if (rest.length > 0 && !isTree(inner) && !Array.isArray(inner)) return null;
    const changed = rest.length === 0 ? value : put(inner as Tree, rest);
    if (rest.length > 0 && changed === null) return null;
    return Array.isArray(at) ? at.with(place, changed) : { ...at, [name]: changed };
  };
  return put(record as Tree, names) as T | null;
}

/** The same for a session: only in the parts that are edited so; null elsewhere. */
export function withValue<T extends object>(record: T, path: string, value: unknown): T | null {
  const names = path.split('.');
  // An id is what an item is found by.
  if (names.at(-1) === 'id') return null;
  const allowed = names.length === 1 ? WHOLE.includes(path) : EDITABLE.includes(names[0]);
  return allowed || OF_TAKE.test(path) ? putValue(record, path, value) : null;
}

/** What stands at a path; undefined where nothing does. */
export function valueAt(record: object, path: string): unknown {
  return path.split('.').reduce<unknown>((at, name) => {
    if (Array.isArray(at)) return at[placeIn(at, name)] as unknown;
    return isTree(at) && Object.hasOwn(at, name) ? at[name] : undefined;
  }, record);
}
