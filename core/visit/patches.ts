import equal from 'fast-deep-equal';

/**
 * One value of a record that an edit changed. Names lead to it from the record's root; an item of a list is named by its id or key
 * with a # before it, so that what another hand adds or removes meanwhile shifts nothing.
 */
export interface Patch {
  at: string[];
  /** What stood there before and stands there after; undefined for nothing at all. */
  from?: unknown;
  to?: unknown;
  /** Of an item of a list that came or went: its place then. */
  place?: number;
}

type Tree = Record<string, unknown>;

const isTree = (v: unknown): v is Tree =>
  typeof v === 'object' && v !== null && Object.getPrototypeOf(v) === Object.prototype;

/** The name of an item of a list; null for an item that has none. */
function nameOf(item: unknown): string | null {
  if (!isTree(item)) return null;
  const name = item.id ?? item.key;
  return typeof name === 'string' ? `#${name}` : null;
}

/** The names of a list's items, where each has one of its own; null otherwise. */
function namesOf(list: readonly unknown[]): string[] | null {
  const names = list.map(nameOf);
  if (names.some((n) => n === null) || new Set(names).size < names.length) return null;
  return names as string[];
}

/**
 * What leads from one record to another, value by value.
 * @returns in an order in which they can be applied one after another
 */
export function patchesBetween(from: unknown, to: unknown, at: string[] = []): Patch[] {
  if (Object.is(from, to)) return [];
  if (isTree(from) && isTree(to))
    return [...new Set([...Object.keys(from), ...Object.keys(to)])].flatMap((key) =>
      patchesBetween(from[key], to[key], [...at, key]),
    );
  if (Array.isArray(from) && Array.isArray(to)) {
    const [a, b] = [namesOf(from), namesOf(to)];
    const kept = a && b ? b.filter((n) => a.includes(n)) : [];
    // Items without names of their own, or put in another order: the list is one value.
    if (
      a &&
      b &&
      equal(
        kept,
        a.filter((n) => b.includes(n)),
      )
    )
      return [
        // From the last to the first: so that taken back they return to their places from the first on.
        ...a
          .flatMap((n, k) =>
            b.includes(n) ? [] : [{ at: [...at, n], from: from[k] as unknown, to: undefined, place: k }],
          )
          .reverse(),
        ...kept.flatMap((n) => patchesBetween(from[a.indexOf(n)], to[b.indexOf(n)], [...at, n])),
        ...b.flatMap((n, k) =>
          a.includes(n) ? [] : [{ at: [...at, n], from: undefined, to: to[k] as unknown, place: k }],
        ),
      ];
  }
  return equal(from, to) ? [] : [{ at, from, to }];
}

/** What leads back again. */
export const reversed = (patches: readonly Patch[]): Patch[] =>
  patches.map((p) => ({ ...p, from: p.to, to: p.from })).reverse();

/** What stands at a place now; undefined where nothing does. */
function standsAt(record: unknown, at: readonly string[]): unknown {
  return at.reduce<unknown>((inner, name) => {
    if (Array.isArray(inner)) return inner.find((item) => nameOf(item) === name) as unknown;
    return isTree(inner) && Object.hasOwn(inner, name) ? inner[name] : undefined;
  }, record);
}

function put(inner: unknown, [name, ...rest]: readonly string[], p: Patch): unknown {
  const held = standsAt(inner, [name]);
  const next = rest.length > 0 ? put(held, rest, p) : p.to;
  if (Array.isArray(inner)) {
    if (held === undefined) return inner.toSpliced(Math.min(p.place ?? inner.length, inner.length), 0, next);
    return next === undefined
      ? inner.filter((item) => item !== held)
      : inner.map((item: unknown) => (item === held ? next : item));
  }
  if (next !== undefined) return { ...(inner as Tree), [name]: next };
  return Object.fromEntries(Object.entries(inner as Tree).filter(([key]) => key !== name));
}

/**
 * Applies patches where each finds what it was made for.
 * @returns null where a value is another one by now, or the place is gone: then nothing is changed
 */
export function withPatches<T extends object>(record: T, patches: readonly Patch[]): T | null {
  let now: unknown = record;
  for (const p of patches) {
    const above = standsAt(now, p.at.slice(0, -1));
    if (!isTree(above) && !Array.isArray(above)) return null;
    if (!equal(standsAt(now, p.at), p.from)) return null;
    now = put(now, p.at, p);
  }
  return now as T;
}

/** Two runs of patches as one: where both change the same values, as one change of each. */
export function joined(first: readonly Patch[], then: readonly Patch[]): Patch[] {
  const places = (list: readonly Patch[]): string => list.map((p) => p.at.join('.')).join();
  if (places(first) !== places(then)) return [...first, ...then];
  return first.map((p, k) => ({ ...p, to: then[k].to })).filter((p) => !equal(p.from, p.to));
}
