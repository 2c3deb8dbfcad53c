import { tidy, type Moves } from '../controls/controls.ts';
import type { ControlKey } from '../controls/controlTable.ts';
import { roundLines, type PlanLine, type Prescription } from './plan.ts';

/** What became of one line of a plan when something else was decided. */
export interface LineChange {
  key: string;
  kind: 'new' | 'gone' | 'moved';
  before: PlanLine | null;
  after: PlanLine | null;
}

const same = (a: Moves, b: Moves): boolean => {
  const [p, q] = [tidy(a), tidy(b)];
  const keys = new Set([...Object.keys(p), ...Object.keys(q)]) as Set<ControlKey>;
  return [...keys].every((k) => Math.abs((p[k] ?? 0) - (q[k] ?? 0)) < 0.01);
};

/**
 * What an edit of one line does to the others, line by line: told before it is taken.
 * @param edited the line that is edited itself: it is not told
 */
export function planChanges(before: Prescription, after: Prescription, edited: string): LineChange[] {
  const [a, b] = [roundLines(before), roundLines(after)];
  const keys = [...new Set([...a, ...b].map((l) => l.key))].filter((key) => key !== edited);
  return keys.flatMap((key): LineChange[] => {
    const was = a.find((l) => l.key === key) ?? null;
    const is = b.find((l) => l.key === key) ?? null;
    if (was && is) return same(was.moves, is.moves) ? [] : [{ key, kind: 'moved', before: was, after: is }];
    return [{ key, kind: is ? 'new' : 'gone', before: was, after: is }];
  });
}
