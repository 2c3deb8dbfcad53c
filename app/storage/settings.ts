import { checkRecord } from '../../core/records/schemas.ts';
import { DEFAULT_SETTINGS, type Settings } from '../../core/records/types.ts';
import { settingsStore } from './stores';

const KEY = 'studio';

/** The studio's settings; the defaults where none are stored or they can't be read. */
export async function loadSettings(): Promise<Settings> {
  const checked = checkRecord('settings', await settingsStore.getItem(KEY));
  return checked.ok ? checked.value : DEFAULT_SETTINGS;
}

export async function saveSettings(change: Partial<Settings>): Promise<void> {
  const next = { ...(await loadSettings()), ...change };
  const checked = checkRecord('settings', next);
  if (checked.ok) await settingsStore.setItem(KEY, checked.value);
}
