import type { TDocumentDefinitions } from 'pdfmake/interfaces';
import { useEffect, useRef, useState } from 'react';
import { fetchPdfMaker, makePdf } from '../../pdf/pdfmake';

export interface PaperState {
  blob: Blob | null;
  /** A newer one is being made. */
  making: boolean;
  trouble: string | null;
}

/** So long after the last change it is made anew; the first one waits only for what comes at once with it. */
const SETTLE_MS = 400;
const FIRST_MS = 30;

/**
 * A PDF made anew whenever what it is made from changes, a moment after the last change.
 * @param compose null while something of it is not there yet; must stay the same while nothing changes
 */
export function usePaper(
  compose: (() => TDocumentDefinitions | Promise<TDocumentDefinitions>) | null,
): PaperState {
  const [state, setState] = useState<PaperState>({ blob: null, making: true, trouble: null });
  const made = useRef(false);
  useEffect(fetchPdfMaker, []);
  useEffect(() => {
    if (!compose) return undefined;
    let ended = false;
    setState((s) => ({ ...s, making: true }));
    const timer = setTimeout(
      () => {
        void (async () => {
          try {
            const blob = await makePdf(await compose());
            made.current = true;
            if (!ended) setState({ blob, making: false, trouble: null });
          } catch (error) {
            if (!ended)
              setState((s) => ({
                ...s,
                making: false,
                trouble: `The document could not be made: ${error instanceof Error ? error.message : String(error)}`,
              }));
          }
        })();
      },
      made.current ? SETTLE_MS : FIRST_MS,
    );
    return () => {
      ended = true;
      clearTimeout(timer);
    };
  }, [compose]);
  return state;
}
