import { useEffect, useRef, useState } from 'react';
import type { PaperSheet } from '../../pdf/papers';
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

type Compose = () => PaperSheet | Promise<PaperSheet>;

/**
 * A PDF made anew whenever what it is made from changes, a moment after the last change.
 * @param compose null while something of it is not there yet; must stay the same while nothing changes
 */
export function usePaper(compose: Compose | null): PaperState {
  const [{ of, ...paper }, setPaper] = useState<Omit<PaperState, 'making'> & { of: Compose | null }>({
    blob: null,
    trouble: null,
    of: null,
  });
  const made = useRef(false);
  useEffect(fetchPdfMaker, []);
  useEffect(() => {
    if (!compose) return undefined;
    let ended = false;
    const make = async (): Promise<void> => {
      try {
        const blob = await makePdf(await compose());
        made.current = true;
        if (!ended) setPaper({ blob, trouble: null, of: compose });
      } catch (error) {
        const why = error instanceof Error ? error.message : String(error);
        if (!ended)
          setPaper(({ blob }) => ({ blob, trouble: `The document could not be made: ${why}`, of: compose }));
      }
    };
    const timer = setTimeout(() => void make(), made.current ? SETTLE_MS : FIRST_MS);
    return () => {
      ended = true;
      clearTimeout(timer);
    };
  }, [compose]);
  return { ...paper, making: of === null || of !== compose };
}
