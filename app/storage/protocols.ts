import { PROTOCOLS, type Protocol } from '../../core/protocol/protocols.ts';
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

/** Stores the studio's protocols if every one of them is possible; says what is not. */
export const saveShelf = (protocols: readonly Protocol[]): Promise<Checked<ProtocolShelf>> =>
  changeSetting('protocols', () => shelfOf(protocols));

/** Every version of every protocol: the starting ones, and the studio's own. */
export async function allProtocols(): Promise<readonly Protocol[]> {
  const shelf = await loadShelf();
  return shelf.ok ? [...PROTOCOLS, ...shelf.value.protocols] : PROTOCOLS;
}
