import { nanoid } from 'nanoid';
import { useCallback, useState } from 'react';
import { useFetchers, useParams, useSubmit } from 'react-router';
import { saving } from '../storage/saveState';
import type { EditResult, SessionEdit } from '../../core/records/edits.ts';
import { answerTo } from './editAnswers';

const KEY = 'edit-';

/** Sends edits of the open session to its action; says why when one was refused. */
export function useEdit(): {
  edit: (e: SessionEdit) => Promise<void>;
  refused: string | null;
} {
  const { sessionId } = useParams();
  const submit = useSubmit();
  const [refused, setRefused] = useState<string | null>(null);
  const edit = useCallback(
    (e: SessionEdit) =>
      // “Saving…” stands from the fitter's own gesture on.
      saving(async () => {
        const id = nanoid();
        // A key of its own for each: a second one under the same key would break off the first before it is read. A session edit
        // is plain data; the router wants to be told that it is JSON.
        await submit({ id, edit: e } as unknown as Parameters<typeof submit>[0], {
          method: 'post',
          action: `/sessions/${sessionId}`,
          encType: 'application/json',
          navigate: false,
          fetcherKey: `${KEY}${id}`,
        });
        const answer: EditResult | null = answerTo(id);
        setRefused(answer && !answer.ok ? answer.message : null);
      }),
    [submit, sessionId],
  );
  return { edit, refused };
}

/**
 * Whether an edit is under way, until what is read back stands on the page: in the same drawing, which a state of our own would be
 * a drawing too early for.
 */
export const useEditUnderWay = (): boolean =>
  useFetchers().some((f) => f.key.startsWith(KEY) && f.state !== 'idle');
