import { RECORD_VERSIONS } from '../../core/records/migrations.ts';
import { checkRecord, type Checked } from '../../core/records/schemas.ts';
import type { PartsBin } from '../../core/records/types.ts';
import type { Part } from '../../core/bike/parts.ts';
import { saving } from './saveState';
import { settingsStore } from './stores';

export const PARTS = 'parts';

/** The studio's parts bin; an empty one where there is none yet. */
export async function loadParts(): Promise<Checked<PartsBin>> {
  const stored = await settingsStore.getItem(PARTS);
  return stored === null
    ? { ok: true, value: { version: RECORD_VERSIONS.parts, parts: [] } }
    : checkRecord('parts', stored);
}

/** Stores the parts if every one of them is possible; says what is not. */
export async function saveParts(parts: Part[]): Promise<Checked<PartsBin>> {
  const checked = checkRecord('parts', { version: RECORD_VERSIONS.parts, parts });
  if (checked.ok) await saving(() => settingsStore.setItem(PARTS, checked.value));
  return checked;
}

/** The parts as far as they can be read: a plan goes on without a bin that can't. */
export async function partsThere(): Promise<readonly Part[]> {
  const stored = await loadParts();
  return stored.ok ? stored.value.parts : [];
}
