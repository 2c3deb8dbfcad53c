import { PROTOCOLS, type Protocol } from '../../core/prescribe/protocols.ts';
import { RECORD_VERSIONS } from '../../core/records/migrations.ts';
import { checkRecord, type Checked } from '../../core/records/schemas.ts';
import type { ProtocolShelf } from '../../core/records/types.ts';
import { saving } from './saveState';
import { settingsStore } from './stores';

const PROTOCOL_SHELF = 'protocols';

/** The studio's own protocols and versions; none where it has not made any. */
export async function loadShelf(): Promise<Checked<ProtocolShelf>> {
  const stored = await settingsStore.getItem(PROTOCOL_SHELF);
  return stored === null
    ? { ok: true, value: { version: RECORD_VERSIONS.protocols, protocols: [] } }
    : checkRecord('protocols', stored);
}

/** Stores the studio's protocols if every one of them is possible; says what is not. */
export async function saveShelf(protocols: readonly Protocol[]): Promise<Checked<ProtocolShelf>> {
  const checked = checkRecord('protocols', { version: RECORD_VERSIONS.protocols, protocols });
  if (checked.ok) await saving(() => settingsStore.setItem(PROTOCOL_SHELF, checked.value));
  return checked;
}

/** Every version of every protocol: the starting ones, and the studio's own. */
export async function allProtocols(): Promise<readonly Protocol[]> {
  const shelf = await loadShelf();
  return shelf.ok ? [...PROTOCOLS, ...shelf.value.protocols] : PROTOCOLS;
}
