import CRC32 from 'crc-32';

/** The browser's and Node's own, as far as it is asked for here. */
declare const crypto: {
  /** Not there on plain http from another device. */
  subtle?: { digest: (algorithm: 'SHA-256', bytes: Uint8Array) => Promise<ArrayBuffer> };
};

/** Name of the entry that says what every other one has to be. It comes first, so that it stands in a file that was cut short. */
export const INTEGRITY_NAME = 'integrity.json';

/** @returns hexadecimal; null where the browser gives no digests */
async function sha256(bytes: Uint8Array): Promise<string | null> {
  if (!crypto.subtle) return null;
  const digest = new Uint8Array(await crypto.subtle.digest('SHA-256', bytes));
  return [...digest].map((b) => b.toString(16).padStart(2, '0')).join('');
}

/** What a backup says of its own entries: by name their SHA-256, hexadecimal; null where the browser gives no digests. */
export async function integrityOf(files: ReadonlyMap<string, Uint8Array>): Promise<string | null> {
  const entries: Record<string, string> = {};
  for (const [name, bytes] of files) {
    const hash = await sha256(bytes);
    if (hash === null) return null;
    entries[name] = hash;
  }
  return `${JSON.stringify({ algorithm: 'SHA-256', entries }, null, 1)}\n`;
}

/** @returns by name the SHA-256, or null where the text is none of ours */
export function parseIntegrity(text: string): ReadonlyMap<string, string> | null {
  try {
    const { entries } = JSON.parse(text) as { entries?: Record<string, unknown> };
    const list = Object.entries(entries ?? {});
    return list.every(([, hash]) => typeof hash === 'string' && /^[0-9a-f]{64}$/.test(hash))
      ? new Map(list as [string, string][])
      : null;
  } catch {
    return null;
  }
}

/**
 * Whether an entry is what it was when it was packed.
 * @param crc as the zip's directory has it  @param hash as the backup itself has it; undefined where neither says anything
 */
export async function isWhole(
  bytes: Uint8Array,
  crc: number | undefined,
  hash: string | undefined,
): Promise<boolean> {
  if (crc !== undefined && CRC32.buf(bytes) >>> 0 !== crc) return false;
  if (hash === undefined) return true;
  const found = await sha256(bytes);
  // Without digests the zip's own CRC has to do.
  return found === null || found === hash;
}
