import localforage from 'localforage';

const NAME = 'deep-angle';
/** Where localForage tries out whether films can be kept as they are; without it they would be kept as text. */
const FILM_TRIAL = 'local-forage-detect-blob-support';

const stores: string[] = [FILM_TRIAL];

/** The database, with every store that is named here and not there yet. @param version null: as it is, or a new one */
function opened(version: number | null): Promise<IDBDatabase> {
  return new Promise((resolve, reject) => {
    const request = version === null ? indexedDB.open(NAME) : indexedDB.open(NAME, version);
    request.onupgradeneeded = () => {
      for (const name of stores)
        if (!request.result.objectStoreNames.contains(name)) request.result.createObjectStore(name);
    };
    request.onsuccess = () => resolve(request.result);
    request.onerror = () =>
      reject(request.error ?? new Error('The database of this browser can’t be opened.'));
  });
}

async function layOut(): Promise<void> {
  const db = await opened(null);
  const lacking = stores.some((name) => !db.objectStoreNames.contains(name));
  db.close();
  if (lacking) (await opened(db.version + 1)).close();
}

let storesReady: Promise<void> | null = null;

/** Whether this browser has no database of ours; looked up before anything here makes one. */
const wasBare: Promise<boolean> =
  typeof indexedDB !== 'undefined' && typeof indexedDB.databases === 'function'
    ? indexedDB.databases().then(
        (all) => all.every(({ name }) => name !== NAME),
        () => false,
      )
    : Promise.resolve(false);

/** Whether nothing was ever stored in this browser, and nothing is being stored now: there is nothing to read then. False where that can’t be told. */
export const isBare = async (): Promise<boolean> => (await wasBare) && storesReady === null;

/**
 * A store in this browser's database. All stores are laid out together before the first of them is used: left to themselves each
 * would add itself when it is first asked, and one that does so while another writes can take that write along.
 */
export function store(storeName: string): LocalForage {
  stores.push(storeName);
  const instance = localforage.createInstance({ name: NAME, storeName, driver: localforage.INDEXEDDB });
  const ready = instance.ready.bind(instance);
  instance.ready = async () => {
    storesReady ??= layOut().catch((error: unknown) => {
      storesReady = null;
      throw error;
    });
    await storesReady;
    return ready();
  };
  return instance;
}

const answered = <T>(request: IDBRequest<T>): Promise<T> =>
  new Promise((resolve, reject) => {
    request.onsuccess = () => resolve(request.result);
    request.onerror = () => reject(request.error ?? new Error('The database of this browser can’t be read.'));
  });

/**
 * Every record of a store, some at a time: localForage’s own way, one by one, takes three times as long.
 * @param at how many are held at once; the page has its turn between them
 */
export async function eachRecord(
  kept: LocalForage,
  at: number,
  visit: (stored: unknown, key: string) => void,
): Promise<void> {
  await kept.ready();
  const name = kept.config().storeName!;
  const db = await opened(null);
  try {
    let range: IDBKeyRange | null = null;
    for (;;) {
      const records = db.transaction(name, 'readonly').objectStore(name);
      const [keys, values]: [IDBValidKey[], unknown[]] = await Promise.all([
        answered(records.getAllKeys(range, at)),
        answered(records.getAll(range, at)),
      ]);
      keys.forEach((key, k) => visit(values[k], String(key)));
      if (keys.length < at) return;
      range = IDBKeyRange.lowerBound(keys.at(-1), true);
    }
  } finally {
    db.close();
  }
}
