import type { Part } from '../../core/bike/parts.ts';
import { mergedItems } from '../../core/records/byItem.ts';
import { RECORD_VERSIONS } from '../../core/records/migrations.ts';
import type { Checked } from '../../core/records/schemas.ts';
import type { PartsBin } from '../../core/records/types.ts';
import { isDue } from '../../core/visit/visits.ts';
import { changeSetting, loadSetting } from './settings';

const EMPTY: PartsBin = { version: RECORD_VERSIONS.parts, parts: [], removed: [] };

/** The studio's parts; none where there are none yet. */
export const loadParts = async (): Promise<Checked<PartsBin>> =>
  (await loadSetting('parts')) ?? { ok: true, value: EMPTY };

/**
 * Stores what was changed in the list of parts, item by item, if every one of them is possible; says what is not. What was taken away
 * lies in the trash for its time.
 * @param to the list as it was left  @param from as it was seen before
 */
export const saveParts = (
  to: readonly Part[],
  from: readonly Part[],
  nowIso = new Date().toISOString(),
): Promise<Checked<PartsBin>> =>
  changeSetting('parts', (stored) => {
    const before = stored ?? EMPTY;
    const parts = mergedItems(before.parts, from, to, (p) => p.id);
    const there = new Set(parts.map((p) => p.id));
    const gone = before.parts.filter((p) => !there.has(p.id)).map((part) => ({ part, removedIso: nowIso }));
    const removed = [...before.removed, ...gone].filter(
      (r) => !there.has(r.part.id) && !isDue(r.removedIso, nowIso),
    );
    return { ...before, parts, removed };
  });

/** Takes a part out of the trash for good. */
export const erasePart = (id: string): Promise<Checked<PartsBin>> =>
  changeSetting('parts', (stored) => ({
    ...(stored ?? EMPTY),
    removed: (stored ?? EMPTY).removed.filter((r) => r.part.id !== id),
  }));

/** The parts as far as they can be read: a plan goes on without those that can't. */
export async function partsThere(): Promise<readonly Part[]> {
  const stored = await loadParts();
  return stored.ok ? stored.value.parts : [];
}
