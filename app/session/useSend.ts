import { useCallback } from 'react';
import { useFetcher, useFormAction, type SubmitTarget } from 'react-router';
import { underWay } from '../storage/saveState';

/**
 * Hands something to a route's action as JSON. It is on its way from that moment on, not only when the action begins to write:
 * until then the page would be told as saved, and could be left without being asked.
 * @param action the route's address; that of the page itself if left out, also where another page stands by the time it is sent
 */
export function useSend<Given, Answer = { message?: string } | null>(action?: string) {
  const fetcher = useFetcher<Answer>();
  const { submit } = fetcher;
  const to = useFormAction(action);
  const send = useCallback(
    (given: Given) =>
      void underWay(() =>
        submit(given as unknown as SubmitTarget, { method: 'post', encType: 'application/json', action: to }),
      ),
    [submit, to],
  );
  return { fetcher, send };
}
