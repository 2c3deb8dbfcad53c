import { describe, expect, it } from 'vitest';
import { seededRandom } from '../../sim/random.ts';
import { joined, patchesBetween, reversed, withPatches } from './patches.ts';

const visit = {
  name: 'Maren',
  saddle: { heightMm: 646, tiltDeg: -3.5 as number | null },
  takes: [
    { id: 'a', note: '', marks: { hip: { x: 1, y: 2 } } as Record<string, { x: number; y: number }> },
    { id: 'b', note: 'second', marks: {} as Record<string, { x: number; y: number }> },
  ],
  felt: ['kneeFront'],
};
type Visit = typeof visit;
const noted = (v: Visit, id: string, note: string): Visit => ({
  ...v,
  takes: v.takes.map((t) => (t.id === id ? { ...t, note } : t)),
});

describe('patches', () => {
  it('name exactly what an edit touched', () => {
    expect(patchesBetween(visit, { ...visit, saddle: { ...visit.saddle, heightMm: 650 } })).toEqual([
      { at: ['saddle', 'heightMm'], from: 646, to: 650 },
    ]);
    expect(patchesBetween(visit, noted(visit, 'b', 'third'))).toEqual([
      { at: ['takes', '#b', 'note'], from: 'second', to: 'third' },
    ]);
    expect(patchesBetween(visit, { ...visit, felt: ['kneeFront', 'neck'] })).toEqual([
      { at: ['felt'], from: ['kneeFront'], to: ['kneeFront', 'neck'] },
    ]);
    expect(patchesBetween(visit, structuredClone(visit))).toEqual([]);
  });
  it('take back their own edit and leave what came after it elsewhere', () => {
    const marked: Visit = {
      ...visit,
      takes: [{ ...visit.takes[0], marks: { hip: { x: 5, y: 2 }, knee: { x: 7, y: 8 } } }, visit.takes[1]],
    };
    const undo = reversed(patchesBetween(visit, marked));
    const later = noted(
      { ...marked, takes: [{ id: 'c', note: 'new', marks: {} }, ...marked.takes] },
      'a',
      'said',
    );
    expect(withPatches(later, undo)).toEqual(
      noted({ ...visit, takes: [{ id: 'c', note: 'new', marks: {} }, ...visit.takes] }, 'a', 'said'),
    );
  });
  it('are refused whole where one of their values has been changed since, or its place is gone', () => {
    const two = {
      ...visit,
      name: 'M.',
      saddle: { ...visit.saddle, heightMm: 650 },
    };
    const undo = reversed(patchesBetween(visit, two));
    const since = { ...two, saddle: { ...two.saddle, heightMm: 660 } };
    expect(withPatches(since, undo)).toBeNull();
    const undoNote = reversed(patchesBetween(visit, noted(visit, 'b', 'x')));
    expect(withPatches({ ...visit, takes: [visit.takes[0]] }, undoNote)).toBeNull();
    expect(withPatches(visit, undoNote)).toBeNull();
  });
  it('bring an item back to its place, and take one away that came', () => {
    const without = { ...visit, takes: [visit.takes[1]] };
    const back = withPatches(without, reversed(patchesBetween(visit, without)));
    expect(back).toEqual(visit);
    const gone = withPatches(back!, patchesBetween(visit, without));
    expect(gone).toEqual(without);
  });
  it('lead there and back between any two records', () => {
    const random = seededRandom(7);
    const tree = (deep: number): unknown => {
      const r = random();
      if (deep === 0 || r < 0.3)
        return [null, 1.5, 'x', true, Math.floor(random() * 5)][Math.floor(random() * 5)];
      if (r < 0.65)
        return Object.fromEntries(
          ['p', 'q', 'r', 's'].filter(() => random() < 0.7).map((k) => [k, tree(deep - 1)]),
        );
      return ['a', 'b', 'c', 'd']
        .filter(() => random() < 0.6)
        .sort(() => random() - 0.5)
        .map((id) => ({ id, v: tree(deep - 1) }));
    };
    for (let k = 0; k < 400; k++) {
      const [from, to] = [{ root: tree(4) ?? 0 }, { root: tree(4) ?? 0 }];
      const patches = patchesBetween(from, to);
      expect(withPatches(from, patches)).toEqual(to);
      expect(withPatches(to, reversed(patches))).toEqual(from);
      const third = { root: tree(4) ?? 0 };
      const both = joined(patches, patchesBetween(to, third));
      expect(withPatches(from, both)).toEqual(third);
      expect(withPatches(third, reversed(both))).toEqual(from);
    }
  });
  it('join two changes of one value into one, and nothing where it comes back', () => {
    const to = (mm: number) => ({ ...visit, saddle: { ...visit.saddle, heightMm: mm } });
    expect(joined(patchesBetween(visit, to(65)), patchesBetween(to(65), to(650)))).toEqual([
      { at: ['saddle', 'heightMm'], from: 646, to: 650 },
    ]);
    expect(joined(patchesBetween(visit, to(65)), patchesBetween(to(65), visit))).toEqual([]);
  });
});
