import 'fake-indexeddb/auto';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { applyEdit, type SessionEdit } from '../../core/visit/edits.ts';
import type { FitSession } from '../../core/records/types.ts';
import { emptyTracks } from '../../core/tracking/tracks.ts';
import { seededRandom } from '../../sim/random.ts';
import { CATALOGUE } from '../demo/catalogue.ts';
import { bringBack, lookInto, saveBundle } from '../jobs/backup.ts';
import { fileReaders } from '../workers/fileReaders.ts';
import { eraseSessionById } from './trash.ts';
import { seedDemo } from './demo.ts';
import { closeVisits, editVisit, openVisit, stepVisit, visitStore } from '../session/visits.ts';
import { saveAgain, saveStore } from './saveState.ts';
import { loadRider, loadSession } from './sessions.ts';
import {
  bikeStore,
  loadTracks,
  pastStore,
  putSession,
  removeRider,
  riderStore,
  saveTracks,
  sessionStore,
  settingsStore,
} from './stores.ts';
import { studioIndex } from './studioIndex.ts';

/** Files are read in a worker; here in this room. */
vi.mock('../workers/spawn', () => ({ spawnReaders: () => ({ api: fileReaders, end: () => undefined }) }));

// What the browser has besides the database, as far as storage asks for it.
vi.stubGlobal('navigator', { userAgent: 'Chrome/140' });

const ID = 'pilar-1';
const stored = async (id = ID): Promise<FitSession> => {
  const got = await loadSession(id);
  if (!got?.ok) throw new Error(got?.message ?? `${id} is gone`);
  return got.value;
};
const canStep = (id: string) => visitStore.getState().open[id].steps;
const height = (mm: unknown): SessionEdit => ({ kind: 'set', at: 'asFound.saddle.heightMm', value: mm });
const stem = (mm: number): SessionEdit => ({ kind: 'set', at: 'asFound.stem.lengthMm', value: mm });

beforeEach(async () => {
  vi.restoreAllMocks();
  await Promise.all([riderStore, bikeStore, sessionStore, settingsStore].map((s) => s.clear()));
  closeVisits();
  await pastStore.clear();
  await seedDemo(CATALOGUE);
});

describe('the demo studio', () => {
  it('is laid out once, however many ask for it at the same time: what was edited since stands', async () => {
    await Promise.all([settingsStore.clear(), sessionStore.clear()]);
    const put = sessionStore.setItem.bind(sessionStore);
    let writes = 0;
    // A second laying out would be slower than the first, and come after the edit.
    vi.spyOn(sessionStore, 'setItem').mockImplementation(async (key, value) => {
      writes += 1;
      const again = writes > CATALOGUE.sessions.length && CATALOGUE.sessions.includes(value as FitSession);
      if (again) await new Promise((done) => setTimeout(done, 60));
      return put(key, value);
    });
    const all = [1, 2, 3, 4].map(() => seedDemo(CATALOGUE));
    await all[0];
    expect((await editVisit(ID, height(777))).ok).toBe(true);
    await Promise.all(all);
    await seedDemo(CATALOGUE);
    expect((await stored()).asFound.saddle.heightMm).toBe(777);
  });
});

describe('edits of a visit', () => {
  it('that come faster than they are written are all there, each answered by itself', async () => {
    const writes = vi.spyOn(sessionStore, 'setItem');
    const edits = Array.from({ length: 60 }, (_, k) =>
      k % 7 === 3 ? height('high') : k % 2 ? height(600 + k) : stem(60 + k),
    );
    const answers = await Promise.all(edits.map((e) => editVisit(ID, e)));
    expect(answers.map((a) => a.ok)).toEqual(edits.map((_, k) => k % 7 !== 3));
    expect(await stored()).toMatchObject({ asFound: { saddle: { heightMm: 657 }, stem: { lengthMm: 118 } } });
    // They went into few writes: the store is never far behind.
    expect(writes.mock.calls.length).toBeLessThan(5);
    expect(saveStore.getState()).toEqual({ state: 'saved' });
  });
  it('and steps back and forward stand where a model of plain lists has them, whatever the order', async () => {
    const random = seededRandom(31);
    for (let run = 0; run < 6; run += 1) {
      const first = await stored();
      await pastStore.clear();
      const done: FitSession[] = [];
      let [now, undone] = [first, [] as FitSession[]];
      const answers: Promise<unknown>[] = [];
      for (let k = 0; k < 40; k += 1) {
        const chance = random();
        if (chance < 0.25) {
          answers.push(stepVisit(ID, 'undo'));
          const before = done.pop();
          if (before) {
            undone.push(now);
            now = before;
          }
        } else if (chance < 0.45) {
          answers.push(stepVisit(ID, 'redo'));
          const after = undone.pop();
          if (after) {
            done.push(now);
            now = after;
          }
        } else {
          const edit = chance < 0.75 ? height(600 + Math.floor(90 * random())) : stem(60 + k);
          answers.push(editVisit(ID, edit));
          const applied = applyEdit(now, edit);
          if (!applied.ok) throw new Error(applied.message);
          // An edit that changes nothing is no step.
          if (JSON.stringify(applied.session) !== JSON.stringify(now)) done.push(now);
          undone = [];
          now = applied.session;
        }
        // Sometimes the store is let catch up, sometimes not.
        if (random() < 0.2) await Promise.all(answers);
      }
      await Promise.all(answers);
      expect(await stored()).toEqual(now);
      expect(canStep(ID)).toEqual({ undo: done.length > 0, redo: undone.length > 0 });
      while (canStep(ID).undo) await stepVisit(ID, 'undo');
      expect(await stored()).toEqual(first);
      expect(await stepVisit(ID, 'undo')).toEqual({ ok: false, message: 'Nothing to undo.' });
    }
  });
  it('one that finds no room is told, stays shown, takes none beside it along, and is stored once there is room', async () => {
    const put = sessionStore.setItem.bind(sessionStore);
    const full = vi
      .spyOn(sessionStore, 'setItem')
      .mockImplementation((key, value) =>
        JSON.stringify(value).includes('a film too many')
          ? Promise.reject(new DOMException('', 'QuotaExceededError'))
          : put(key, value),
      );
    const note = (text: string): SessionEdit => ({ kind: 'set', at: 'asFound.name', value: text });
    const answers = await Promise.all([
      editVisit(ID, height(701)),
      editVisit(ID, note('a film too many')),
      editVisit(ID, stem(77)),
    ]);
    expect(answers.map((a) => a.ok)).toEqual([true, false, true]);
    expect(JSON.stringify(answers[1])).toContain('no room left');
    const { asFound } = await stored();
    expect([asFound.saddle.heightMm, asFound.stem.lengthMm]).toEqual([701, 77]);
    expect(JSON.stringify(asFound)).not.toContain('too many');
    expect(visitStore.getState().open[ID].shown.asFound.name).toBe('a film too many');
    expect(saveStore.getState()).toMatchObject({ state: 'failed', full: true, again: true });
    full.mockRestore();
    saveAgain();
    await vi.waitFor(() => expect(saveStore.getState()).toEqual({ state: 'saved' }));
    expect((await stored()).asFound).toMatchObject({ name: 'a film too many', stem: { lengthMm: 77 } });
    while (canStep(ID).undo) await stepVisit(ID, 'undo');
    expect((await stored()).asFound).toEqual(CATALOGUE.sessions.find((s) => s.id === ID)!.asFound);
  });
  it('of a visit that is gone or can’t be read are refused with a sentence, and damage nothing', async () => {
    expect(await editVisit('nobody-1', height(700))).toEqual({
      ok: false,
      message: 'This visit is no longer on this device.',
    });
    const broken = { ...(await stored()), version: 999 };
    await sessionStore.setItem(ID, broken);
    expect((await editVisit(ID, height(700))).ok).toBe(false);
    expect(await sessionStore.getItem(ID)).toEqual(broken);
  });
  it('of a visit whose database was taken away under the page are never “saved”', async () => {
    await openVisit('maren-1');
    await new Promise<void>((done, failed) => {
      const gone = indexedDB.deleteDatabase('deep-angle');
      gone.onsuccess = () => done();
      gone.onerror = () => failed(new Error('not deleted'));
    });
    expect(await editVisit('maren-1', height(701))).toMatchObject({ ok: false });
    expect(saveStore.getState()).toMatchObject({ state: 'failed' });
    await seedDemo(CATALOGUE);
    closeVisits();
    expect((await editVisit('maren-1', height(702))).ok).toBe(true);
    expect(saveStore.getState()).toEqual({ state: 'saved' });
  });
  it('where the bike’s name finds no room, its edit waits and the others are stored whole', async () => {
    const full = vi.spyOn(bikeStore, 'setItem').mockRejectedValue(new DOMException('', 'QuotaExceededError'));
    const answers = await Promise.all([
      editVisit(ID, { kind: 'set', at: 'asFound.name', value: 'Lantern' }),
      editVisit(ID, {
        kind: 'moved',
        id: 'c1',
        madeIso: '2026-11-25T10:00:00.000Z',
        values: [{ at: 'saddle.heightMm', value: 640 }],
      }),
    ]);
    expect(answers.map((a) => a.ok)).toEqual([false, true]);
    expect((await stored()).asFound.name).not.toBe('Lantern');
    expect((await stored()).changes.map((c) => c.id)).toEqual(['c1']);
    full.mockRestore();
    saveAgain();
    await vi.waitFor(async () => expect((await stored()).asFound.name).toBe('Lantern'));
    expect((await stored()).changes.map((c) => c.id)).toEqual(['c1']);
  });
  it('a step back takes what its own edit left, not what came since', async () => {
    await editVisit(ID, height(701));
    // Another tab writes beside it, and then over it.
    const now = await stored();
    await putSession({ ...now, asFound: { ...now.asFound, stem: { ...now.asFound.stem, lengthMm: 77 } } });
    expect((await stepVisit(ID, 'undo')).ok).toBe(true);
    expect((await stored()).asFound).toMatchObject({
      saddle: { heightMm: CATALOGUE.sessions.find((s) => s.id === ID)!.asFound.saddle.heightMm },
      stem: { lengthMm: 77 },
    });
    await stepVisit(ID, 'redo');
    const again = await stored();
    await putSession({
      ...again,
      asFound: { ...again.asFound, saddle: { ...again.asFound.saddle, heightMm: 650 } },
    });
    expect(await stepVisit(ID, 'undo')).toMatchObject({
      ok: false,
      message: expect.stringContaining('changed again since') as string,
    });
    expect((await stored()).asFound.saddle.heightMm).toBe(650);
  });
  it('can be taken back after the page was drawn anew, tracks among them', async () => {
    const take = (await stored('maren-1')).takes[0];
    const tracking = {
      state: 'done' as const,
      framesDone: 9,
      estimated: false,
      revision: take.tracking.revision + 1,
    };
    await editVisit('maren-1', { kind: 'tracking', takeId: take.id, tracking });
    await editVisit('maren-1', { kind: 'set', at: `takes.#${take.id}.note`, value: 'said later' });
    closeVisits();
    await stepVisit('maren-1', 'undo');
    await stepVisit('maren-1', 'undo');
    expect((await stored('maren-1')).takes[0]).toEqual(take);
    await stepVisit('maren-1', 'redo');
    expect((await stored('maren-1')).takes[0].tracking).toEqual(tracking);
  });
  it('of one go are one step, and lists that two hands add to keep what both added', async () => {
    await editVisit(ID, height(61), 'field');
    await editVisit(ID, height(612), 'field');
    await stepVisit(ID, 'undo');
    expect((await stored()).asFound).toEqual(CATALOGUE.sessions.find((s) => s.id === ID)!.asFound);
    const due = (id: string) => ({ id, due: '2026-12-24', why: id, doneIso: null });
    const { followUps } = await stored();
    // Another tab has added one, and this page has not heard of it yet.
    await putSession({ ...(await stored()), followUps: [...followUps, due('theirs')] });
    await editVisit(ID, { kind: 'set', at: 'followUps', value: [...followUps, due('mine')] });
    const ids = (await stored()).followUps.map((f) => f.id);
    expect(ids.sort()).toEqual(['mine', ...followUps.map((f) => f.id), 'theirs'].sort());
  });
  it('reach the lists and the bike’s own record', async () => {
    await studioIndex();
    await editVisit(ID, { kind: 'set', at: 'asFound.name', value: 'Lantern' });
    const due = [{ id: 'f', due: '2026-12-24', why: 'a call', doneIso: null }];
    await editVisit(ID, { kind: 'set', at: 'followUps', value: due });
    const { index } = await studioIndex();
    expect(JSON.stringify(index.visits.find((v) => v.id === ID))).toContain('2026-12-24');
    expect(await bikeStore.getItem((await stored()).bikeId)).toMatchObject({ name: 'Lantern' });
  });
});

describe('a backup', () => {
  const bring = async (file: Blob, how: 'add' | 'over' | 'both') => {
    const { backup, inspection, here } = await lookInto(file);
    expect(inspection.faults).toEqual([]);
    return bringBack(backup, inspection, { here, duplicates: how, studioToo: false });
  };
  const ofMaren = async (): Promise<string[]> =>
    (await studioIndex()).index.visits
      .filter((v) => v.riderId === 'maren')
      .map((v) => v.id)
      .sort();

  it('of one visit, brought back over what is here, leaves the rider’s other visits alone', async () => {
    const take = (await stored('maren-2')).takes[0];
    const tracks = emptyTracks([0, 0.02, 0.04], ['hip']);
    tracks.landmarks.hip.xPx.set([1, 2, 3]);
    tracks.landmarks.hip.yPx.set([4, 5, 6]);
    await saveTracks(take.id, take.tracking.revision, tracks);
    const file = await saveBundle('maren', () => undefined, 'maren-2');
    await editVisit('maren-2', height(690));
    await editVisit('maren-1', height(655));
    const others = [await stored('maren-1'), await stored(ID)];
    expect(await bring(file, 'over')).toMatchObject({ riders: 1, sessions: 1 });
    expect(await stored('maren-2')).toEqual(CATALOGUE.sessions.find((s) => s.id === 'maren-2'));
    expect([await stored('maren-1'), await stored(ID)]).toEqual(others);
    expect((await loadTracks(take))!.landmarks.hip.xPx).toEqual(Float64Array.from([1, 2, 3]));
  });
  it('adds a visit that was erased and touches none that is here', async () => {
    const file = await saveBundle('maren', () => undefined);
    await eraseSessionById('maren-2');
    await editVisit('maren-1', height(655));
    expect(await ofMaren()).toEqual(['maren-1']);
    expect(await bring(file, 'add')).toMatchObject({ riders: 0, sessions: 1 });
    expect(await ofMaren()).toEqual(['maren-1', 'maren-2']);
    expect((await stored('maren-1')).asFound.saddle.heightMm).toBe(655);
    expect(await bring(file, 'add')).toMatchObject({ riders: 0, sessions: 0 });
  });
  it('taken in beside makes a second rider, with visits and bikes of its own', async () => {
    const before = await ofMaren();
    await bring(await saveBundle('maren', () => undefined), 'both');
    const { index } = await studioIndex();
    const twins = index.riders.filter((r) => r.name === 'Maren Toft');
    expect(twins).toHaveLength(2);
    expect(await ofMaren()).toEqual(before);
    const other = twins.find((r) => r.id !== 'maren')!;
    const visits = index.visits.filter((v) => v.riderId === other.id);
    expect(visits).toHaveLength(before.length);
    const first = await stored(visits[0].id);
    expect(await bikeStore.getItem(first.bikeId)).toMatchObject({ riderId: other.id });
  });
  it('a visit’s own file comes back too, as long as its rider is here', async () => {
    const visit = await stored(ID);
    const file = (session: unknown): Blob => new Blob([JSON.stringify({ session, summary: {} }, null, 2)]);
    await editVisit(ID, height(640));
    expect(await bring(file(visit), 'over')).toMatchObject({ riders: 1, sessions: 1 });
    expect(await stored(ID)).toEqual(visit);
    expect(await loadRider('pilar')).toEqual(CATALOGUE.riders.find((r) => r.id === 'pilar'));
    await expect(lookInto(new Blob(['{"session": {']))).rejects.toThrow('neither a backup nor a visit');
    await expect(lookInto(file({ ...visit, takes: 7 }))).rejects.toThrow('can’t be used');
    await expect(lookInto(file(undefined))).rejects.toThrow('There is no visit in this file');
    await removeRider('pilar');
    await expect(lookInto(file(visit))).rejects.toThrow('rider of this visit is not on this device');
  });
  it('never puts a visit over one of another rider that has the same id', async () => {
    const file = await saveBundle('idris', () => undefined);
    const taken = { ...(await stored('idris-1')), riderId: 'juno' };
    await putSession(taken);
    await bring(file, 'over');
    expect(await stored('idris-1')).toEqual(taken);
    const { index } = await studioIndex();
    expect(index.visits.filter((v) => v.riderId === 'idris')).toHaveLength(1);
  });
});
