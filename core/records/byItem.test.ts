import { describe, expect, it } from 'vitest';
import { mergedItems } from './byItem.ts';

const item = (id: string, v = 0) => ({ id, v });
const merged = (now: { id: string; v: number }[], from: typeof now, to: typeof now) =>
  mergedItems(now, from, to, (i) => i.id);

describe('a list that two hands change', () => {
  const seen = [item('a'), item('b'), item('c')];
  it('keeps what the other added, changed and took away', () => {
    const now = [item('new'), item('a'), item('b', 7)];
    expect(merged(now, seen, [item('a', 1), item('b'), item('c')])).toEqual([
      item('new'),
      item('a', 1),
      item('b', 7),
    ]);
    expect(merged(now, seen, [item('b'), item('c')])).toEqual([item('new'), item('b', 7)]);
    expect(merged(now, seen, [item('x'), ...seen])).toEqual([item('x'), ...now]);
  });
  it('the last word counts where both changed one item', () => {
    expect(merged([item('a', 7)], [item('a')], [item('a', 1)])).toEqual([item('a', 1)]);
    expect(merged([], [item('a')], [item('a', 1)])).toEqual([item('a', 1)]);
  });
  it('is the list itself where nobody else was there', () => {
    const to = [item('c'), item('z'), item('a', 4)];
    expect(merged(seen, seen, to).toSorted((p, q) => p.id.localeCompare(q.id))).toEqual(
      to.toSorted((p, q) => p.id.localeCompare(q.id)),
    );
    expect(merged(seen, seen, seen)).toEqual(seen);
  });
});
