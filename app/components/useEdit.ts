import { useCallback } from 'react';
import { useFetcher, useParams } from 'react-router';
import { saving } from '../storage/saveState';
import type { EditResult, SessionEdit } from '../../core/records/edits.ts';

/** Sends edits of the open session to its action; says why when one was refused. */
export function useEdit(): {
  edit: (e: SessionEdit) => Promise<void>;
  refused: string | null;
  busy: boolean;
} {
  const { sessionId } = useParams();
  const fetcher = useFetcher<EditResult>();
  const submit = fetcher.submit;
  const edit = useCallback(
    (e: SessionEdit) =>
      // “Saving…” stands from the fitter's own gesture on. A session edit is plain data; the fetcher wants to be told that it
      // is JSON.
      saving(() =>
        submit(e as unknown as Parameters<typeof submit>[0], {
          method: 'post',
          action: `/sessions/${sessionId}`,
          encType: 'application/json',
        }),
      ),
    [submit, sessionId],
  );
  return {
    edit,
    refused: fetcher.data && !fetcher.data.ok ? fetcher.data.message : null,
    busy: fetcher.state !== 'idle',
  };
}
