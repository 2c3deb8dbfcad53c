/** What a studio has in its drawers. */
export const PART_KINDS = [
  'stem',
  'spacer',
  'bar',
  'saddle',
  'crank',
  'pedal',
  'washer',
  'wedge',
  'shim',
] as const;
export type PartKind = (typeof PART_KINDS)[number];

export interface Part {
  id: string;
  kind: PartKind;
  name: string;
  /** Stem, crank, saddle: length; pedal: axle. */
  lengthMm: number | null;
  /** Stem, wedge. */
  angleDeg: number | null;
  /** Bar, saddle. */
  widthMm: number | null;
  /** Bar. */
  reachMm: number | null;
  dropMm: number | null;
  /** Spacer, pedal, washer, shim. */
  stackMm: number | null;
  count: number;
  /** In the studio's own money. */
  price: number | null;
}

/** One part of which no figure is known. */
export const UNMEASURED_PART = {
  lengthMm: null,
  angleDeg: null,
  widthMm: null,
  reachMm: null,
  dropMm: null,
  stackMm: null,
  count: 1,
  price: null,
} satisfies Partial<Part>;

/** The numbers of a part with their columns in the table of parts, and what no part can have. */
export const PART_NUMBERS = [
  { key: 'lengthMm', column: 'length_mm', min: 0, max: 400 },
  { key: 'angleDeg', column: 'angle_deg', min: -60, max: 60 },
  { key: 'widthMm', column: 'width_mm', min: 0, max: 900 },
  { key: 'reachMm', column: 'reach_mm', min: -200, max: 250 },
  { key: 'dropMm', column: 'drop_mm', min: 0, max: 250 },
  { key: 'stackMm', column: 'stack_mm', min: 0, max: 100 },
  { key: 'price', column: 'price', min: 0, max: 100_000 },
] as const satisfies readonly { key: keyof Part; column: string; min: number; max: number }[];
