import 'fake-indexeddb/auto';
import { expect, it, vi } from 'vitest';

vi.stubGlobal('navigator', { userAgent: 'Chrome/140' });

const open = (version?: number, upgrade?: (db: IDBDatabase) => void): Promise<IDBDatabase> =>
  new Promise((resolve, reject) => {
    const request = indexedDB.open('deep-angle', version);
    request.onupgradeneeded = () => upgrade?.(request.result);
    request.onsuccess = () => resolve(request.result);
    request.onerror = () => reject(request.error ?? new Error('not opened'));
  });

it('stores that are first asked for all at once lose no write, and the database is laid out once', async () => {
  // As an older version of the application left it: some stores, with something in them.
  const old = await open(3, (db) => {
    db.createObjectStore('riders');
    db.createObjectStore('local-forage-detect-blob-support');
  });
  await new Promise<void>((done) => {
    const t = old.transaction('riders', 'readwrite');
    t.objectStore('riders').put({ name: 'Old Rider' }, 'old');
    t.oncomplete = () => done();
  });
  old.close();
  const upgrades = vi.spyOn(indexedDB, 'open');
  const s = await import('./stores.ts');
  const { touched } = await import('./touched.ts');
  const film = new Blob(['a film']);
  await Promise.all([
    s.riderStore.setItem('a', { name: 'A' }),
    s.saveClip('clip', film),
    s.settingsStore.setItem('b', 2),
    s.bikeStore.setItem('c', 3),
    touched(),
    s.sessionStore.setItem('d', 4),
    s.trackKeys(),
    s.riderStore.setItem('e', { name: 'E' }),
  ]);
  expect(await s.riderStore.getItem('old')).toEqual({ name: 'Old Rider' });
  expect(await s.riderStore.getItem('e')).toEqual({ name: 'E' });
  expect([
    await s.settingsStore.getItem('b'),
    await s.bikeStore.getItem('c'),
    await s.sessionStore.getItem('d'),
  ]).toEqual([2, 3, 4]);
  // Films stay films.
  expect(await s.loadClip('clip')).toBeInstanceOf(Blob);
  expect(await s.clipKeys()).toEqual(['clip']);
  const versions = upgrades.mock.calls.map(([, version]) => version ?? null);
  expect(versions.filter((v) => v === 4)).toHaveLength(1);
  const now = await open();
  expect(now.version).toBe(4);
  expect([...now.objectStoreNames].sort()).toEqual([
    'bikes',
    'clips',
    'drafts',
    'local-forage-detect-blob-support',
    'past',
    'riders',
    'sessions',
    'settings',
    'touched',
    'tracks',
    'whole',
  ]);
  now.close();
});

it('every record of a store is read, some at a time, each with its key', async () => {
  const s = await import('./stores.ts');
  const { eachRecord } = await import('./database.ts');
  for (let k = 0; k < 6; k += 1) await s.draftStore.setItem(`d${k}`, { k });
  for (const at of [1, 3, 6, 100]) {
    const seen: [string, unknown][] = [];
    await eachRecord(s.draftStore, at, (stored, key) => seen.push([key, stored]));
    expect(seen).toEqual([0, 1, 2, 3, 4, 5].map((k) => [`d${k}`, { k }]));
  }
});
