/** The kinds of record that are stored and exported. */
export type RecordKind = 'rider' | 'session' | 'settings';

/** The shape each kind has today. */
export const RECORD_VERSIONS: Record<RecordKind, number> = { rider: 1, session: 2, settings: 1 };

interface Migration {
  /** The version it makes. */
  to: number;
  name: string;
  /** Takes a record of the version before, of which nothing is known for sure, and returns the newer one without changing the old. */
  change: (record: Record<string, unknown>) => Record<string, unknown>;
}

const isObject = (v: unknown): v is Record<string, unknown> =>
  typeof v === 'object' && v !== null && !Array.isArray(v);

/** Small steps from each shape to the next, oldest first. What was once released is never edited. */
export const MIGRATIONS: Record<RecordKind, readonly Migration[]> = {
  rider: [],
  settings: [],
  session: [
    {
      to: 2,
      name: 'a take holds the rims of the wheels beside their axles',
      change: (s) => (isObject(s.take) ? { ...s, take: { ...s.take, rims: {} } } : s),
    },
  ],
};

/**
 * Brings a record up to today's shape. A record of today or of a newer version comes back as it is.
 * @returns a new record; the one given is never changed
 */
export function upToDate(kind: RecordKind, record: Record<string, unknown>): Record<string, unknown> {
  let now = record;
  for (const migration of MIGRATIONS[kind]) {
    if (typeof now.version === 'number' && now.version === migration.to - 1)
      now = { ...migration.change(now), version: migration.to };
  }
  return now;
}
