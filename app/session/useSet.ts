import { nanoid } from 'nanoid';
import { useCallback } from 'react';
import type { SessionEdit } from '../../core/visit/edits.ts';
import { useEdit } from './useEdit';

interface Setters {
  /** Changes one value of the open session by its place in the record. */
  set: (at: string, value: unknown) => void;
  /** Moves one value of the bike as it stands, and logs it. */
  move: (values: { at: string; value: unknown }[], lineKey?: string) => void;
  /** The same as a step of a line of the plan. */
  step: (values: { at: string; value: unknown }[], lineKey: string | null) => void;
  /** Everything as it was found, logged as one change. */
  allBack: () => void;
  putBack: (changeId: string) => void;
  /** Why the last one was refused. */
  refused: string | null;
}

/** Ways to change the open session that show at once. */
export function useSet(): Setters {
  const { edit, refused } = useEdit();
  const show = useCallback((e: SessionEdit): void => void edit(e), [edit]);
  const now = (): string => new Date().toISOString();
  return {
    set: useCallback((at, value) => show({ kind: 'set', at, value }), [show]),
    move: useCallback(
      (values, lineKey) =>
        show({ kind: 'moved', id: nanoid(), madeIso: now(), values, lineKey: lineKey ?? null }),
      [show],
    ),
    step: useCallback(
      (values, lineKey) => show({ kind: 'moved', id: nanoid(), madeIso: now(), values, lineKey }),
      [show],
    ),
    allBack: useCallback(() => show({ kind: 'all-back', id: nanoid(), madeIso: now() }), [show]),
    putBack: useCallback((id) => show({ kind: 'put-back', id, atIso: now() }), [show]),
    refused,
  };
}
