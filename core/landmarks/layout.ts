import type { ImagePoint } from '../math/vec.ts';
import {
  FRONTAL_LANDMARKS,
  FRONTAL_NEEDED,
  isFrontal,
  SIDE_LANDMARKS,
  SIDE_OPTIONAL,
  type Landmark,
  type View,
} from './landmarks.ts';
import { findStickers, type Spot } from '../tracking/findStickers.ts';
import { looksOfFilm } from '../tracking/looks.ts';
import type { PlanarFrame } from '../tracking/frame.ts';
import type { Sticker } from '../tracking/sticker.ts';

/** How two points of the body lie to each other, mm: forward (or to the rider's right) and up, from the first to the second. */
interface Relation {
  from: Landmark;
  to: Landmark;
  length?: readonly [mean: number, sd: number];
  dx?: readonly [least: number, most: number];
  dy?: readonly [least: number, most: number];
}

/** How far a point of the body goes to and fro over a turn of the crank, across and up, mm. */
interface Swing {
  x: readonly [least: number, most: number];
  y: readonly [least: number, most: number];
}

const FOOT: Swing = { x: [250, 460], y: [250, 440] };
const STILL: Swing = { x: [0, 75], y: [0, 75] };
const SWINGS: Partial<Record<Landmark, Swing>> = {
  ankle: FOOT,
  heel: FOOT,
  toe: FOOT,
  spindle: FOOT,
  knee: { x: [50, 290], y: [160, 430] },
  hip: STILL,
  shoulder: STILL,
  elbow: STILL,
  wrist: STILL,
  hand: STILL,
  head: { x: [0, 110], y: [0, 110] },
  c7: STILL,
  sacrum: STILL,
  asis: STILL,
};
/** SD beyond such a range, mm. */
const SWING_SLACK_MM = 28;

/** A spot followed over some pictures of a film. */
export interface MovingSpot {
  /** Where it is on each picture, px; NaN where it is not seen. */
  at: readonly ImagePoint[];
  sure: number;
  /** From one end of its way to the other, px, over at least a turn of the crank; null where that is not known. */
  swingPx: { x: number; y: number } | null;
}

/** Limb lengths of adults with their SD (anthropometric tables, rounded), and where the parts lie on someone pedalling. */
const SIDE: readonly Relation[] = [
  { from: 'hip', to: 'knee', length: [420, 35], dx: [120, 460], dy: [-440, 60] },
  { from: 'knee', to: 'ankle', length: [420, 35], dx: [-330, 90], dy: [-450, -230] },
  { from: 'ankle', to: 'heel', length: [84, 20], dx: [-90, 30], dy: [-110, -20] },
  { from: 'heel', to: 'toe', length: [170, 20], dx: [90, 220], dy: [-150, 60] },
  { from: 'ankle', to: 'toe', length: [146, 22] },
  { from: 'hip', to: 'shoulder', length: [480, 45], dx: [-60, 560], dy: [20, 560] },
  { from: 'shoulder', to: 'elbow', length: [285, 30], dx: [-120, 330], dy: [-330, 60] },
  { from: 'elbow', to: 'wrist', length: [255, 28], dx: [10, 300], dy: [-280, 180] },
  { from: 'wrist', to: 'hand', length: [62, 16], dx: [-10, 90] },
  { from: 'shoulder', to: 'head', length: [200, 40], dx: [-20, 220], dy: [60, 260] },
  { from: 'shoulder', to: 'c7', length: [85, 25], dx: [-110, 60], dy: [10, 130] },
  { from: 'hip', to: 'sacrum', length: [100, 25], dx: [-130, 30], dy: [20, 130] },
  { from: 'hip', to: 'asis', length: [90, 25], dx: [10, 130], dy: [-30, 120] },
  { from: 'toe', to: 'spindle', length: [24, 12], dy: [-45, 5] },
];

const leg = (s: 'R' | 'L'): Relation[] => [
  { from: `knee${s}`, to: `ankle${s}`, dx: [-90, 90], dy: [-440, -230] },
  { from: `ankle${s}`, to: `toe${s}`, dx: [-60, 60], dy: [-140, -5] },
  { from: `knee${s}`, to: `toe${s}`, dx: [-110, 110], dy: [-520, -260] },
  { from: `knee${s}`, to: `hip${s}`, dx: [-150, 150], dy: [20, 470] },
  { from: `hip${s}`, to: `shoulder${s}`, dx: [-110, 110], dy: [30, 580] },
];

const FRONTAL: readonly Relation[] = [
  { from: 'kneeL', to: 'kneeR', dx: [110, 480], dy: [-380, 380] },
  ...leg('R'),
  ...leg('L'),
  { from: 'toeL', to: 'toeR', dx: [200, 330], dy: [-370, 370] },
  { from: 'hipL', to: 'hipR', length: [340, 30], dx: [200, 460], dy: [-40, 40] },
  { from: 'asisL', to: 'asisR', length: [238, 22], dx: [150, 320], dy: [-40, 40] },
  { from: 'psisL', to: 'psisR', length: [98, 16], dx: [50, 150], dy: [-30, 30] },
  { from: 'hipR', to: 'asisR', dx: [-110, 0], dy: [20, 140] },
  { from: 'hipL', to: 'asisL', dx: [0, 110], dy: [20, 140] },
  { from: 'hipR', to: 'psisR', dx: [-170, -60], dy: [30, 160] },
  { from: 'hipL', to: 'psisL', dx: [60, 170], dy: [30, 160] },
  { from: 'shoulderL', to: 'shoulderR', length: [370, 32], dx: [220, 480], dy: [-60, 60] },
];

/** What it costs to leave a point open; one that can be done without costs less, so that a stray spot is not pressed into it. */
const OPEN_COST = 10;
const OPTIONAL_COST = 5;
/** What it costs that a spot does not look quite like a sticker. */
const LOOKS_COST = 6;
/** SD beyond a range, mm. */
const SLACK_MM = 22;

function costOf(r: Relation, dx: number, dy: number): number {
  let cost = 0;
  if (r.length) cost += ((Math.hypot(dx, dy) - r.length[0]) / r.length[1]) ** 2;
  const beyond = (v: number, [least, most]: readonly [number, number]): number =>
    v < least ? (least - v) / SLACK_MM : v > most ? (v - most) / SLACK_MM : 0;
  if (r.dx) cost += beyond(dx, r.dx) ** 2;
  if (r.dy) cost += beyond(dy, r.dy) ** 2;
  return cost;
}

/** What it costs that a spot goes further, or less far, than a point of the body does. */
function swingCost(key: Landmark, s: MovingSpot, mmPerPx: number): number {
  const range = SWINGS[key];
  if (!range || !s.swingPx) return 0;
  const beyond = (v: number, [least, most]: readonly [number, number]): number =>
    Math.max(0, least - v, v - most) / SWING_SLACK_MM;
  return (
    Math.min(25, beyond(mmPerPx * s.swingPx.x, range.x) ** 2) +
    Math.min(25, beyond(mmPerPx * s.swingPx.y, range.y) ** 2)
  );
}

export interface Layout {
  points: Partial<Record<Landmark, Spot>>;
  cost: number;
  mmPerPx: number;
  facing: 'left' | 'right';
}

/** Joints in the order they are placed: each next one hangs on one before it. */
const ORDER: Record<'side' | 'frontal', readonly Landmark[]> = {
  side: [...SIDE_LANDMARKS, ...SIDE_OPTIONAL],
  frontal: FRONTAL_LANDMARKS,
};
const NEEDED: ReadonlySet<Landmark> = new Set([...SIDE_LANDMARKS, ...FRONTAL_NEEDED]);
/** The search is broken off after this many steps: with the best so far. */
const MOST_STEPS = 60_000;
/** More spots of one look than this are a pattern on a wall or a jersey. */
export const MOST_SPOTS = 26;
/** Below this a layout is a body beyond doubt: no other look need be tried. */
const GOOD_COST = 30;

/** The best assignment at one scale and one facing. */
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
function solveAll(
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
function isBody({ chosen }: Solved, view: View): boolean {
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

/** A pedal's way up and down, mm: twice a crank of 165 to 175 mm, and what the foot's tilt adds. */
const RISES_MM = [330, 347, 365];
/** Without its neighbours along the limb a name may be its neighbour's. */
const NEXT_TO: Partial<Record<Landmark, readonly Landmark[]>> = {
  hip: ['knee'],
  knee: ['hip', 'ankle'],
  ankle: ['knee', 'heel', 'toe'],
  heel: ['ankle', 'toe'],
  toe: ['ankle', 'heel'],
  shoulder: ['elbow'],
  elbow: ['shoulder', 'wrist'],
  wrist: ['elbow'],
};
const ALONE_SURE = 0.5;
/** From so much more cost on, the second best name is out of the question. */
const SURE_MARGIN = 9;

/** A picture from the side shows so much of the room, mm. */
const SHOWN_MM = { least: 1250, most: 6000 };
/** Ways up and down that are taken for a pedal's, of the longest ones. */
const RISES = 4;

/** Scales at which one of the longest ways up and down is a pedal's; none where nothing moves. */
function scalesOf(spots: readonly MovingSpot[], pictureWidthPx: number): number[] | undefined {
  const rises: number[] = [];
  const all = spots.map((s) => s.swingPx?.y ?? 0).sort((a, b) => b - a);
  for (const rise of all)
    if (rise > 30 && rises.length < RISES && rises.every((r) => r / rise > 1.12)) rises.push(rise);
  const scales = rises
    .flatMap((rise) => RISES_MM.map((mm) => mm / rise))
    .filter((s) => s * pictureWidthPx > SHOWN_MM.least && s * pictureWidthPx < SHOWN_MM.most);
  return scales.length > 0 ? scales : undefined;
}

/** The names of a film's spots. */
export interface NamedSpots {
  /** Of each point the spot, and how sure that is, 0…1. */
  names: Partial<Record<Landmark, { spot: number; sure: number }>>;
  cost: number;
  mmPerPx: number;
  facing: 'left' | 'right';
}

/**
 * Which joint each of a film's spots is, by how a body is laid out on several pictures at once and by how far each spot goes:
 * a foot turns with the crank, a hip hardly moves. How sure a name is comes from how much dearer all would be without it.
 * @returns null where the spots make no body
 */
export function nameSpots(
  spots: readonly MovingSpot[],
  view: View,
  known: Known & { pictureWidthPx: number },
): NamedSpots | null {
  const scales = known.mmPerPx ? undefined : scalesOf(spots, known.pictureWidthPx);
  const best = solveAll(spots, view, { ...known, scales });
  if (!best || !isBody(best, view)) return null;
  const at = { mmPerPx: best.mmPerPx, facing: best.facing };
  const names: NamedSpots['names'] = {};
  for (const [key, spot] of best.chosen) {
    const other = solveAll(spots, view, { ...at, scales: [at.mmPerPx] }, { key, spot });
    const margin = (other?.cost ?? Infinity) - best.cost;
    const alone = NEXT_TO[key]?.some((k) => !best.chosen.has(k)) ?? false;
    const most = alone ? ALONE_SURE : 1;
    names[key] = { spot, sure: Math.min(most, Math.max(0, margin / SURE_MARGIN)) * spots[spot].sure ** 0.25 };
  }
  return { names, cost: best.cost, ...at };
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
