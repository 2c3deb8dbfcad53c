import { RECORD_VERSIONS } from '../../core/records/migrations.ts';
import type { Checked } from '../../core/records/schemas.ts';
import type { PartsBin } from '../../core/records/types.ts';
import type { Part } from '../../core/bike/parts.ts';
import { changeSetting, loadSetting } from './settings';

const binOf = (parts: Part[]): PartsBin => ({ version: RECORD_VERSIONS.parts, parts });

/** The studio's parts bin; an empty one where there is none yet. */
export const loadParts = async (): Promise<Checked<PartsBin>> =>
  (await loadSetting('parts')) ?? { ok: true, value: binOf([]) };

/** Stores the parts if every one of them is possible; says what is not. */
export const saveParts = (parts: Part[]): Promise<Checked<PartsBin>> =>
  changeSetting('parts', () => binOf(parts));

/** The parts as far as they can be read: a plan goes on without a bin that can't. */
export async function partsThere(): Promise<readonly Part[]> {
  const stored = await loadParts();
  return stored.ok ? stored.value.parts : [];
}
