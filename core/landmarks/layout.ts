import type { ImagePoint } from '../math/vec.ts';
import { isFrontal, type Landmark, type View } from './landmarks.ts';
import { findStickers, type Spot } from '../tracking/findStickers.ts';
import { looksOfFilm } from '../tracking/looks.ts';
import type { PlanarFrame } from '../tracking/frame.ts';
import type { Sticker } from '../tracking/sticker.ts';
import {
  type Relation,
  type MovingSpot,
  SIDE,
  FRONTAL,
  OPEN_COST,
  OPTIONAL_COST,
  LOOKS_COST,
  costOf,
  swingCost,
  ORDER,
  NEEDED,
} from './relations.ts';

export interface Layout {
  points: Partial<Record<Landmark, Spot>>;
  cost: number;
  mmPerPx: number;
  facing: 'left' | 'right';
}
/** The search is broken off after this many steps: with the best so far. */
const MOST_STEPS = 60_000;
/** More spots of one look than this are a pattern on a wall or a jersey. */
export const MOST_SPOTS = 26;
/** Below this a layout is a body beyond doubt: no other look need be tried. */
const GOOD_COST = 30;

/** The best assignment at one scale and one facing. */
// eslint-disable-next-line max-lines-per-function -- the search and what it has found so far
function solve(
  spots: readonly MovingSpot[],
  {
    keys,
    relations,
    map,
    mmPerPx,
    bound,
    not = null,
  }: {
    keys: readonly Landmark[];
    relations: readonly Relation[];
    map: (p: ImagePoint) => ImagePoint;
    mmPerPx: number;
    bound: number;
    /** A point that a spot shall not be. */
    not?: { key: Landmark; spot: number } | null;
  },
): { cost: number; chosen: Map<Landmark, number> } | null {
  const plane = spots.map((s) => s.at.map(map));
  /** What a relation costs, over the pictures on which both ends are seen. */
  const between = (r: Relation, a: number, b: number): number => {
    let [sum, n] = [0, 0];
    for (let i = 0; i < plane[a].length; i += 1) {
      const [p, q] = [plane[a][i], plane[b][i]];
      const c = costOf(r, q.x - p.x, q.y - p.y);
      if (Number.isNaN(c)) continue;
      sum += c;
      n += 1;
    }
    return n > 0 ? sum / n : 0;
  };
  const ownCost = keys.map((key) =>
    spots.map((s, k) =>
      not?.key === key && not.spot === k ? Infinity : LOOKS_COST * (1 - s.sure) + swingCost(key, s, mmPerPx),
    ),
  );
  const taken = new Array<boolean>(spots.length).fill(false);
  const at = new Map<Landmark, number>();
  let best: { cost: number; chosen: Map<Landmark, number> } | null = null;
  let bestCost = bound;
  let steps = 0;
  const closing = keys.map((key, i) =>
    relations.filter(
      (r) =>
        (r.from === key && keys.indexOf(r.to) < i && keys.includes(r.to)) ||
        (r.to === key && keys.indexOf(r.from) < i && keys.includes(r.from)),
    ),
  );
  const walk = (i: number, cost: number): void => {
    steps += 1;
    if (cost >= bestCost || steps > MOST_STEPS) return;
    if (i === keys.length) {
      bestCost = cost;
      best = { cost, chosen: new Map(at) };
      return;
    }
    const key = keys[i];
    const options: { k: number; cost: number }[] = [];
    for (let k = 0; k < spots.length; k += 1) {
      if (taken[k]) continue;
      let c = ownCost[i][k];
      if (cost + c >= bestCost) continue;
      let held = 0;
      for (const r of closing[i]) {
        const other = at.get(r.from === key ? r.to : r.from);
        if (other === undefined) continue;
        held += 1;
        c += r.from === key ? between(r, k, other) : between(r, other, k);
      }
      // A point that hangs on nothing placed so far is a guess: only the first one may be that.
      if (held === 0 && i > 0) continue;
      if (cost + c < bestCost) options.push({ k, cost: c });
    }
    options.sort((a, b) => a.cost - b.cost);
    for (const o of options) {
      taken[o.k] = true;
      at.set(key, o.k);
      walk(i + 1, cost + o.cost);
      at.delete(key);
      taken[o.k] = false;
    }
    walk(i + 1, cost + (NEEDED.has(key) ? OPEN_COST : OPTIONAL_COST));
  };
  walk(0, 0);
  return best;
}

/** What is known of a film before its points have names. */
export interface Known {
  mmPerPx: number | null;
  facing: 'left' | 'right' | null;
}

interface Solved {
  cost: number;
  chosen: Map<Landmark, number>;
  mmPerPx: number;
  facing: 'left' | 'right';
}

/** The points that can be seen from a side. */
const keysOf = (view: View): readonly Landmark[] =>
  ORDER[isFrontal(view) ? 'frontal' : 'side'].filter(
    (k) => !(view === 'front' && k.startsWith('psis')) && !(view === 'rear' && k.startsWith('asis')),
  );

/** The best assignment over all scales and facings that may be. */
export function solveAll(
  spots: readonly MovingSpot[],
  view: View,
  known: Known & { scales?: readonly number[] },
  not: { key: Landmark; spot: number } | null = null,
): Solved | null {
  const frontal = isFrontal(view);
  const keys = keysOf(view);
  const relations = frontal ? FRONTAL : SIDE;
  const facings: readonly ('left' | 'right')[] = frontal
    ? [view === 'rear' ? 'right' : 'left']
    : known.facing
      ? [known.facing]
      : ['right', 'left'];
  const scales =
    known.scales ??
    (known.mmPerPx
      ? [0.94, 1, 1.06].map((k) => k * known.mmPerPx!)
      : Array.from({ length: 16 }, (_, k) => 0.9 * 1.13 ** k));
  let best: Solved | null = null;
  for (const facing of facings) {
    for (const mmPerPx of scales) {
      const side = facing === 'right' ? mmPerPx : -mmPerPx;
      const found = solve(spots, {
        keys,
        relations,
        map: (p) => ({ x: side * p.x, y: -mmPerPx * p.y }),
        mmPerPx,
        bound: best?.cost ?? Infinity,
        not,
      });
      if (found && found.cost < (best?.cost ?? Infinity)) best = { ...found, mmPerPx, facing };
    }
  }
  return best;
}

/** Whether at least half of the needed points found a place. */
export function isBody({ chosen }: Solved, view: View): boolean {
  const needed = keysOf(view).filter((k) => NEEDED.has(k));
  return 2 * needed.filter((k) => chosen.has(k)).length >= needed.length;
}

/**
 * Which joint each of a frame's stickers is, by how a body on a bike is laid out: the assignment that breaks limb lengths and
 * places least (depth first, bounded by the best so far).
 * @param known scale and facing where they are; the scale may be left out, then a range of them is tried
 * @returns null where fewer than half of the needed points find a place
 */
export function layOut(spots: readonly Spot[], view: View, known: Known): Layout | null {
  const still = spots.map((s): MovingSpot => ({ at: [s], sure: s.sure, swingPx: null }));
  const best = solveAll(still, view, known);
  if (!best || !isBody(best, view)) return null;
  const points: Layout['points'] = {};
  for (const [key, k] of best.chosen) points[key] = spots[k];
  return { points, cost: best.cost, mmPerPx: best.mmPerPx, facing: best.facing };
}

/**
 * The stickers of a frame and which joint each probably is.
 * @param sticker one that was pointed out; null: the looks that come often are tried, and the one that lies most like a body is taken
 */
export function proposeMarks(
  frame: PlanarFrame,
  view: View,
  known: Known,
  sticker: Sticker | null,
): Layout | null {
  let best: Layout | null = null;
  for (const look of sticker ? [sticker] : looksOfFilm([frame])) {
    const spots = findStickers(frame, look);
    if (!sticker && spots.length > MOST_SPOTS) continue;
    const layout = layOut(spots.slice(0, MOST_SPOTS), view, known);
    if (layout && (!best || layout.cost < best.cost)) best = layout;
    if (best && best.cost < GOOD_COST) break;
  }
  return best;
}
