import { joined, type Patch } from '../../core/visit/patches.ts';
import { pastStore } from './stores';

/** How many edits of a visit can be taken back. */
const DEPTH = 200;

/** One edit as it can be taken back or done again. */
export interface Step {
  /** The tab it was made in. */
  tab: string;
  /** Edits of one go, as of a field while it is typed in, are one step. */
  burst: string | null;
  patches: Patch[];
}

/** What was done in a visit, newest last. It lies next to the visit, so that it outlives the page. */
export interface Past {
  undo: Step[];
  redo: Step[];
}

export type Direction = 'undo' | 'redo';

const NONE: Past = { undo: [], redo: [] };

export const loadPast = async (id: string): Promise<Past> => (await pastStore.getItem<Past>(id)) ?? NONE;
export const savePast = (id: string, past: Past): Promise<Past> => pastStore.setItem(id, past);
export const dropPast = (id: string): Promise<void> => pastStore.removeItem(id);

/** The takes that some step of a past could still bring back, or other tracks of. */
const takesIn = ({ undo, redo }: Past): string[] =>
  [...undo, ...redo].flatMap((s) =>
    s.patches.flatMap(({ at }) => (at[0] === 'takes' && at[1] ? [at[1].slice(1)] : [])),
  );

/** The takes that a visit's steps could still bring back. */
export const takesOfPast = async (id: string): Promise<string[]> => takesIn(await loadPast(id));

/** The same over all visits. */
export async function takesOfAllPasts(): Promise<ReadonlySet<string>> {
  const ids = new Set<string>();
  await pastStore.iterate<Past, void>((past) => takesIn(past).forEach((id) => ids.add(id)));
  return ids;
}

/** The past with an edit noted; what its tab had taken back before can no longer be done again. */
export function noted(past: Past, step: Step): Past {
  const last = past.undo.at(-1);
  const goesOn = last && step.burst !== null && last.burst === step.burst && last.tab === step.tab;
  const patches = goesOn ? joined(last.patches, step.patches) : step.patches;
  const before = goesOn ? past.undo.slice(0, -1) : past.undo;
  return {
    undo: patches.length > 0 ? [...before.slice(1 - DEPTH), { ...step, patches }] : before,
    redo: past.redo.filter((s) => s.tab !== step.tab),
  };
}

/** A tab's own next step, or one of a tab that is no longer open. */
export function nextStep(
  past: Past,
  which: Direction,
  tab: string,
  open: ReadonlySet<string> | null,
): Step | null {
  const mine = (s: Step): boolean => s.tab === tab || (open !== null && !open.has(s.tab));
  return past[which].findLast(mine) ?? null;
}

/** After a step was made: it lies on the other pile. What could not be made any more lies on none. */
export function stepped(past: Past, which: Direction, step: Step, made: boolean): Past {
  const other = which === 'undo' ? 'redo' : 'undo';
  return {
    ...past,
    [which]: past[which].filter((s) => s !== step),
    [other]: made ? [...past[other], { ...step, burst: null }] : past[other],
  };
}

/** What a tab can take back and do again. */
export const canStep = (
  past: Past,
  tab: string,
  open: ReadonlySet<string> | null,
): Record<Direction, boolean> => ({
  undo: nextStep(past, 'undo', tab, open) !== null,
  redo: nextStep(past, 'redo', tab, open) !== null,
});
