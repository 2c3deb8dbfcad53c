import { draftStore } from './stores';

/** What stands half typed in fields, by page and field: it outlives the page. */
const drafts = new Map<string, string>();

/** Older drafts are nobody's any more. */
const DAYS = 30;

interface Draft {
  text: string;
  atMs: number;
}

let loaded: Promise<void> | null = null;

/** Reads the drafts that an earlier page left; before any field is drawn. */
export const loadDrafts = (): Promise<void> =>
  (loaded ??= draftStore
    .iterate<Draft, void>((d, place) => {
      if (Date.now() - d.atMs > DAYS * 86_400_000) void draftStore.removeItem(place);
      else if (!drafts.has(place)) drafts.set(place, d.text);
    })
    .catch(() => undefined));

export const readDraft = (place: string): string | null => drafts.get(place) ?? null;

export function keepDraft(place: string, text: string): void {
  drafts.set(place, text);
  void draftStore.setItem<Draft>(place, { text, atMs: Date.now() }).catch(() => undefined);
}

export function dropDraft(place: string): void {
  if (drafts.delete(place)) void draftStore.removeItem(place).catch(() => undefined);
}
