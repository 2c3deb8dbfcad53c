import { createStore } from 'zustand/vanilla';

/** Something that happened and may be taken back: stands for a while over the page. */
export interface Notice {
  words: string;
  undo: (() => void) | null;
}

export const noticeStore = createStore<{ notice: Notice | null }>()(() => ({ notice: null }));

/** Says what happened; where it can be taken back, with an Undo beside it. */
export const notify = (words: string, undo: Notice['undo'] = null): void =>
  noticeStore.setState({ notice: { words, undo } });

/** Takes away what is said: nobody wants it taken back any more, or it can't be. */
export const clearNotice = (): void => noticeStore.setState({ notice: null });
