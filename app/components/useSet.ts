import { useCallback } from 'react';
import { useParams } from 'react-router';
import { whilePending } from './pendingEdits';
import { useEdit } from './useEdit';

/** Changes one value of the open session by its place in the record; says why when it was refused. */
export function useSet(): { set: (at: string, value: unknown) => void; refused: string | null } {
  const { sessionId = '' } = useParams();
  const { edit, refused } = useEdit();
  const set = useCallback(
    (at: string, value: unknown) =>
      void whilePending({ sessionId, at, value }, () => edit({ kind: 'set', at, value })),
    [edit, sessionId],
  );
  return { set, refused };
}
