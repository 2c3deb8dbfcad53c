import type { ImagePoint } from '../math/vec.ts';

/** A limb between two landmarks (by index), which keeps its length in the picture nearly constant. */
export interface Bone {
  a: number;
  b: number;
  lengthPx: number;
}

/** One possible place of one landmark, with what it costs by looks and by motion (about χ², 0 = perfect). */
export interface Option extends ImagePoint {
  cost: number;
}

/** What it costs to call a landmark lost: more than a good place, less than a place that breaks a limb. */
const LOST_COST = 14;

/** Two places closer than this are the same spot, px. */
const ONE_SPOT_PX = 2;
const isOneSpot = (a: ImagePoint, b: ImagePoint): boolean =>
  (a.x - b.x) ** 2 + (a.y - b.y) ** 2 < ONE_SPOT_PX ** 2;

/** A limb may seem to change by out-of-plane motion and soft tissue: 3 % and a pixel. */
const lengthSigma = (lengthPx: number): number => 1 + 0.03 * lengthPx;

/**
 * Chooses one place for each landmark, or none, so that looks, motion and limb lengths agree best.
 * Depth first with the best total so far as the bound; few landmarks have more than one option, so this is quick.
 * @param options per landmark, best first
 * @returns per landmark the index of the chosen option, or −1 for lost
 */
export function assignLandmarks(options: readonly (readonly Option[])[], bones: readonly Bone[]): number[] {
  const n = options.length;
  const at: (ImagePoint | null)[] = new Array<ImagePoint | null>(n).fill(null);
  const current = new Array<number>(n).fill(-1);
  let best = new Array<number>(n).fill(-1);
  let bestCost = Infinity;
  const closing: Bone[][] = Array.from({ length: n }, () => []);
  for (const bone of bones) closing[Math.max(bone.a, bone.b)].push(bone);
  const walk = (i: number, cost: number): void => {
    if (cost >= bestCost) return;
    if (i === n) {
      bestCost = cost;
      best = [...current];
      return;
    }
    options[i].forEach((option, k) => {
      for (let j = 0; j < i; j += 1) {
        const other = at[j];
        // One spot is one landmark's: two that look alike are not both found on the sticker between them.
        if (other && isOneSpot(option, other)) return;
      }
      let c = cost + option.cost;
      for (const bone of closing[i]) {
        const other = at[bone.a === i ? bone.b : bone.a];
        if (!other) continue;
        const miss = Math.hypot(option.x - other.x, option.y - other.y) - bone.lengthPx;
        c += (miss / lengthSigma(bone.lengthPx)) ** 2;
      }
      at[i] = option;
      current[i] = k;
      walk(i + 1, c);
    });
    at[i] = null;
    current[i] = -1;
    walk(i + 1, cost + LOST_COST);
  };
  walk(0, 0);
  return best;
}

/** More landmarks than this that vie for the same places are given theirs one by one, the cheapest pairing first. */
const MOST_TOGETHER = 7;

/** Landmarks that may be on the same place stand in one group, with all that hangs together by such places. */
function groups(options: readonly (readonly Option[])[]): number[][] {
  const group = options.map((_, i) => i);
  const rootOf = (i: number): number => (group[i] === i ? i : (group[i] = rootOf(group[i])));
  for (let i = 0; i < options.length; i += 1)
    for (let j = 0; j < i; j += 1)
      if (rootOf(i) !== rootOf(j) && options[i].some((a) => options[j].some((b) => isOneSpot(a, b))))
        group[rootOf(i)] = rootOf(j);
  const out = new Map<number, number[]>();
  options.forEach((_, i) => out.set(rootOf(i), [...(out.get(rootOf(i)) ?? []), i]));
  return [...out.values()];
}

/** The cheapest pairing first, each place given once. */
function oneByOne(options: readonly (readonly Option[])[]): number[] {
  const chosen = new Array<number>(options.length).fill(-1);
  const pairs = options.flatMap((list, i) =>
    list.flatMap((option, k) => (option.cost < LOST_COST ? [{ i, k, option }] : [])),
  );
  pairs.sort((a, b) => a.option.cost - b.option.cost);
  const taken: Option[] = [];
  for (const { i, k, option } of pairs) {
    if (chosen[i] >= 0 || taken.some((o) => isOneSpot(o, option))) continue;
    chosen[i] = k;
    taken.push(option);
  }
  return chosen;
}

/**
 * The same without limbs, for many spots at once: those that vie for the same places are weighed together. Three stickers in a row that
 * step on by half their distance would each find their neighbour's place the nearest one.
 * @returns per landmark the index of the chosen option, or −1 for lost
 */
export function assignCheapest(options: readonly (readonly Option[])[]): number[] {
  const chosen = new Array<number>(options.length).fill(-1);
  for (const group of groups(options)) {
    const own = group.map((i) => options[i]);
    const best = group.length > MOST_TOGETHER ? oneByOne(own) : assignLandmarks(own, []);
    group.forEach((i, n) => (chosen[i] = best[n]));
  }
  return chosen;
}
