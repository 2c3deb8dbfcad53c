import { RECORD_VERSIONS } from '../../core/records/migrations.ts';
import { settingsStore } from './stores';

const KEY = 'record-versions';

const versionsIn = (stored: unknown): [string, number][] =>
  typeof stored === 'object' && stored !== null
    ? Object.entries(stored).filter((e): e is [string, number] => typeof e[1] === 'number')
    : [];

/**
 * Whether a newer version of the application has worked on this device than the one that is asked: then this one, kept by an older
 * service worker or an old tab, opens, sweeps and writes nothing. Otherwise its own versions are noted.
 */
export async function newerWasHere(): Promise<boolean> {
  const stored = await settingsStore.getItem(KEY);
  const known = versionsIn(stored);
  const mine = new Map<string, number>(Object.entries(RECORD_VERSIONS));
  if (known.some(([kind, version]) => version > (mine.get(kind) ?? 0))) return true;
  const noted = new Map(known);
  if ([...mine].some(([kind, version]) => noted.get(kind) !== version))
    // A full device can't note it; the records themselves say their versions too.
    await settingsStore.setItem(KEY, RECORD_VERSIONS).catch(() => undefined);
  return false;
}
