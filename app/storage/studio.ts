import { checkRecord, type Checked } from '../../core/records/schemas.ts';
import { NEW_STUDIO, type Studio } from '../../core/records/types.ts';
import { saving } from './saveState';
import { settingsStore } from './stores';

export const STUDIO = 'studio';

/** The studio's own record; a new one where none is stored or it can't be read. */
export async function loadStudio(): Promise<Studio> {
  const checked = checkRecord('studio', await settingsStore.getItem(STUDIO));
  return checked.ok ? checked.value : NEW_STUDIO;
}

/** Changes the studio's record if the change fits; what was written by a newer version is left untouched. */
export async function saveStudio(change: Partial<Studio>): Promise<Checked<Studio>> {
  const stored = await settingsStore.getItem(STUDIO);
  const before = stored === null ? null : checkRecord('studio', stored);
  if (before && !before.ok && before.reason === 'newer') return before;
  const checked = checkRecord('studio', { ...(before?.ok ? before.value : NEW_STUDIO), ...change });
  if (checked.ok) await saving(() => settingsStore.setItem(STUDIO, checked.value));
  return checked;
}
