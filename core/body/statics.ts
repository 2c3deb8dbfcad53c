/** What is read with a goniometer while the rider holds still, and where the crank is then. */
export const STATIC_KEYS = [
  'kneeFlexionDeg',
  'hipAngleDeg',
  'ankleAngleDeg',
  'backAngleDeg',
  'shoulderAngleDeg',
  'elbowFlexionDeg',
] as const;
export type StaticKey = (typeof STATIC_KEYS)[number];

/** Sided where there are two joints; the back has one figure. Degrees, in the conventions of the filmed angles. */
export interface StaticReading {
  left: number | null;
  right: number | null;
  both: number | null;
}
export type Statics = Record<StaticKey, StaticReading>;

const UNREAD: StaticReading = { left: null, right: null, both: null };
export const NO_STATICS = Object.fromEntries(STATIC_KEYS.map((k) => [k, UNREAD])) as unknown as Statics;

/** The crank's place at which each is read. */
export const STATIC_AT: Record<StaticKey, { words: string; of: 'min' | 'mean' | '90' }> = {
  kneeFlexionDeg: { words: 'crank at the bottom, foot held as it pedals', of: 'min' },
  hipAngleDeg: { words: 'crank at the top', of: 'min' },
  ankleAngleDeg: { words: 'crank forward', of: '90' },
  backAngleDeg: { words: 'hands where they are filmed', of: 'mean' },
  shoulderAngleDeg: { words: 'hands where they are filmed', of: 'mean' },
  elbowFlexionDeg: { words: 'hands where they are filmed', of: 'mean' },
};

/**
 * The static protocol's band for the knee at the bottom, and by how much the filmed minimum usually reads more
 * (handbook: targets, static protocol).
 */
export const STATIC_KNEE_BAND = { low: 25, high: 35 };
/** A goniometer on a living leg, SD and 95 % (handbook: judgement). */
export const GONIOMETER_SD_DEG = 4;

export const DYNAMIC_READS_MORE_DEG = { least: 5, most: 8 };
