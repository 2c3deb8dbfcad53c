import { median } from '../math/statistics.ts';
import { distance, type Vec2 } from '../math/vec.ts';
import type { SideLandmark } from '../landmarks/landmarks.ts';
import type { SideKey } from './angles.ts';

/** A limb by the joints at its ends, whose straying makes it seem longer or shorter. */
type Limb = readonly [SideLandmark, SideLandmark];
const OF_LEG: readonly Limb[] = [
  ['hip', 'knee'],
  ['knee', 'ankle'],
];
const LIMBS: readonly Limb[] = [
  ...OF_LEG,
  ['heel', 'toe'],
  ['hip', 'shoulder'],
  ['shoulder', 'elbow'],
  ['elbow', 'wrist'],
];

/** A limb that seems to change by more than this share of itself, SD, is not one limb: the model has lost it. */
const LOST_SHARE = 0.12;
/**
 * However steady a model's joints are, they stand beside the bone's, SD in each direction, mm. Joints by a model against markers on the
 * bone differ by some centimetres in the comparisons of both: none is taken as better than 26, twice what a fitter's hand misses the hip
 * by. Where it was further off on rendered riders (docs/estimates.md), as far as it was there: it takes a shoe for a foot.
 */
export const ESTIMATE_SD_MM: Record<SideLandmark, number> = {
  hip: 33,
  knee: 28,
  ankle: 58,
  heel: 64,
  toe: 53,
  shoulder: 29,
  elbow: 26,
  wrist: 34,
};

type Paths = Partial<Record<SideKey, readonly Vec2[]>>;

/** How far a limb's length strays from its middle, robust SD, and that middle; in the paths' own unit. */
function straying(paths: Paths, [a, b]: Limb): { sd: number; length: number } {
  const lengths = (paths[a] ?? [])
    .map((p, i) => distance(p, paths[b]?.[i] ?? { x: NaN, y: NaN }))
    .filter(Number.isFinite);
  const length = median(lengths);
  // The median of the distances from the middle is 0.6745 of an SD.
  return { length, sd: median(lengths.map((l) => Math.abs(l - length))) / 0.6745 };
}

/** The limbs of the leg that an estimate does not hold: they seem to change their length by more than a limb can. */
export const limbsLost = (paths: Paths): Limb[] =>
  OF_LEG.filter((limb) => {
    const { sd, length } = straying(paths, limb);
    // Where one of them was never seen both are NaN.
    return !(sd < LOST_SHARE * length);
  });

/**
 * How far joints that were estimated without stickers may stand from the bone, SD in each direction, mm: by how much the limbs between them
 * seem to change their length on the film itself, and never less than a model misses a bone by.
 * @param paths bike-plane mm
 */
export function estimatedSdMm(paths: Paths): Record<SideKey, number> {
  const strays = LIMBS.map((limb) => ({ limb, sd: straying(paths, limb).sd }));
  const of = (key: SideLandmark): number => {
    const own = strays.filter(({ limb, sd }) => limb.includes(key) && Number.isFinite(sd));
    // A length errs by both its ends: each has its share of the square.
    const worst = Math.max(0, ...own.map(({ sd }) => sd)) / Math.SQRT2;
    return Math.hypot(ESTIMATE_SD_MM[key], worst);
  };
  const [hip, knee, ankle, heel] = (['hip', 'knee', 'ankle', 'heel'] as const).map(of);
  const [toe, shoulder, elbow, wrist] = (['toe', 'shoulder', 'elbow', 'wrist'] as const).map(of);
  const rest = { head: shoulder, c7: shoulder, sacrum: hip, asis: hip, hand: wrist, spindle: toe };
  return { hip, knee, ankle, heel, toe, shoulder, elbow, wrist, ...rest };
}
