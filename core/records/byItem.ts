import equal from 'fast-deep-equal';

/**
 * A list after somebody changed it who had seen an older one: only the items that they added, changed or took away are, so that what
 * another hand did to the others stands.
 * @param now the list as it is stored  @param from as they saw it  @param to as they left it  @param nameOf what an item is known by
 */
export function mergedItems<T>(
  now: readonly T[],
  from: readonly T[],
  to: readonly T[],
  nameOf: (item: T) => string,
): T[] {
  const names = new Set(to.map(nameOf));
  const before = new Map(from.map((item) => [nameOf(item), item]));
  const gone = new Set([...before.keys()].filter((name) => !names.has(name)));
  const out = now.filter((item) => !gone.has(nameOf(item)));
  to.forEach((item, k) => {
    const name = nameOf(item);
    if (before.has(name) && equal(before.get(name), item)) return;
    const at = out.findIndex((other) => nameOf(other) === name);
    if (at >= 0) out[at] = item;
    else out.splice(Math.min(k, out.length), 0, item);
  });
  return out;
}
