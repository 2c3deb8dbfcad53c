import { keystoneFromWheels, type WheelRims } from '../camera/keystone.ts';
import { median } from '../math/statistics.ts';
import { distance, type ImagePoint } from '../math/vec.ts';
import type { PlanarFrame } from '../tracking/frame.ts';
import { edges, fitEllipse } from './rim.ts';

/** A wheel in the picture: its axle, and its tyre's outer edge as an upright ellipse. */
export interface Wheel extends ImagePoint {
  rx: number;
  ry: number;
  /** Share of the tyre's edge that was seen. */
  seen: number;
}

/** Both wheels, and where their tyres end above and below the axles. */
export interface FoundWheels {
  rear: Wheel;
  front: Wheel;
  rims: WheelRims;
  /** 0…1: how much of both edges was seen, and how alike the wheels are. */
  sure: number;
}

/** What is known of where a bike's wheels can be. */
export interface WheelHint {
  mmPerPx: number;
  facing: 'left' | 'right';
  /** The middle of the pedal's circle, px. */
  pedalPx: ImagePoint;
}

/** The picture is searched at about this width. */
const COARSE_PX = 360;
/** Wheels with tyres, mm: from 20 inches to the largest. */
const RADIUS_MM = { least: 235, most: 385 };
/** Axles of a bike, from the bottom bracket, mm: behind, ahead, and how much higher. */
const REAR = { along: [350, 560], above: [10, 130] } as const;
const FRONT = { along: [480, 760], above: [10, 130] } as const;
/** How far the scale that is known may be off. */
const SCALE_SLACK = 0.07;

interface Grey {
  width: number;
  height: number;
  shrink: number;
  gx: Float32Array;
  gy: Float32Array;
}

/** Luma shrunk to a searchable size, and its slopes. */
function coarse(f: PlanarFrame): Grey {
  const shrink = Math.max(1, Math.round(f.width / COARSE_PX));
  const width = Math.floor(f.width / shrink);
  const height = Math.floor(f.height / shrink);
  const grey = new Float32Array(width * height);
  for (let y = 0; y < height; y += 1)
    for (let x = 0; x < width; x += 1) {
      let sum = 0;
      for (let j = 0; j < shrink; j += 1)
        for (let i = 0; i < shrink; i += 1) sum += f.y[(y * shrink + j) * f.yStride + x * shrink + i];
      grey[y * width + x] = sum / (shrink * shrink);
    }
  const gx = new Float32Array(width * height);
  const gy = new Float32Array(width * height);
  for (let y = 1; y < height - 1; y += 1)
    for (let x = 1; x < width - 1; x += 1) {
      const k = y * width + x;
      gx[k] = grey[k + 1] - grey[k - 1];
      gy[k] = grey[k + width] - grey[k - width];
    }
  return { width, height, shrink, gx, gy };
}

/** Weaker slopes are the wall's pattern and grain. */
const LEAST_SLOPE = 9;

interface Box {
  x: readonly [number, number];
  y: readonly [number, number];
}

/** A circle that edges speak for, coarse px. */
interface Vote extends ImagePoint {
  r: number;
  votes: number;
}

/**
 * The centre and radius about which most edges lie in circles: every edge votes along its slope for the centres it could be an arc of.
 * @param box where centres may be  @param radii which, all in coarse px
 */
function vote(g: Grey, box: Box, radii: readonly [number, number]): Vote | null {
  const [x0, x1] = [Math.max(0, Math.floor(box.x[0])), Math.min(g.width - 1, Math.ceil(box.x[1]))];
  const [y0, y1] = [Math.max(0, Math.floor(box.y[0])), Math.min(g.height + 40, Math.ceil(box.y[1]))];
  const [w, h] = [x1 - x0 + 1, y1 - y0 + 1];
  const [r0, r1] = [Math.floor(radii[0]), Math.ceil(radii[1])];
  const n = r1 - r0 + 1;
  if (w < 3 || h < 3 || n < 1) return null;
  const votes = new Float32Array(w * h * n);
  for (let y = 1; y < g.height - 1; y += 1)
    for (let x = 1; x < g.width - 1; x += 1) {
      const k = y * g.width + x;
      const slope = Math.hypot(g.gx[k], g.gy[k]);
      if (slope < LEAST_SLOPE) continue;
      const [ux, uy] = [g.gx[k] / slope, g.gy[k] / slope];
      // Dark tyre, bright room, as a rule: the slope points outwards. The other way counts as well, for less.
      for (const [sign, weight] of [
        [-1, 1],
        [1, 0.6],
      ])
        for (let r = r0; r <= r1; r += 1) {
          const cx = Math.round(x + sign * r * ux) - x0;
          const cy = Math.round(y + sign * r * uy) - y0;
          if (cx >= 0 && cy >= 0 && cx < w && cy < h) votes[((r - r0) * h + cy) * w + cx] += weight / r;
        }
    }
  let best = 0;
  let at: Vote | null = null;
  for (let r = 0; r < n; r += 1)
    for (let y = 1; y < h - 1; y += 1)
      for (let x = 1; x < w - 1; x += 1) {
        let sum = 0;
        for (let j = -1; j <= 1; j += 1)
          for (let i = -1; i <= 1; i += 1) sum += votes[(r * h + y + j) * w + x + i];
        if (sum > best) {
          best = sum;
          at = { x: x + x0, y: y + y0, r: r + r0, votes: sum };
        }
      }
  return at;
}

/** Radii that are tried about the rough one, and how far about each the edge is looked for. */
const TRIED = [0.9, 0.96, 1.02, 1.08];
const BAND = 0.08;
/** Less of the edge than this is no wheel. */
const LEAST_SEEN = 0.3;
/** Of circles about as clear as the clearest the outermost is the tyre's edge. */
const AS_CLEAR = 0.8;

/** The circle about a rough centre that edges near a radius make. */
function circleAt(f: PlanarFrame, rough: ImagePoint, radius: number, sign: 1 | -1): Wheel | null {
  let c = rough;
  let r = radius;
  let slack = BAND * radius;
  let fit: ReturnType<typeof fitEllipse> = null;
  for (let round = 0; round < 4; round += 1) {
    fit = fitEllipse(edges(f, c, { from: r - slack, to: r + slack, sign }));
    if (!fit) return null;
    c = { x: c.x + fit.dx, y: c.y + fit.dy };
    r = fit.r;
    slack = Math.max(5, 0.6 * slack);
  }
  return fit && fit.share >= LEAST_SEEN ? { ...c, rx: r + fit.e, ry: r - fit.e, seen: fit.share } : null;
}

/** The wheel about a rough centre: its tyre's outer edge. */
function refine(f: PlanarFrame, rough: Vote): Wheel | null {
  const found = TRIED.flatMap((k) =>
    ([1, -1] as const).flatMap((sign) => circleAt(f, rough, k * rough.r, sign) ?? []),
  ).filter((w) => distance(w, rough) < 0.12 * rough.r);
  const clearest = Math.max(...found.map((w) => w.seen));
  return found.filter((w) => w.seen >= AS_CLEAR * clearest).sort((v, w) => w.ry - v.ry)[0] ?? null;
}

/** Where the two axles may be, and the radii, in coarse px. */
function places(g: Grey, hint: WheelHint): { rear: Box; front: Box; radii: [number, number] } {
  const perMm = 1 / (hint.mmPerPx * g.shrink);
  const way = hint.facing === 'right' ? 1 : -1;
  const c = { x: hint.pedalPx.x / g.shrink, y: hint.pedalPx.y / g.shrink };
  const box = (along: readonly [number, number], above: readonly [number, number], sign: number): Box => {
    const xs = along.map((mm) => c.x + way * sign * mm * perMm).sort((a, b) => a - b);
    return { x: [xs[0], xs[1]], y: [c.y - above[1] * perMm, c.y - above[0] * perMm + 2] };
  };
  return {
    rear: box(REAR.along, REAR.above, -1),
    front: box(FRONT.along, FRONT.above, 1),
    radii: [RADIUS_MM.least * perMm * (1 - SCALE_SLACK), RADIUS_MM.most * perMm * (1 + SCALE_SLACK)],
  };
}

/** Without a hint: the clearest wheel of all, and beside it another of its size. */
function anywhere(g: Grey): { left: Vote; right: Vote } | null {
  const all: Box = { x: [0, g.width - 1], y: [0.2 * g.height, g.height - 1] };
  const first = vote(g, all, [0.07 * g.width, 0.24 * g.width]);
  if (!first) return null;
  const shifted = (way: number): Vote | null => {
    const xs = [2.5, 3.7].map((k) => first.x + way * k * first.r).sort((a, b) => a - b);
    return vote(g, { x: [xs[0], xs[1]], y: [first.y - 0.25 * first.r, first.y + 0.25 * first.r] }, [
      0.9 * first.r,
      1.1 * first.r,
    ]);
  };
  const [left, right] = [shifted(-1), shifted(1)];
  if (!left && !right) return null;
  return (left?.votes ?? 0) > (right?.votes ?? 0)
    ? { left: left!, right: first }
    : { left: first, right: right! };
}

/** Both wheels of one picture: rough by votes, then the tyres' edges by rays. */
function wheelsOn(
  f: PlanarFrame,
  hint: WheelHint | null,
  facing: 'left' | 'right',
): [rear: Wheel, front: Wheel] | null {
  const g = coarse(f);
  let rough: [Vote, Vote] | null = null;
  if (hint) {
    const { rear, front, radii } = places(g, hint);
    const [a, b] = [vote(g, rear, radii), vote(g, front, radii)];
    if (a && b) rough = [a, b];
  } else {
    const found = anywhere(g);
    if (found) rough = facing === 'right' ? [found.left, found.right] : [found.right, found.left];
  }
  if (!rough) return null;
  // Of one size: each is looked for with the radius of the clearer one.
  const r = rough[0].votes > rough[1].votes ? rough[0].r : rough[1].r;
  const full = rough.map((v) => ({
    x: (v.x + 0.5) * g.shrink,
    y: (v.y + 0.5) * g.shrink,
    r: r * g.shrink,
    votes: v.votes,
  }));
  const [rear, front] = full.map((v) => refine(f, v));
  return rear && front ? [rear, front] : null;
}

/** Wheels that differ by more in size, or lie closer or further apart than on any bike, are none. */
const ALIKE = 0.16;
const APART = { least: 2.3, most: 4 };

/**
 * The wheels of a bike from the side: circles by votes on each picture, their tyres' outer edges by rays and an ellipse, the middle of all
 * pictures. The axle is where the wheel's middle is seen from a camera that is a little turned, not the ellipse's.
 * @param pictures of one film; the legs hide other parts of the wheels on each
 * @param hint from the pedal's circle; null: they are looked for anywhere, and `facing` says which one is the front
 * @returns null where no two wheels are found
 */
export function findWheels(
  pictures: readonly PlanarFrame[],
  hint: WheelHint | null,
  facing: 'left' | 'right' = hint?.facing ?? 'right',
): FoundWheels | null {
  const pairs = pictures.map((f) => wheelsOn(f, hint, facing)).filter((p) => p !== null);
  if (pairs.length === 0) return null;
  const middle = (which: 0 | 1): Wheel => {
    const of = (value: (w: Wheel) => number): number => median(pairs.map((p) => value(p[which])));
    return {
      x: of((w) => w.x),
      y: of((w) => w.y),
      rx: of((w) => w.rx),
      ry: of((w) => w.ry),
      seen: of((w) => w.seen),
    };
  };
  const [rear, front] = [middle(0), middle(1)];
  const size = Math.abs(Math.log(rear.ry / front.ry));
  const apart = distance(rear, front) / Math.sqrt(rear.ry * front.ry);
  if (size > ALIKE || apart < APART.least || apart > APART.most) return null;
  const centrePx = { x: pictures[0].width / 2, y: pictures[0].height / 2 };
  const edge = (w: Wheel, way: 1 | -1): ImagePoint => ({ x: w.x, y: w.y + way * w.ry });
  const rimsOf = (): WheelRims => ({
    rearTop: edge(rear, -1),
    rearBottom: edge(rear, 1),
    frontTop: edge(front, -1),
    frontBottom: edge(front, 1),
  });
  const keystone = keystoneFromWheels(rimsOf(), centrePx);
  for (const w of [rear, front]) w.x += (keystone?.perPx ?? 0) * w.rx ** 2;
  const agree = pairs.filter(
    (p) => distance(p[0], rear) < 4 + 0.02 * rear.rx && distance(p[1], front) < 4 + 0.02 * front.rx,
  );
  const seen = Math.min(rear.seen, front.seen);
  const sure =
    Math.min(1, Math.max(0, (seen - 0.25) / 0.35)) * (agree.length / pairs.length) * (1 - size / ALIKE / 2);
  return { rear, front, rims: rimsOf(), sure };
}
