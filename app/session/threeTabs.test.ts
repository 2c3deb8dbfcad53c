import 'fake-indexeddb/auto';
import { expect, it, vi } from 'vitest';
import type { FollowUp } from '../../core/records/followUp.ts';
import { seededRandom } from '../../sim/random.ts';
import { CATALOGUE } from '../demo/catalogue.ts';
import type * as Visits from './visits.ts';

/** A browser's locks as far as they are asked for: one holder at a time by name. */
const chains = new Map<string, Promise<unknown>>();
vi.stubGlobal('navigator', {
  userAgent: 'Chrome/140',
  locks: {
    request: (name: string, work: () => Promise<unknown>) => {
      // A tab’s own lock is held as long as the tab is there.
      if (name.startsWith('deep-angle:tab:')) return new Promise(() => undefined);
      const next = (chains.get(name) ?? Promise.resolve()).then(work, work);
      chains.set(name, next);
      return next;
    },
  },
});

const ID = 'pilar-1';

/** A tab: the modules anew, over the same database. */
async function tab(): Promise<typeof Visits> {
  vi.resetModules();
  return import('./visits.ts');
}

/** What a tab did and what came of it, in its own order: an edit under its id, or a step back. */
interface Done {
  id: string | null;
  ok: boolean;
}

/** What is left of a tab's edits: its own steps back take its own edits, newest first. */
function leftOf(done: readonly Done[]): string[] {
  const left: string[] = [];
  for (const { id, ok } of done)
    if (ok && id !== null) left.push(id);
    else if (ok) left.pop();
  return left;
}

const idsOf = (list: readonly FollowUp[]): string[] => list.map((f) => f.id).sort();

it('three tabs, edits, undos, the trash and the way back at random: no edit is lost but by its own undo, and all show the same', async () => {
  const tabs = [await tab(), await tab(), await tab()];
  const { putSession, sessionStore } = await import('../storage/stores.ts');
  const { binVisit } = await import('../storage/sessions.ts');
  const first = CATALOGUE.sessions.find((s) => s.id === ID)!;
  let refused = 0;
  for (let run = 0; run < 6; run += 1) {
    const random = seededRandom(90 + run);
    tabs.forEach((t) => t.closeVisits());
    await putSession({ ...first, followUps: [] });
    await Promise.all(tabs.map((t) => t.openVisit(ID)));
    const done: Done[][] = [[], [], []];
    const going: Promise<unknown>[] = [];
    const note = (which: number, id: string | null, work: Promise<{ ok: boolean }>): void => {
      const mine: Done = { id, ok: false };
      done[which].push(mine);
      going.push(work.then((r) => (mine.ok = r.ok)));
    };
    for (let k = 0; k < 60; k += 1) {
      const which = Math.floor(3 * random());
      const t = tabs[which];
      const what = random();
      if (what < 0.06) going.push(binVisit(ID, '2026-11-20T10:00:00.000Z'));
      else if (what < 0.14) going.push(binVisit(ID, null));
      else if (what < 0.36) note(which, null, t.stepVisit(ID, 'undo'));
      else {
        const id = `f${run}-${which}-${k}`;
        const list: FollowUp[] = t.visitStore.getState().open[ID].shown.followUps;
        const value = [...list, { id, due: '2026-12-24', why: `of tab ${which}`, doneIso: null }];
        note(which, id, t.editVisit(ID, { kind: 'set', at: 'followUps', value }));
      }
      // A step back waits for what was given before it; now and then everybody catches up.
      if (random() < 0.3) await Promise.all(going);
      if (random() < 0.2) await Promise.all(tabs.map((other) => other.refreshVisit(ID)));
    }
    await Promise.all(going);
    await binVisit(ID, null);
    await Promise.all(tabs.map((t) => t.refreshVisit(ID)));
    refused += done.flat().filter((d) => !d.ok).length;
    const stored = idsOf((await sessionStore.getItem<{ followUps: FollowUp[] }>(ID))!.followUps);
    expect(stored).toEqual(done.flatMap(leftOf).sort());
    for (const t of tabs) expect(idsOf(t.visitStore.getState().open[ID].shown.followUps)).toEqual(stored);
  }
  // The trash was met on the way.
  expect(refused).toBeGreaterThan(5);
}, 60_000);

it('a visit that one tab erases while others edit it does not come back, and they hear of it', async () => {
  const tabs = [await tab(), await tab(), await tab()];
  const { putSession, sessionStore } = await import('../storage/stores.ts');
  const { eraseSessionById } = await import('../storage/trash.ts');
  const first = CATALOGUE.sessions.find((s) => s.id === ID)!;
  for (let run = 0; run < 5; run += 1) {
    tabs.forEach((t) => t.closeVisits());
    await putSession(first);
    await Promise.all(tabs.map((t) => t.openVisit(ID)));
    const answers: Promise<{ ok: boolean }>[] = [];
    const erased: Promise<unknown>[] = [];
    for (let k = 0; k < 12; k += 1) {
      answers.push(tabs[k % 3].editVisit(ID, { kind: 'set', at: 'asFound.stem.lengthMm', value: 80 + k }));
      if (k === 4 + run) erased.push(eraseSessionById(ID));
      await Promise.resolve();
    }
    await Promise.all(erased);
    const late = await tabs[0].editVisit(ID, { kind: 'set', at: 'asFound.stem.lengthMm', value: 99 });
    await Promise.all(answers);
    expect(late.ok).toBe(false);
    expect(await sessionStore.getItem(ID)).toBeNull();
  }
}, 60_000);
