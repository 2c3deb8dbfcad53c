import type { ImagePoint } from '../math/vec.ts';
import {
  FRONTAL_LANDMARKS,
  FRONTAL_NEEDED,
  SIDE_LANDMARKS,
  SIDE_OPTIONAL,
  type Landmark,
} from './landmarks.ts';

/** How two points of the body lie to each other, mm: forward (or to the rider's right) and up, from the first to the second. */
export interface Relation {
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
export const SIDE: readonly Relation[] = [
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

export const FRONTAL: readonly Relation[] = [
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
export const OPEN_COST = 10;
export const OPTIONAL_COST = 5;
/** What it costs that a spot does not look quite like a sticker. */
export const LOOKS_COST = 6;
/** SD beyond a range, mm. */
const SLACK_MM = 22;

export function costOf(r: Relation, dx: number, dy: number): number {
  let cost = 0;
  if (r.length) cost += ((Math.hypot(dx, dy) - r.length[0]) / r.length[1]) ** 2;
  const beyond = (v: number, [least, most]: readonly [number, number]): number =>
    v < least ? (least - v) / SLACK_MM : v > most ? (v - most) / SLACK_MM : 0;
  if (r.dx) cost += beyond(dx, r.dx) ** 2;
  if (r.dy) cost += beyond(dy, r.dy) ** 2;
  return cost;
}

/** What it costs that a spot goes further, or less far, than a point of the body does. */
export function swingCost(key: Landmark, s: MovingSpot, mmPerPx: number): number {
  const range = SWINGS[key];
  if (!range || !s.swingPx) return 0;
  const beyond = (v: number, [least, most]: readonly [number, number]): number =>
    Math.max(0, least - v, v - most) / SWING_SLACK_MM;
  return (
    Math.min(25, beyond(mmPerPx * s.swingPx.x, range.x) ** 2) +
    Math.min(25, beyond(mmPerPx * s.swingPx.y, range.y) ** 2)
  );
}

/** Joints in the order they are placed: each next one hangs on one before it. */
export const ORDER: Record<'side' | 'frontal', readonly Landmark[]> = {
  side: [...SIDE_LANDMARKS, ...SIDE_OPTIONAL],
  frontal: FRONTAL_LANDMARKS,
};
export const NEEDED: ReadonlySet<Landmark> = new Set([...SIDE_LANDMARKS, ...FRONTAL_NEEDED]);
