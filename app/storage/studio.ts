import type { Checked } from '../../core/records/schemas.ts';
import { NEW_STUDIO, type Studio } from '../../core/records/types.ts';
import { changeSetting, loadSetting } from './settings';

/** The studio's own record; a new one where none is stored or it can't be read. */
export async function loadStudio(): Promise<Studio> {
  const stored = await loadSetting('studio');
  return stored?.ok ? stored.value : NEW_STUDIO;
}

/** Changes the studio's record if the change fits. */
export const saveStudio = (change: Partial<Studio>): Promise<Checked<Studio>> =>
  changeSetting('studio', (before) => ({ ...(before ?? NEW_STUDIO), ...change }));
