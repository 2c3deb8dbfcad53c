import 'fake-indexeddb/auto';
import { expect, it, vi } from 'vitest';
import type { FollowUp } from '../../core/records/work.ts';
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

it('three tabs, edits and undos at random: no edit is lost but by its own undo, and all show the same in the end', async () => {
  const tabs = [await tab(), await tab(), await tab()];
  const { putSession, sessionStore } = await import('../storage/stores.ts');
  const first = CATALOGUE.sessions.find((s) => s.id === ID)!;
  for (let run = 0; run < 4; run += 1) {
    const random = seededRandom(90 + run);
    tabs.forEach((t) => t.closeVisits());
    await putSession({ ...first, followUps: [] });
    await Promise.all(tabs.map((t) => t.openVisit(ID)));
    // What each tab has added and not taken back, newest last: its own edits are its own to undo.
    const added: string[][] = [[], [], []];
    const going: Promise<unknown>[] = [];
    for (let k = 0; k < 60; k += 1) {
      const which = Math.floor(3 * random());
      const t = tabs[which];
      if (random() < 0.25 && added[which].length > 0) {
        added[which].pop();
        going.push(t.stepVisit(ID, 'undo'));
      } else {
        const id = `f${run}-${which}-${k}`;
        const list: FollowUp[] = t.visitStore.getState().open[ID].shown.followUps;
        added[which].push(id);
        going.push(
          t.editVisit(ID, {
            kind: 'set',
            at: 'followUps',
            value: [...list, { id, due: '2026-12-24', why: `of tab ${which}`, doneIso: null }],
          }),
        );
      }
      // A step back waits for what was given before it; now and then everybody catches up.
      if (random() < 0.3) await Promise.all(going);
      if (random() < 0.2) await Promise.all(tabs.map((other) => other.refreshVisit(ID)));
    }
    await Promise.all(going);
    await Promise.all(tabs.map((t) => t.refreshVisit(ID)));
    const stored = (await sessionStore.getItem<{ followUps: FollowUp[] }>(ID))!.followUps
      .map((f) => f.id)
      .sort();
    expect(stored).toEqual(added.flat().sort());
    for (const t of tabs)
      expect(
        t.visitStore
          .getState()
          .open[ID].shown.followUps.map((f) => f.id)
          .sort(),
      ).toEqual(stored);
  }
}, 60_000);
