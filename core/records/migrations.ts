import { BLANK_INTAKE_3, UNMEASURED_BIKE_3 } from './blanks3.ts';

/** The kinds of record that are stored and exported. */
export type RecordKind = 'rider' | 'session' | 'settings' | 'parts';

/** The shape each kind has today. */
export const RECORD_VERSIONS: Record<RecordKind, number> = { rider: 2, session: 4, settings: 2, parts: 1 };

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
  parts: [],
  rider: [
    {
      to: 2,
      name: 'a deleted rider lies in the bin since a day',
      change: (r) => ({ ...r, deletedIso: null }),
    },
  ],
  settings: [
    {
      to: 2,
      name: 'lengths and masses have a unit',
      change: (s) => ({ ...s, lengthUnit: 'mm', massUnit: 'kg' }),
    },
  ],
  session: [
    {
      to: 2,
      name: 'a take holds the rims of the wheels beside their axles',
      change: (s) => (isObject(s.take) ? { ...s, take: { ...s.take, rims: {} } } : s),
    },
    {
      to: 3,
      name: 'intake, body, and the bike as found in place of three of its numbers',
      change: ({ bike, ...s }) => {
        const old = isObject(bike) ? bike : {};
        return {
          ...s,
          intake: BLANK_INTAKE_3,
          body: { results: {}, adjustmentsOff: [] },
          asFound: {
            ...UNMEASURED_BIKE_3,
            frame: {
              ...UNMEASURED_BIKE_3.frame,
              wheelbaseMm: old.wheelbaseMm ?? null,
              seatAngleDeg: old.seatTubeDeg ?? 73,
            },
            crank: { ...UNMEASURED_BIKE_3.crank, lengthMm: old.crankMm ?? null },
          },
        };
      },
    },
    {
      to: 4,
      name: 'a deleted visit lies in the bin since a day',
      change: (s) => ({ ...s, deletedIso: null }),
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
