import { useCallback, useState } from 'react';
import { useParams } from 'react-router';
import { useStore } from 'zustand';
import type { EditResult, SessionEdit } from '../../core/visit/edits.ts';
import { currentBurst } from './burst';
import { editVisit, visitStore } from './visits';
import { tellWhatWent } from './went';

/** Edits the open visit: shown at once, stored behind it; says why when one was refused. */
export function useEdit(): {
  edit: (e: SessionEdit) => Promise<EditResult>;
  refused: string | null;
} {
  const { sessionId = '' } = useParams();
  const [refused, setRefused] = useState<string | null>(null);
  const edit = useCallback(
    async (e: SessionEdit) => {
      const shown = () => visitStore.getState().open[sessionId]?.shown;
      const before = shown();
      const storing = editVisit(sessionId, e, currentBurst());
      // Shown by now, where it is not refused.
      const after = shown();
      const answer = await storing;
      if (answer.ok && before && after) tellWhatWent(sessionId, before, after);
      setRefused(answer.ok ? null : answer.message);
      return answer;
    },
    [sessionId],
  );
  return { edit, refused };
}

/** Whether an edit of the open visit is not stored yet. */
export function useEditUnderWay(): boolean {
  const { sessionId = '' } = useParams();
  return useStore(visitStore, ({ open }) =>
    open[sessionId] ? open[sessionId].given > open[sessionId].kept : false,
  );
}
