type Tree = { [key: string]: unknown };

const isTree = (v: unknown): v is Tree => typeof v === 'object' && v !== null && !Array.isArray(v);

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
 * @param blankIn what an entry of an object is made from where it has none yet; undefined where none may be made
 * @returns null where the path leads through something that is no object
 */
export function putValue<T extends object>(
  record: T,
  path: string,
  value: unknown,
  blankIn: (owner: unknown) => object | undefined = () => undefined,
): T | null {
  const names = path.split('.');
  if (names.some((n) => FORBIDDEN.includes(n))) return null;
  const put = (at: Tree | unknown[], [name, ...rest]: string[]): Tree | unknown[] | null => {
    const place = Array.isArray(at) ? placeIn(at, name) : 0;
    if (place < 0) return null;
    const held = Array.isArray(at) ? at[place] : at[name];
    const inner = held ?? blankIn(at);
    if (rest.length > 0 && !isTree(inner) && !Array.isArray(inner)) return null;
    const changed = rest.length === 0 ? value : put(inner as Tree, rest);
    if (rest.length > 0 && changed === null) return null;
    return Array.isArray(at) ? at.with(place, changed) : { ...at, [name]: changed };
  };
  return put(record as Tree, names) as T | null;
}

/** What stands at a path; undefined where nothing does. */
export function valueAt(record: object, path: string): unknown {
  return path.split('.').reduce<unknown>((at, name) => {
    if (Array.isArray(at)) return at[placeIn(at, name)] as unknown;
    return isTree(at) && Object.hasOwn(at, name) ? at[name] : undefined;
  }, record);
}
