import equal from 'fast-deep-equal';
import { createStore } from 'zustand/vanilla';
import { applyEdit, type EditResult, type SessionEdit } from '../../core/visit/edits.ts';
import { checkRecord, type Checked } from '../../core/records/schemas.ts';
import type { FitSession } from '../../core/records/types.ts';
import { patchesBetween, reversed, withPatches, type Patch } from '../../core/visit/patches.ts';
import { liesInTrash } from '../storage/trash';
import { nameBike } from '../storage/bikes';
import { failedToSave, savedAfterAll, saving, whyNot } from '../storage/saveState';
import { putSession, sessionStore } from '../storage/stores';
import { alone } from '../storage/tabs';
import {
  canStep,
  loadPast,
  nextStep,
  noted,
  savePast,
  stepped,
  type Direction,
  type Past,
} from '../storage/past';
import { openTabs, thisTab } from '../storage/tab';

/** An edit that is shown already and not stored yet. */
interface Pending {
  edit: SessionEdit;
  burst: string | null;
  /** The visit as it was shown before and is after; where the stored one has moved on meanwhile, only the difference is merged into it. */
  base: FitSession;
  next: FitSession;
  answer: (result: EditResult) => void;
}

interface Stepping {
  which: Direction;
  answer: (result: EditResult) => void;
}

const isStepping = (w: Pending | Stepping): w is Stepping => 'which' in w;

/** A visit that this page works on: as it is stored, and as it is shown with every edit that is on its way. */
export interface OpenVisit {
  stored: FitSession;
  shown: FitSession;
  /** Number of the last edit given, and of the last one that the store has taken. */
  given: number;
  kept: number;
  steps: Record<Direction, boolean>;
}

/** The visits that are open in this page. Components draw from here; loaders open, edits come in by `editVisit`. */
export const visitStore = createStore<{ open: Readonly<Record<string, OpenVisit>> }>()(() => ({ open: {} }));

const waiting = new Map<string, (Pending | Stepping)[]>();
const working = new Set<string>();

const put = (id: string, part: Partial<OpenVisit>): void =>
  visitStore.setState(({ open }) => ({ open: { ...open, [id]: { ...open[id], ...part } } }));

const pendingOf = (id: string): Pending[] =>
  (waiting.get(id) ?? []).filter((w): w is Pending => !isStepping(w));

const none = (message: string): EditResult => ({ ok: false, message });

export const VISIT_GONE = 'This visit is no longer on this device.';
const IN_TRASH = liesInTrash('This visit');

/** Counts a write as under way until it is answered; one that found no place to write to must not end under “Saved”. */
const counted = (write: (answer: (result: EditResult) => void) => void): Promise<EditResult> =>
  saving(
    () => new Promise<EditResult>(write),
    (result) => (!result.ok && [VISIT_GONE, IN_TRASH].includes(result.message) ? result.message : null),
  );

async function read(id: string): Promise<Checked<FitSession> | null> {
  const raw = await sessionStore.getItem(id);
  if (raw === null) return null;
  // What this page has written itself needs no second check.
  const mine = visitStore.getState().open[id]?.stored;
  return mine && equal(raw, mine) ? { ok: true, value: mine } : checkRecord('session', raw);
}

/** Merges what is on its way into what is stored: by the edit's own differences, and where they no longer fit by the edit itself. */
function over(stored: FitSession, pending: readonly Pending[]): FitSession {
  let shown = stored;
  for (const p of pending) {
    const result = applied(shown, p);
    if (result.ok) {
      p.base = shown;
      p.next = result.session;
      shown = result.session;
    }
  }
  return shown;
}

function applied(session: FitSession, p: Pending): EditResult {
  if (p.base === session) return { ok: true, session: p.next };
  const merged = withPatches(session, patchesBetween(p.base, p.next));
  const checked = merged && checkRecord('session', merged);
  return checked?.ok ? { ok: true, session: checked.value } : applyEdit(session, p.edit);
}

/** Takes up what is stored by now, whoever wrote it. */
async function takeUp(id: string): Promise<Checked<FitSession> | null> {
  const stored = await read(id);
  if (!stored?.ok) return stored;
  const steps = canStep(await loadPast(id), await thisTab(), await openTabs());
  const now = visitStore.getState().open[id];
  const shown = now && now.stored === stored.value ? now.shown : over(stored.value, pendingOf(id));
  put(id, { stored: stored.value, shown, given: now?.given ?? 0, kept: now?.kept ?? 0, steps });
  return stored;
}

/** Opens a visit for work, as it is stored now with this page's own edits over it. */
export async function openVisit(id: string): Promise<Checked<FitSession> | null> {
  const stored = await alone(id, () => takeUp(id));
  return stored?.ok ? { ok: true, value: visitStore.getState().open[id]!.shown } : stored;
}

/** Another tab has written: what is shown follows. */
export const refreshVisit = async (id: string): Promise<void> => {
  await alone(id, () => takeUp(id));
};

/**
 * Shows an edit at once, and stores it; the answer comes when the store has it, or with the sentence that refuses it.
 * @param burst edits of one go are taken back together
 */
export async function editVisit(
  id: string,
  edit: SessionEdit,
  burst: string | null = null,
): Promise<EditResult> {
  if (!visitStore.getState().open[id]) {
    // Under way from here on: “Saved” may not stand while the visit is only being opened for the edit.
    const opened = await saving(() => openVisit(id));
    if (!opened) return none(VISIT_GONE);
    if (!opened.ok) return none(opened.message);
  }
  const now = visitStore.getState().open[id]!;
  if (now.shown.deletedIso !== null) return none(IN_TRASH);
  const result = applyEdit(now.shown, edit);
  if (!result.ok || result.session === now.shown) return result;
  return counted((answer) => {
    enqueue(id, { edit, burst, base: now.shown, next: result.session, answer });
    put(id, { shown: result.session, given: now.given + 1 });
  });
}

/** The same for work that can't go on without it. @throws with the sentence that refuses the edit */
export async function mustEdit(...given: Parameters<typeof editVisit>): Promise<void> {
  const kept = await editVisit(...given);
  if (!kept.ok) throw new Error(kept.message);
}

/** Takes this tab's last edit of the visit back, or does it again. */
export async function stepVisit(id: string, which: Direction): Promise<EditResult> {
  if (!visitStore.getState().open[id]) await openVisit(id);
  return counted((answer) => enqueue(id, { which, answer }));
}

function enqueue(id: string, w: Pending | Stepping): void {
  waiting.set(id, [...(waiting.get(id) ?? []), w]);
  if (!working.has(id)) void work(id);
}

/** Stores what waits until nothing does; what the device refuses stays shown, and is tried again. */
async function work(id: string): Promise<void> {
  working.add(id);
  const failed = new Set<Pending | Stepping>();
  const tryOut = async (batch: readonly (Pending | Stepping)[]): Promise<unknown> => {
    try {
      await alone(id, () => store(id, batch));
      return null;
    } catch (error) {
      if (batch.length === 1) {
        failed.add(batch[0]);
        refuse(id, batch[0], whyNot(error));
      }
      return error;
    }
  };
  let trouble: unknown = null;
  for (let batch = nextBatch(id, failed); batch.length > 0; batch = nextBatch(id, failed)) {
    const error = await tryOut(batch);
    // One that finds no room takes none of those beside it along.
    if (error && batch.length > 1) for (const one of batch) trouble = (await tryOut([one])) ?? trouble;
    else trouble = error ?? trouble;
  }
  working.delete(id);
  if (trouble === null || pendingOf(id).length === 0) savedAfterAll(id);
  else failedToSave(id, trouble, () => void (working.has(id) || work(id)));
}

/** What could not be stored: whoever waits is informed. An edit stays shown and waits on; a step back or forward is as if not asked for. */
function refuse(id: string, w: Pending | Stepping, why: string): void {
  w.answer(none(`Not saved: ${why}`));
  if (isStepping(w))
    waiting.set(
      id,
      (waiting.get(id) ?? []).filter((other) => other !== w),
    );
}

/** Edits up to the next step back or forward, or that step alone. */
function nextBatch(id: string, failed: ReadonlySet<Pending | Stepping>): (Pending | Stepping)[] {
  const list = (waiting.get(id) ?? []).filter((w) => !failed.has(w));
  const at = list.findIndex(isStepping);
  return at < 0 ? list : list.slice(0, Math.max(1, at));
}

/**
 * One record, one write: a crash leaves the visit as it was or as it is, never half of it. Only when the store has it are edits
 * taken off what waits; the past follows, and a crash between the two costs a step back and no edit.
 */
async function store(id: string, batch: readonly (Pending | Stepping)[]): Promise<void> {
  const [stored, tab, open] = [await read(id), await thisTab(), await openTabs()];
  const before = stored?.ok ? stored.value : null;
  let past = await loadPast(id);
  let session = before;
  const answers = batch.map((w): EditResult => {
    if (!session) return none(stored && !stored.ok ? stored.message : VISIT_GONE);
    if (session.deletedIso !== null) return none(IN_TRASH);
    const result = isStepping(w) ? step(session, past, { which: w.which, tab, open }) : applied(session, w);
    if ('past' in result) past = result.past as Past;
    if (!result.ok) return result;
    if (!isStepping(w))
      past = noted(past, { tab, burst: w.burst, patches: patchesBetween(session, result.session) });
    session = result.session;
    return { ok: true, session };
  });
  if (session && before) {
    if (session.asFound.name !== before.asFound.name) await nameBike(session);
    if (session !== before) await putSession(session);
  }
  waiting.set(
    id,
    (waiting.get(id) ?? []).filter((w) => !batch.includes(w)),
  );
  const left = pendingOf(id);
  if (session)
    put(id, {
      stored: session,
      shown: over(session, left),
      kept: visitStore.getState().open[id]!.given - left.length,
    });
  await savePast(id, past).catch(() => undefined);
  if (session) put(id, { steps: canStep(past, tab, open) });
  batch.forEach((w, k) => w.answer(answers[k]));
}

/** A step of the past made on the visit as it stands, where its values are still the ones that it left. */
function step(
  session: FitSession,
  past: Past,
  { which, tab, open }: { which: Direction; tab: string; open: ReadonlySet<string> | null },
): EditResult & { past?: Past } {
  const next = nextStep(past, which, tab, open);
  if (!next) return none(which === 'undo' ? 'Nothing to undo.' : 'Nothing to redo.');
  const patches: Patch[] = which === 'undo' ? reversed(next.patches) : next.patches;
  const there = withPatches(session, patches);
  const checked = there && checkRecord('session', there);
  if (!checked?.ok)
    return {
      ...none(
        which === 'undo'
          ? 'That was changed again since, in another tab or by a later step: it stays as it is.'
          : 'What this would do again was changed since: it stays as it is now.',
      ),
      past: stepped(past, which, next, false),
    };
  return { ok: true, session: checked.value, past: stepped(past, which, next, true) };
}

/** Whether some edit of this page is not stored yet. */
export const anythingUnsaved = (): boolean => [...waiting.values()].some((list) => list.length > 0);

/** Closes every visit in this page's memory; what is stored stays. For tests and for a database that was put in place of another. */
export function closeVisits(): void {
  waiting.clear();
  visitStore.setState({ open: {} });
}
