import type { Protocol } from '../protocol/protocols.ts';
import { RECORD_VERSIONS } from '../records/migrations.ts';
import { checkRecord } from '../records/schemas.ts';

/** Protocols as a file: the record they are kept as, readable, to be read in elsewhere. */
export const writeProtocols = (protocols: readonly Protocol[]): string =>
  `${JSON.stringify({ version: RECORD_VERSIONS.protocols, protocols }, null, 2)}\n`;

/** Protocols out of a file, each of them whole; or a sentence on what is wrong. */
export function parseProtocols(
  text: string,
): { ok: true; protocols: Protocol[] } | { ok: false; message: string } {
  let read: unknown;
  try {
    read = JSON.parse(text);
  } catch {
    return { ok: false, message: 'this is no JSON file: choose one that was saved on this page.' };
  }
  const checked = checkRecord('protocols', read);
  if (!checked.ok) return { ok: false, message: checked.message };
  return checked.value.protocols.length
    ? { ok: true, protocols: checked.value.protocols }
    : { ok: false, message: 'there is no protocol in it.' };
}
