import { settingsStore } from './stores';

const LAST = 'last-backup';

/** When the whole studio was last saved as a file; null if never. */
export const lastBackupIso = (): Promise<string | null> => settingsStore.getItem<string>(LAST);

/** A full device can't note it: the file is made all the same. */
export const noteBackup = async (nowIso: string): Promise<void> =>
  void (await settingsStore.setItem(LAST, nowIso).catch(() => undefined));
