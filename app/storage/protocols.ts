import { PROTOCOLS, type Protocol } from '../../core/protocol/protocols.ts';
import { mergedItems } from '../../core/records/byItem.ts';
import { RECORD_VERSIONS } from '../../core/records/migrations.ts';
import type { Checked } from '../../core/records/schemas.ts';
import type { ProtocolShelf } from '../../core/records/types.ts';
import { changeSetting, loadSetting } from './settings';

const shelfOf = (protocols: readonly Protocol[]): ProtocolShelf => ({
  version: RECORD_VERSIONS.protocols,
  protocols: [...protocols],
});

/** The studio's own protocols and versions; none where it has not made any. */
export const loadShelf = async (): Promise<Checked<ProtocolShelf>> =>
  (await loadSetting('protocols')) ?? { ok: true, value: shelfOf([]) };

/**
 * Stores what was changed in the studio's protocols, version by version, if every one of them is possible; says what is not.
 * @param to the list as it was left  @param from as it was seen before
 */
export const saveShelf = (
  to: readonly Protocol[],
  from: readonly Protocol[],
): Promise<Checked<ProtocolShelf>> =>
  changeSetting('protocols', (stored) =>
    shelfOf(mergedItems(stored?.protocols ?? [], from, to, (p) => `${p.id}@${p.revision}`)),
  );

/** Every version of every protocol: the starting ones, and the studio's own. */
export async function allProtocols(): Promise<readonly Protocol[]> {
  const shelf = await loadShelf();
  return shelf.ok ? [...PROTOCOLS, ...shelf.value.protocols] : PROTOCOLS;
}
