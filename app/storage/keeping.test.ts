import 'fake-indexeddb/auto';
import { strFromU8, unzipSync } from 'fflate';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import type { Part } from '../../core/bike/parts.ts';
import { PROTOCOLS } from '../../core/protocol/protocols.ts';
import { RECORD_VERSIONS } from '../../core/records/migrations.ts';
import { emptyTracks } from '../../core/tracking/tracks.ts';
import type { FitSession } from '../../core/records/types.ts';
import { TRASH_DAYS } from '../../core/visit/visits.ts';
import { CATALOGUE } from '../demo/catalogue.ts';
import { DEMO_PARTS } from '../demo/parts.ts';
import { storedBikes } from './bikes.ts';
import { saveBundle } from '../jobs/backup.ts';
import { eraseRider, sessionsOf, studioNow } from './trash.ts';
import { store } from './database.ts';
import { seedDemo } from './demo.ts';
import { dropFilm, filmsHeld, sweepFilms } from './films.ts';
import { loadParts, partsThere, saveParts } from './parts.ts';
import { allProtocols, loadShelf, saveShelf } from './protocols.ts';
import { holdTyped, isFull, saveStore, saving, typedHandedOver } from './saveState.ts';
import { editVisit } from '../session/visits.ts';
import {
  bikeStore,
  clipKeys,
  dropClip,
  loadClip,
  putRider,
  putSession,
  riderStore,
  saveClip,
  saveTracks,
  sessionStore,
  settingsStore,
  trackKey,
  trackKeys,
} from './stores.ts';
import { loadStudio, saveStudio } from './studio.ts';
import { distrust } from './touched.ts';
import { studioIndex, wholeIndex } from './studioIndex.ts';

/** A browser's locks, as far as they are asked for here: one at a time by name, shared ones together. */
function lockManager(): { request: (...args: unknown[]) => Promise<unknown>; held: Map<string, number> } {
  const chains = new Map<string, Promise<unknown>>();
  const held = new Map<string, number>();
  return {
    held,
    request: (name: unknown, ...rest: unknown[]) => {
      const key = name as string;
      const options = (rest.length > 1 ? rest[0] : {}) as { mode?: string; ifAvailable?: boolean };
      const work = rest.at(-1) as (lock: object | null) => Promise<unknown>;
      const run = async (): Promise<unknown> => {
        held.set(key, (held.get(key) ?? 0) + 1);
        try {
          return await work({});
        } finally {
          held.set(key, held.get(key)! - 1);
        }
      };
      if (options.mode === 'shared') return run();
      if (options.ifAvailable) return held.get(key) ? work(null) : run();
      const next = (chains.get(key) ?? Promise.resolve()).then(run, run);
      chains.set(
        key,
        next.catch(() => undefined),
      );
      return next;
    },
  };
}
const locks = lockManager();
vi.stubGlobal('navigator', { userAgent: 'Chrome/140', locks });

const NO_TRACKS = emptyTracks([0, 0.1], ['hip']);
const NOW = '2026-11-25T12:00:00.000Z';
const daysAgo = (days: number): string => new Date(Date.parse(NOW) - days * 86_400_000).toISOString();
const clip = (bytes: number): Blob => new Blob([new Uint8Array(bytes)]);

beforeEach(async () => {
  await Promise.all([riderStore, bikeStore, sessionStore, settingsStore].map((s) => s.clear()));
  await Promise.all((await clipKeys()).map(dropClip));
  await seedDemo(CATALOGUE);
});

describe('the studio’s own record', () => {
  it('is a new one where none is stored, and keeps what is changed', async () => {
    await settingsStore.removeItem('studio');
    expect((await loadStudio()).name).toBe('');
    expect((await saveStudio({ name: 'Kiln Yard' })).ok).toBe(true);
    expect((await loadStudio()).name).toBe('Kiln Yard');
  });
  it('two changes at the same time, from two tabs for one, are both kept', async () => {
    await Promise.all([
      saveStudio({ name: 'Kiln Yard' }),
      saveStudio({ fitter: 'Orla' }),
      saveStudio({ lengthUnit: 'in' }),
    ]);
    expect(await loadStudio()).toMatchObject({ name: 'Kiln Yard', fitter: 'Orla', lengthUnit: 'in' });
  });
  it('what can’t be is refused with a sentence, and stores nothing', async () => {
    await saveStudio({ name: 'Kiln Yard' });
    const refused = await saveStudio({ theme: 'sepia' as never });
    expect(refused.ok).toBe(false);
    expect(await loadStudio()).toMatchObject({ name: 'Kiln Yard', theme: 'system' });
  });
  it('one of a newer version is left as it is', async () => {
    const newer = { version: RECORD_VERSIONS.studio + 1, name: 'From next year', colour: 'teal' };
    await settingsStore.setItem('studio', newer);
    expect(await saveStudio({ name: 'Older' })).toMatchObject({ ok: false, reason: 'newer' });
    expect(await settingsStore.getItem('studio')).toEqual(newer);
  });
});

describe('parts and protocols', () => {
  const [first] = DEMO_PARTS.parts;
  it('come back as they were stored', async () => {
    await saveParts([...DEMO_PARTS.parts], []);
    const stored = await loadParts();
    expect(stored.ok && stored.value.parts).toEqual(DEMO_PARTS.parts);
    const own = { ...PROTOCOLS[0], id: 'own', name: 'Ours' };
    expect((await saveShelf([own], [])).ok).toBe(true);
    expect((await allProtocols()).map((p) => p.id)).toEqual([...PROTOCOLS.map((p) => p.id), 'own']);
  });
  it('with one that can’t be, none is stored, and it is named', async () => {
    await saveParts([...DEMO_PARTS.parts], []);
    const bad: Part = { ...first, id: 'bad', lengthMm: 4000 };
    const refused = await saveParts([first, bad], []);
    expect(refused.ok).toBe(false);
    expect((await partsThere()).length).toBe(DEMO_PARTS.parts.length);
    const shelf = await saveShelf([{ ...PROTOCOLS[0], id: 'own', bands: {} as never }], []);
    expect(shelf.ok).toBe(false);
    expect(await loadShelf()).toMatchObject({ ok: true, value: { protocols: [] } });
  });
  it('a parts bin or a shelf of a newer version is left as it is, and the plan goes on without', async () => {
    const newer = { version: RECORD_VERSIONS.parts + 1, parts: [], shelves: 3 };
    await settingsStore.setItem('parts', newer);
    expect((await saveParts([first], [])).ok).toBe(false);
    expect(await settingsStore.getItem('parts')).toEqual(newer);
    expect(await partsThere()).toEqual([]);
    const shelf = { version: RECORD_VERSIONS.protocols + 1, protocols: [], labels: [] };
    await settingsStore.setItem('protocols', shelf);
    expect((await saveShelf([], [])).ok).toBe(false);
    expect(await settingsStore.getItem('protocols')).toEqual(shelf);
    expect(await allProtocols()).toEqual(PROTOCOLS);
  });
});

describe('the trash', () => {
  const rider = CATALOGUE.riders.find((r) => r.id === 'pilar')!;
  it('is emptied of what has lain there for its time, of that alone, with films and bikes', async () => {
    const visits = await sessionsOf('pilar');
    for (const v of visits) for (const t of v.takes) await saveClip(t.id, clip(10));
    await saveClip('somebody-else', clip(10));
    await putRider({ ...rider, deletedIso: daysAgo(TRASH_DAYS - 1) });
    expect((await studioNow(NOW)).index.riders.map((r) => r.id)).toContain('pilar');
    await putRider({ ...rider, deletedIso: daysAgo(TRASH_DAYS + 1) });
    const { index } = await studioNow(NOW);
    expect(index.riders.map((r) => r.id)).not.toContain('pilar');
    expect(await sessionsOf('pilar')).toEqual([]);
    expect(await storedBikes('pilar')).toEqual([]);
    expect(await clipKeys()).toEqual(['somebody-else']);
    expect(index.riders.length).toBe(CATALOGUE.riders.length - 1);
  });
  it('a visit in the trash goes alone', async () => {
    const before = (await studioIndex()).index.visits.length;
    const [visit] = await sessionsOf('juno');
    await putSession({ ...visit, deletedIso: daysAgo(TRASH_DAYS + 2) });
    const { index } = await studioNow(NOW);
    expect(index.visits.length).toBe(before - 1);
    expect(index.riders.map((r) => r.id)).toContain('juno');
  });
  it('erasing a rider touches nobody else', async () => {
    const others = (await sessionsOf('maren')).map((s) => s.id);
    await eraseRider('pilar');
    expect((await sessionsOf('maren')).map((s) => s.id)).toEqual(others);
    await eraseRider('nobody');
    expect((await studioIndex()).index.riders.length).toBe(CATALOGUE.riders.length - 1);
  });
  it('a visit that can’t be read is left out of the rider’s, and stays stored', async () => {
    const [visit] = await sessionsOf('juno');
    const newer = { ...visit, version: RECORD_VERSIONS.session + 1 };
    await sessionStore.setItem(visit.id, newer);
    expect((await sessionsOf('juno')).map((s) => s.id)).not.toContain(visit.id);
    expect(await sessionStore.getItem(visit.id)).toEqual(newer);
  });
});

describe('films', () => {
  it('are listed by what they take, the largest first, and dropped one by one', async () => {
    const takes = (await studioIndex()).index.visits.flatMap((v) => v.takes).slice(0, 3);
    await saveClip(takes[0].id, clip(300));
    await saveClip(takes[1].id, clip(900));
    await saveClip(takes[2].id, clip(600));
    const held = await filmsHeld((await studioIndex()).index);
    expect(held.map((h) => [h.take.id, h.bytes])).toEqual([
      [takes[1].id, 900],
      [takes[2].id, 600],
      [takes[0].id, 300],
    ]);
    await dropFilm(takes[1].id);
    expect(await loadClip(takes[1].id)).toBeNull();
    expect((await filmsHeld((await studioIndex()).index)).length).toBe(2);
  });
  it('that no visit has any more are swept once, tracks of other revisions too; what is in use stays', async () => {
    const visits = (await studioIndex()).index.visits;
    const [take] = visits.flatMap((v) => v.takes);
    await saveClip(take.id, clip(10));
    await saveClip('left-over', clip(10));
    for (const revision of [take.revision, take.revision + 7]) await saveTracks(take.id, revision, NO_TRACKS);
    await saveTracks('left-over', 1, NO_TRACKS);
    await sweepFilms(studioIndex);
    expect(await clipKeys()).toEqual([take.id]);
    expect(await trackKeys()).toEqual([trackKey(take.id, take.revision)]);
    // This tab may undo from here on: nothing is swept under it a second time.
    await saveClip('replaced', clip(10));
    await sweepFilms(studioIndex);
    expect(await clipKeys()).toContain('replaced');
  });
});

describe('a visit that this version can’t read', () => {
  const NEWER = {
    version: RECORD_VERSIONS.session + 1,
    riderId: 'maren',
    takes: [{ id: 'newer-take' }],
    glow: true,
  };
  beforeEach(async () => {
    await sessionStore.setItem('newer-1', NEWER);
    await saveClip('newer-take', clip(40));
    await saveTracks('newer-take', 3, NO_TRACKS);
  });
  it('is told in the index, with whose it is, however often that is brought up to date', async () => {
    const seen = [{ kind: 'session', id: 'newer-1', riderId: 'maren', takeIds: ['newer-take'] }];
    expect((await studioIndex()).unreadable).toEqual(seen);
    await editVisit('maren-1', { kind: 'set', at: 'asFound.stem.lengthMm', value: 91 });
    expect((await studioIndex()).unreadable).toEqual(seen);
  });
  it('stops the sweep: nobody knows what it holds', async () => {
    await saveClip('left-over', clip(10));
    vi.resetModules();
    vi.stubGlobal('navigator', { userAgent: 'Chrome/140', locks: lockManager() });
    const { sweepFilms: freshSweep } = await import('./films.ts');
    await freshSweep(studioIndex);
    vi.stubGlobal('navigator', { userAgent: 'Chrome/140', locks });
    expect((await clipKeys()).sort()).toEqual(['left-over', 'newer-take']);
  });
  it('goes along in a backup as it is, with its film, and comes back where it can be read', async () => {
    const files = unzipSync(new Uint8Array(await (await saveBundle(null, () => undefined)).arrayBuffer()));
    expect(JSON.parse(strFromU8(files['sessions/newer-1.json']))).toEqual(NEWER);
    expect(files['takes/newer-take/film'].length).toBe(40);
    expect(Object.keys(files)).toContain('takes/newer-take/tracks.csv');
    const ofAnother = await saveBundle('pilar', () => undefined);
    expect(Object.keys(unzipSync(new Uint8Array(await ofAnother.arrayBuffer())))).not.toContain(
      'sessions/newer-1.json',
    );
  });
  it('is erased with its rider', async () => {
    await eraseRider('maren');
    expect(await sessionStore.getItem('newer-1')).toBeNull();
    expect(await loadClip('newer-take')).toBeNull();
    expect((await studioIndex()).unreadable).toEqual([]);
  });
});

describe('a visit that is damaged where no list looks', () => {
  beforeEach(async () => {
    const stored = (await sessionStore.getItem<FitSession>('maren-1'))!;
    await sessionStore.setItem('maren-1', { ...stored, statics: { arch: 7 } });
    await settingsStore.removeItem('studio-index');
  });
  const BROKEN = [expect.objectContaining({ kind: 'session', id: 'maren-1', riderId: 'maren' })];
  it('stands in the lists, and is known as unreadable before anything is swept', async () => {
    const atSight = await studioIndex();
    expect(atSight.whole).toBe(false);
    expect(atSight.index.visits.map((v) => v.id)).toContain('maren-1');
    expect((await wholeIndex()).unreadable).toEqual(BROKEN);
    expect(await studioIndex()).toMatchObject({ whole: true, unreadable: BROKEN });
  });
  it('stays known when the index is made anew from records read at sight', async () => {
    await distrust('session', 'maren-1');
    await settingsStore.removeItem('studio-index');
    expect((await studioIndex()).unreadable).toEqual(BROKEN);
  });
  it('goes along in a backup as it is', async () => {
    const files = unzipSync(new Uint8Array(await (await saveBundle(null, () => undefined)).arrayBuffer()));
    expect(JSON.parse(strFromU8(files['sessions/maren-1.json'])).statics).toEqual({ arch: 7 });
  });
});

describe('what can be made anew', () => {
  it('is, where the index or a mark is damaged', async () => {
    const whole = (await studioIndex()).index;
    for (const damage of [
      '{"shape":',
      '7',
      'null',
      { not: 'text' },
      JSON.stringify({ shape: 'x', riders: [] }),
    ]) {
      await settingsStore.setItem('studio-index', damage);
      expect((await studioIndex()).index).toEqual(whole);
    }
    const touched = store('touched');
    await touched.setItem('session:maren-1', null);
    await touched.setItem('nonsense', 7);
    expect((await studioIndex()).index.visits.map((v) => v.id).sort()).toEqual(
      whole.visits.map((v) => v.id).sort(),
    );
  });
});

describe('a full device', () => {
  it('still gives a backup', async () => {
    const full = (): Promise<never> => Promise.reject(new DOMException('', 'QuotaExceededError'));
    const spies = [settingsStore, sessionStore].map((s) => vi.spyOn(s, 'setItem').mockImplementation(full));
    const files = unzipSync(new Uint8Array(await (await saveBundle(null, () => undefined)).arrayBuffer()));
    expect(Object.keys(files)).toContain('sessions/maren-1.json');
    spies.forEach((s) => s.mockRestore());
  });
});

describe('lists that two tabs change', () => {
  it('lose nothing of either', async () => {
    const stored = await loadParts();
    const seen = stored.ok ? stored.value.parts : [];
    const extra = { ...seen[0], id: 'from-a', name: 'From tab A' };
    expect((await saveParts([...seen, extra], seen)).ok).toBe(true);
    // Tab B still shows what it saw.
    expect((await saveParts(seen.slice(1), seen, NOW)).ok).toBe(true);
    const now = await loadParts();
    if (!now.ok) throw new Error(now.message);
    expect(now.value.parts.map((p) => p.id)).toEqual([...seen.slice(1).map((p) => p.id), 'from-a']);
    expect(now.value.removed).toEqual([{ part: seen[0], removedIso: NOW }]);
    await saveParts([seen[0]], [], NOW);
    expect((await loadParts()).ok && (await partsThere()).map((p) => p.id)).toContain(seen[0].id);
  });
});

describe('what the corner of the page says', () => {
  it('saving, saved, and why not; the error goes on to who asked', async () => {
    const heard: string[] = [];
    const stop = saveStore.subscribe(() => heard.push(saveStore.getState().state));
    await saving(() => Promise.resolve(1));
    await expect(saving(() => Promise.reject(new Error('the disk is gone')))).rejects.toThrow('disk');
    expect(saveStore.getState()).toMatchObject({ state: 'failed', why: 'the disk is gone', full: false });
    const full = new DOMException('no', 'QuotaExceededError');
    await expect(saving(() => Promise.reject(full))).rejects.toBe(full);
    expect(saveStore.getState()).toMatchObject({
      full: true,
      why: expect.stringContaining('Move films out'),
    });
    expect(isFull(new Error('something else'))).toBe(false);
    expect((await editVisit('maren-1', { kind: 'set', at: 'asFound.stem.lengthMm', value: 95 })).ok).toBe(
      true,
    );
    expect(saveStore.getState()).toEqual({ state: 'saved' });
    stop();
    const count = heard.length;
    await saving(() => Promise.resolve(1));
    expect(heard.length).toBe(count);
    expect(heard.slice(0, 4)).toEqual(['saving', 'saved', 'saving', 'failed']);
  });
  it('is not “saved” before the last of several writes is', async () => {
    let done!: () => void;
    // Typed and not handed over yet is not saved either.
    holdTyped('a field');
    expect(saveStore.getState()).toEqual({ state: 'saving' });
    typedHandedOver('a field');
    expect(saveStore.getState()).toEqual({ state: 'saved' });
    const slow = saving(() => new Promise<void>((go) => (done = go)));
    await saving(() => Promise.resolve());
    expect(saveStore.getState()).toEqual({ state: 'saving' });
    done();
    await slow;
    expect(saveStore.getState()).toEqual({ state: 'saved' });
  });
});
