/**
 * A stored record that this version can't read: written by a newer one, or damaged. It is never passed over: lists count it, sweeps
 * stop before it, backups carry it as it is, and erasing its rider takes it along.
 */
export interface Unreadable {
  kind: 'rider' | 'session';
  id: string;
  /** Whose it is, as far as it says. */
  riderId: string | null;
  /** The films that it names. */
  takeIds: string[];
}

const held = (record: unknown, key: string): unknown =>
  typeof record === 'object' && record !== null ? (record as Record<string, unknown>)[key] : null;

function textOf(record: unknown, key: string): string | null {
  const value = held(record, key);
  return typeof value === 'string' ? value : null;
}

function listOf(record: unknown, key: string): unknown[] {
  const value = held(record, key);
  return Array.isArray(value) ? value : [];
}

/** What is known of a record that can't be read. */
export function unreadable(kind: Unreadable['kind'], id: string, stored: unknown): Unreadable {
  return {
    kind,
    id,
    riderId: kind === 'rider' ? id : textOf(stored, 'riderId'),
    takeIds: [
      ...listOf(stored, 'takes').map((t) => textOf(t, 'id')),
      ...listOf(stored, 'removedTakes').map((r) => textOf(held(r, 'take'), 'id')),
    ].filter((t) => t !== null),
  };
}
