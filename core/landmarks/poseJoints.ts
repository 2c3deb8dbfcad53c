import type { ImagePoint } from '../math/vec.ts';
import type { Landmark, View } from './landmarks.ts';

/** A point of the pose model on a picture, px, and how sure it is, 0…1. */
export interface PosePoint extends ImagePoint {
  sure: number;
}

/** The model's points by number, the body's left first: each right one is the next number. */
const MODEL = {
  ear: 7,
  shoulder: 11,
  elbow: 13,
  wrist: 15,
  index: 19,
  thumb: 21,
  hip: 23,
  knee: 25,
  ankle: 27,
  heel: 29,
  toeTip: 31,
} as const;

/** Below this a point is left open: it was not seen. */
const LEAST_SURE = 0.45;

/** On the way from heel to the tip of the toes, where the spindle is: five sevenths of a foot. */
const SPINDLE_SHARE = { drive: 0.72, nonDrive: 0.72, front: 0.72, rear: 0.4 } as const;

/**
 * What the general pose model saw, as this view's landmarks. Its own points sit within the joints, a hand's breadth from a sticker
 * at the most: proposals, to be pulled to stickers or put right.
 * @param points all 33 points of the model
 */
export function jointsOfPose(points: readonly PosePoint[], view: View): Partial<Record<Landmark, PosePoint>> {
  const at = (name: keyof typeof MODEL, right: boolean): PosePoint => points[MODEL[name] + (right ? 1 : 0)];
  const between = (a: PosePoint, b: PosePoint, share: number): PosePoint => ({
    x: a.x + share * (b.x - a.x),
    y: a.y + share * (b.y - a.y),
    sure: Math.min(a.sure, b.sure),
  });
  const out: Partial<Record<Landmark, PosePoint>> = {};
  const put = (key: Landmark, p: PosePoint): void => {
    if (p.sure >= LEAST_SURE && Number.isFinite(p.x) && Number.isFinite(p.y)) out[key] = p;
  };
  if (view === 'drive' || view === 'nonDrive') {
    // The near leg: the right one on the chain's side.
    const right = view === 'drive';
    for (const key of ['hip', 'knee', 'ankle', 'heel', 'shoulder', 'elbow', 'wrist'] as const)
      put(key, at(key, right));
    put('toe', between(at('heel', right), at('toeTip', right), SPINDLE_SHARE[view]));
    put('head', at('ear', right));
    put('hand', between(at('index', right), at('thumb', right), 0.5));
    return out;
  }
  for (const [letter, right] of [
    ['R', true],
    ['L', false],
  ] as const) {
    for (const key of ['knee', 'ankle', 'hip', 'shoulder'] as const) put(`${key}${letter}`, at(key, right));
    put(`toe${letter}`, between(at('heel', right), at('toeTip', right), SPINDLE_SHARE[view]));
  }
  return out;
}

/**
 * Pulls proposed points to the stickers near them, each sticker to one point only, the nearest pairs first.
 * @param named what the body's layout calls some of the stickers: where that is within reach it is believed
 * @returns the points, with whether a sticker was found
 */
export function pulledTo(
  points: Readonly<Partial<Record<Landmark, PosePoint>>>,
  stickers: readonly ImagePoint[],
  reachPx: number,
  named: Readonly<Partial<Record<Landmark, ImagePoint>>> = {},
): Partial<Record<Landmark, PosePoint & { onSticker: boolean }>> {
  const pairs = (Object.entries(points) as [Landmark, PosePoint][])
    .flatMap(([key, p]) => stickers.map((s, k) => ({ key, k, gap: Math.hypot(s.x - p.x, s.y - p.y) })))
    .filter((p) => p.gap <= reachPx)
    .sort((a, b) => a.gap - b.gap);
  const taken = new Set<number>();
  const out: ReturnType<typeof pulledTo> = {};
  for (const [key, at] of Object.entries(named) as [Landmark, ImagePoint][]) {
    const p = points[key];
    const k = stickers.findIndex((s) => s.x === at.x && s.y === at.y);
    if (!p || k < 0 || Math.hypot(at.x - p.x, at.y - p.y) > reachPx) continue;
    taken.add(k);
    out[key] = { ...p, x: at.x, y: at.y, onSticker: true };
  }
  for (const { key, k } of pairs) {
    if (out[key] || taken.has(k)) continue;
    taken.add(k);
    out[key] = { ...points[key]!, x: stickers[k].x, y: stickers[k].y, onSticker: true };
  }
  for (const [key, p] of Object.entries(points) as [Landmark, PosePoint][])
    out[key] ??= { ...p, onSticker: false };
  return out;
}

/** The model's points stray this far from frame to frame, px: less is no drift. */
const DRIFT_LEAST_PX = 14;

/**
 * Holds a path that was followed by looks alone to what the pose model sees every so many frames. The model's place on the marked
 * frame, against the mark, tells how it is off for good; beyond that, where it disagrees by more than it strays, the path is
 * brought over, evenly between the frames it was asked about.
 * @param anchors frames the model was asked about, in order, the marked one among them
 */
export function reanchored(
  path: { xPx: Float64Array; yPx: Float64Array },
  anchors: readonly { frame: number; p: PosePoint | null }[],
  markedFrame: number,
): { xPx: Float64Array; yPx: Float64Array; movedPx: number } {
  const xPx = path.xPx.slice();
  const yPx = path.yPx.slice();
  const own = anchors.find((a) => a.frame === markedFrame)?.p;
  if (!own) return { xPx, yPx, movedPx: 0 };
  const bias = { x: path.xPx[markedFrame] - own.x, y: path.yPx[markedFrame] - own.y };
  const seen = anchors.flatMap(({ frame, p }) => {
    if (!p) return [];
    const off = { x: p.x + bias.x - path.xPx[frame], y: p.y + bias.y - path.yPx[frame] };
    if (!Number.isFinite(off.x)) return [];
    const size = Math.hypot(off.x, off.y);
    // Only what goes beyond its straying counts.
    const k = size <= DRIFT_LEAST_PX ? 0 : (size - DRIFT_LEAST_PX) / size;
    return [{ frame, x: k * off.x, y: k * off.y }];
  });
  let movedPx = 0;
  for (let i = 0; i < xPx.length; i += 1) {
    const after = seen.findIndex((a) => a.frame >= i);
    const b = after < 0 ? seen[seen.length - 1] : seen[after];
    const a = after <= 0 ? b : seen[after - 1];
    if (!a || !b) continue;
    const t = b.frame === a.frame ? 0 : (i - a.frame) / (b.frame - a.frame);
    const [dx, dy] = [a.x + t * (b.x - a.x), a.y + t * (b.y - a.y)];
    xPx[i] += dx;
    yPx[i] += dy;
    movedPx = Math.max(movedPx, Math.hypot(dx, dy));
  }
  return { xPx, yPx, movedPx };
}
