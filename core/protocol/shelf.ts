import { protocolById, type MeasureKey, type Protocol, MEASURE_KEYS } from './protocols.ts';
import type { Band } from './judge.ts';

/** The newest version of each protocol, in the order in which they first came. */
export function newestOf(all: readonly Protocol[]): Protocol[] {
  const newest = new Map<string, Protocol>();
  for (const p of all) {
    const held = newest.get(p.id);
    if (!held || p.revision > held.revision) newest.set(p.id, p);
  }
  return [...newest.values()];
}

/** The protocol that a visit is judged by: its own kept version, or the starting one of its id. */
export const protocolUsed = (s: { protocolId: string; protocol: Protocol | null }): Protocol =>
  s.protocol ?? protocolById(s.protocolId);

/** What a visit keeps of a protocol that is chosen for it: a starting one goes by its id alone. */
export const asKept = (p: Protocol): { protocolId: string; protocol: Protocol | null } => ({
  protocolId: p.id,
  protocol: p === protocolById(p.id) ? null : p,
});

/** Whether two bands are the same. */
const sameBand = (a: Band, b: Band): boolean => a.low === b.low && a.high === b.high;

/** Where two protocols or versions differ, measure by measure. */
export const bandsApart = (a: Protocol, b: Protocol): MeasureKey[] =>
  MEASURE_KEYS.filter((key) => !sameBand(a.bands[key], b.bands[key]));

/**
 * A changed protocol as the next version of it.
 * @param all every version there is: the number counts on from the highest
 */
export function nextVersion(changed: Protocol, all: readonly Protocol[], dateIso: string): Protocol {
  const highest = Math.max(0, ...all.filter((p) => p.id === changed.id).map((p) => p.revision));
  return { ...changed, revision: highest + 1, date: dateIso };
}

/**
 * Protocols from a file beside those that are here. The same version with other contents becomes a version of its own; what is
 * here is never changed.
 * @returns the studio's protocols afterwards, and what came of each in words
 */
export function mergeProtocols(
  read: readonly Protocol[],
  here: readonly Protocol[],
  starting: readonly Protocol[],
): { protocols: Protocol[]; added: Protocol[]; known: Protocol[] } {
  const protocols = [...here];
  const added: Protocol[] = [];
  const known: Protocol[] = [];
  for (const p of read) {
    const all = [...starting, ...protocols];
    const same = all.find((q) => q.id === p.id && q.revision === p.revision);
    if (same && bandsApart(same, p).length === 0 && same.name === p.name) known.push(p);
    else {
      const kept = same ? nextVersion(p, all, p.date) : p;
      protocols.push(kept);
      added.push(kept);
    }
  }
  return { protocols, added, known };
}
