import { spawned, type Spawned } from '../workers/spawn';
import type { PaperApi } from './paper.worker';
import type { PaperSheet } from './papers';

/** What sets papers: in a worker, so that a page is typed on while its paper is made. It comes with the first paper. */
let maker: Spawned<PaperApi> | null = null;

const spawnMaker = (): Spawned<PaperApi> =>
  spawned(new Worker(new URL('./paper.worker.ts', import.meta.url), { type: 'module' }));

/** One that never came, or broke down, is let go: the next paper has another. */
function atWork(): Spawned<PaperApi>['api'] {
  if (maker?.isBroken()) {
    maker.end();
    maker = null;
  }
  return (maker ??= spawnMaker()).api;
}

/** Loads what makes papers while what goes on one is still being gathered. What keeps it away is said when one is made. */
export const fetchPdfMaker = (): void =>
  void atWork()
    .load()
    .catch(() => undefined);

/** Makes a PDF in this browser. @throws where it can't be made, with a sentence */
export const makePdf = (sheet: PaperSheet): Promise<Blob> => atWork().make(sheet);
