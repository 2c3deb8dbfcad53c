import { distance, type ImagePoint } from '../math/vec.ts';
import { assignCheapest, assignLandmarks, type Bone, type Option } from './assign.ts';
import { findCandidates } from './candidates.ts';
import { colourAt, colourGap, type PlanarFrame, type Region, type Yuv } from './frame.ts';
import { cutPatch, findPatch, refreshPatch, type Patch } from './patch.ts';
import { centreOn } from './centre.ts';
import { learnSticker } from './learn.ts';
import { inLight, lightMeter } from './light.ts';
import { unsmeared } from './smeared.ts';
import type { Located, Sticker } from './sticker.ts';

/** A landmark on one frame. Lost is NaN with confidence 0: never a guess. */
export interface TrackedPoint extends ImagePoint {
  /** 0…1: how whole and how like its sticker (or patch) it was seen. */
  confidence: number;
}

const UNSEEN: TrackedPoint = { x: NaN, y: NaN, confidence: 0 };

export interface Tracker {
  /** Landmark names, in the order of every result. */
  keys: string[];
  /** How each one is followed. */
  modes: ('sticker' | 'patch')[];
  /**
   * Finds every landmark on the next frame. Time may run backwards; steps may be uneven. A picture that is shown twice belongs to the
   * earlier of its two stamps: forwards the second one is left out, with nothing seen on it; backwards see `voidsBefore`.
   */
  step: (frame: PlanarFrame, tS: number) => TrackedPoint[];
  /** Whether the frame before the last one was the same picture under a later stamp: nothing was seen on it then. */
  voidsBefore: () => boolean;
  /**
   * The part of the picture, on even pixels, that a step to a time up to two frames ahead needs; null where it may look anywhere
   * (a landmark just marked, lost, or followed without a sticker).
   */
  lookingAt: (frame: PlanarFrame, tS: number) => Region | null;
}

export interface FollowOptions {
  /** Pairs of landmarks joined by a limb. */
  bones?: readonly (readonly [string, string])[];
  /** What the stickers look like at rest, where it is known: for those that are smeared on the marked frame. */
  look?: Sticker | null;
  /** After so many frames without it a landmark is not looked for any more. */
  giveUpAfter?: number;
}

interface Followed {
  key: string;
  sticker: Sticker | null;
  patch: Patch | null;
  /** The last seen places with their times, newest last, at most three. */
  trail: { t: number; x: number; y: number }[];
  /** Running error of the prediction, px. */
  surprise: number;
  lostFrames: number;
}

/** Below this share of its area a sticker is partly hidden and its centre is not where it seems. */
const WHOLE_FROM = 0.7;
const WHOLE_TO = 1.5;
/** How much brighter or darker a sticker may suddenly be, and what it costs to take it for that. */
const LIGHTS = [0.78, 1.28, 0.62];
const LIGHT_COST = 2;
/** Looked for on the first frame without it, and on every so many after that. */
const LIGHT_EVERY = 5;
/** A sticker whose middle is further than this share of its contrast from its colour is another thing. */
const COLOUR_MISS = 0.45;

/** Where the trail leads at a time: Lagrange through the last one, two or three places; exact for even acceleration. */
function predict(trail: Followed['trail'], t: number): ImagePoint {
  const n = trail.length;
  const p = trail[n - 1];
  if (n === 1) return { x: p.x, y: p.y };
  const q = trail[n - 2];
  const s1 = (t - p.t) / (p.t - q.t);
  if (n === 2) return { x: p.x + s1 * (p.x - q.x), y: p.y + s1 * (p.y - q.y) };
  const r = trail[n - 3];
  const lp = ((t - q.t) * (t - r.t)) / ((p.t - q.t) * (p.t - r.t));
  const lq = ((t - p.t) * (t - r.t)) / ((q.t - p.t) * (q.t - r.t));
  const lr = ((t - p.t) * (t - q.t)) / ((r.t - p.t) * (r.t - q.t));
  return { x: lp * p.x + lq * q.x + lr * r.x, y: lp * p.y + lq * q.y + lr * r.y };
}

/** How sure a located sticker is: whole, of the right colour, in one piece. */
function confidenceOf(found: Located): number {
  const area = Math.max(0, 1 - Math.abs(Math.log(found.areaRatio)) / 0.45);
  const colour = Math.max(0, 1 - found.colourMiss / COLOUR_MISS);
  return Math.min(1, 0.15 + 0.85 * Math.sqrt(area * colour));
}

/** Whole and of its own colour beyond doubt. */
function isUnmistakable(found: Located): boolean {
  return found.areaRatio > 0.85 && found.areaRatio < 1.2 && found.colourMiss < 0.2;
}

type Sighting = Option & { found: Located | null; score: number };

/** A place where a sticker was found, with its cost by looks and by how far it is from where it was expected. */
function optionAt(found: Located, expected: ImagePoint, sigmaPx: number): Sighting {
  const miss = distance(found, expected) / sigmaPx;
  const looks = (Math.log(found.areaRatio) / 0.2) ** 2 + (found.colourMiss / 0.2) ** 2;
  return {
    x: found.x,
    y: found.y,
    found,
    score: confidenceOf(found),
    cost: 0.5 * miss * miss + 0.5 * looks,
  };
}

/**
 * Starts following landmarks from the frame on which they were marked.
 * A landmark on a round spot of one colour is followed as a sticker (centre of its coverage, below a quarter pixel); any
 * other by its patch of luma. Every frame, all places that look right are weighed together with the motion so far and the
 * limb lengths of the marked frame; where nothing agrees the landmark is lost until it is seen again.
 * @param frame the marked frame  @param marks landmark → px
 */
export function startTracker(
  frame: PlanarFrame,
  tS: number,
  marks: Readonly<Record<string, ImagePoint>>,
  { bones = [], look = null, giveUpAfter = Infinity }: FollowOptions = {},
): Tracker {
  const keys = Object.keys(marks);
  const learned = keys.map((key) => {
    const found = learnSticker(frame, marks[key]);
    return found && distance(found.centre, marks[key]) < found.sticker.radiusPx ? found.sticker : null;
  });
  const stickers = unsmeared(
    frame,
    keys.map((key) => marks[key]),
    learned,
    look,
  );
  const followed: Followed[] = keys.map((key, i) => {
    const sticker = stickers[i];
    return {
      key,
      sticker,
      patch: sticker ? null : cutPatch(frame, marks[key]),
      trail: [{ t: tS, x: marks[key].x, y: marks[key].y }],
      surprise: 4,
      lostFrames: 0,
    };
  });
  const meter = lightMeter(frame);
  meter.isRepeat(frame);
  // A sticker's own colour is kept as it would be in the marked frame's light.
  const own = followed.map((f) => f.sticker && { ...f.sticker });
  let lastT = tS;
  let voids = false;
  let lastPoints: TrackedPoint[] = keys.map((key) => ({ ...marks[key], confidence: 1 }));
  const limbs: Bone[] = bones
    .filter(([a, b]) => marks[a] && marks[b])
    .map(([a, b]) => ({ a: keys.indexOf(a), b: keys.indexOf(b), lengthPx: distance(marks[a], marks[b]) }));
  // A foot at 95 rpm crosses a seventh of its circle between frames at 30 frames/s: look that far when nothing is known yet.
  const farReach = Math.round(0.085 * Math.min(frame.width, frame.height));

  // How much of the time between frames the shutter is open, learned from how far moving stickers are smeared.
  let openShare = 0.2;

  /** How far from where it is expected a landmark is looked for, px. */
  const reachOf = (f: Followed): number => {
    if (f.trail.length < 2 || f.lostFrames > 0) return Math.min(2 * farReach, farReach + 5 * f.lostFrames);
    return Math.min(farReach, Math.ceil((f.trail.length > 3 ? 6 : 12) + 3.5 * f.surprise));
  };

  const optionsFor = (f: Followed, frameNow: PlanarFrame, t: number): Sighting[] => {
    if (f.lostFrames > giveUpAfter) return [];
    const guess = predict(f.trail.slice(-3), t);
    const newest = f.trail[f.trail.length - 1];
    const blind = f.trail.length < 2 || f.lostFrames > 0;
    const settled = f.trail.length > 3 && f.lostFrames === 0;
    const reach = reachOf(f);
    const sigma = blind ? reach / 2 : Math.max(2.5, f.surprise * 1.5);
    // A lost landmark's own speed is soon out of date: look about where it was last seen going, not where it would be by now.
    const centre = f.lostFrames > 2 ? { x: (guess.x + newest.x) / 2, y: (guess.y + newest.y) / 2 } : guess;
    const near = f.lostFrames > 6 ? { x: newest.x, y: newest.y } : centre;
    if (f.patch) {
      const hit = findPatch(frameNow, f.patch, near, Math.min(reach, 28));
      if (!hit || !isInside(frameNow, hit)) return [];
      const miss = distance(hit, near) / sigma;
      return [
        { x: hit.x, y: hit.y, score: hit.score, found: null, cost: miss * miss * 0.5 + 12 * (1 - hit.score) },
      ];
    }
    const share = f.trail.length > 1 ? Math.min(0.7, 1.1 * openShare) : 0;
    if (settled && f.surprise < 0.5 * f.sticker!.radiusPx) {
      // It moves evenly and stands where it was expected, whole and of its colour: no need to look about.
      const step = { x: (near.x - newest.x) * share, y: (near.y - newest.y) * share };
      const found = centreOn(frameNow, f.sticker!, near, step);
      if (found && isUnmistakable(found) && distance(found, near) < 0.6 * f.sticker!.radiusPx)
        return [optionAt(found, near, sigma)];
    }
    const out: Sighting[] = [];
    const look = (s: Sticker, dearer: number): void => {
      for (const c of findCandidates(frameNow, s, { near, reachPx: reach, most: blind ? 7 : 3 })) {
        const step = { x: (c.x - newest.x) * share, y: (c.y - newest.y) * share };
        const found = centreOn(frameNow, s, c, step);
        if (
          !found ||
          found.areaRatio < WHOLE_FROM ||
          found.areaRatio > WHOLE_TO ||
          found.colourMiss > COLOUR_MISS
        )
          continue;
        if (out.some((o) => distance(o, found) < 1)) continue;
        const option = optionAt(found, near, sigma);
        out.push({ ...option, cost: option.cost + dearer });
      }
    };
    look(f.sticker!, 0);
    // It may have come into the sun, or into a shadow.
    const lights = f.lostFrames % LIGHT_EVERY === 0 ? LIGHTS.length : 0;
    for (let k = 0; out.length === 0 && k < lights; k += 1)
      look({ ...f.sticker!, colour: inLight(f.sticker!.colour, LIGHTS[k]) }, LIGHT_COST);
    return out.sort((a, b) => a.cost - b.cost);
  };

  return {
    keys,
    modes: followed.map((f) => (f.sticker ? 'sticker' : 'patch')),
    lookingAt(frameNow, t) {
      let [left, top, right, bottom] = [Infinity, Infinity, -Infinity, -Infinity];
      for (const f of followed) {
        if (!f.sticker || f.trail.length < 4 || f.lostFrames > 0) return null;
        const at = predict(f.trail.slice(-3), t);
        const newest = f.trail[f.trail.length - 1];
        // The sticker with its ring, found at the reach's very edge; and the prediction may shift with the frame between.
        const smear = 0.5 * distance(at, newest);
        const margin = 1.5 * reachOf(f) + 4 * f.sticker.radiusPx + smear + 12;
        left = Math.min(left, at.x - margin);
        top = Math.min(top, at.y - margin);
        right = Math.max(right, at.x + margin);
        bottom = Math.max(bottom, at.y + margin);
      }
      const even = (v: number, most: number): number =>
        Math.min(most - (most % 2), Math.max(0, 2 * Math.round(v / 2)));
      const x = even(left, frameNow.width);
      const y = even(top, frameNow.height);
      const width = even(right, frameNow.width) - x;
      const height = even(bottom, frameNow.height) - y;
      return width > 0 && height > 0 ? { x, y, width, height } : null;
    },
    step(frameNow, t) {
      const backwards = t < lastT;
      lastT = t;
      voids = false;
      if (meter.isRepeat(frameNow)) {
        if (!backwards) return followed.map(() => ({ ...UNSEEN }));
        voids = true;
        // What was seen belongs to this stamp.
        for (const f of followed) if (f.lostFrames === 0) f.trail[f.trail.length - 1].t = t;
        return lastPoints.map((p) => ({ ...p }));
      }
      const gain = meter.gainOn(frameNow);
      followed.forEach((f, i) => {
        const o = own[i];
        if (o) f.sticker = { ...o, colour: inLight(o.colour, gain), contrast: o.contrast * gain };
      });
      const options = followed.map((f) => optionsFor(f, frameNow, t));
      const chosen = limbs.length > 0 ? assignLandmarks(options, limbs) : assignCheapest(options);
      lastPoints = followed.map((f, i) => {
        if (chosen[i] < 0) {
          f.lostFrames += 1;
          return { ...UNSEEN };
        }
        const at = options[i][chosen[i]];
        if (f.trail.length > 1 && f.lostFrames === 0) {
          const error = distance(predict(f.trail.slice(-3), t), at);
          f.surprise += 0.25 * (error - f.surprise);
        }
        const newest = f.trail[f.trail.length - 1];
        const stepPx = distance(newest, at);
        if (at.found && f.trail.length > 1 && f.lostFrames === 0 && stepPx > 5) {
          // What stands beside a sticker may lengthen its smear, never shorten it: follow the lower estimates.
          const seen = Math.min(0.7, at.found.smearPx / stepPx);
          openShare += (seen < openShare ? 0.15 : 0.04) * (seen - openShare);
        }
        // After a gap the old places say nothing about the speed any more.
        f.trail =
          f.lostFrames > 4 ? [{ t, x: at.x, y: at.y }] : [...f.trail.slice(-3), { t, x: at.x, y: at.y }];
        f.lostFrames = 0;
        const o = own[i];
        if (o && at.found && at.score > 0.7)
          adapt(o, o.shown ? at.found.colour : colourAt(frameNow, at.x, at.y), gain);
        if (f.patch && at.score > 0.75) refreshPatch(frameNow, f.patch, at, 0.2);
        return { x: at.x, y: at.y, confidence: at.score };
      });
      return lastPoints;
    },
    voidsBefore: () => voids,
  };
}

const isInside = (f: PlanarFrame, p: ImagePoint): boolean =>
  p.x >= 0 && p.y >= 0 && p.x < f.width && p.y < f.height;

/** The light on a limb changes as it turns: the sticker's colour follows slowly. */
function adapt(own: Sticker, seen: Yuv, gain: number): void {
  const now = inLight(seen, 1 / gain);
  // A shadow's edge is passed within a few frames: what is far off is followed faster.
  const off = colourGap(now, own.colour) / own.contrast;
  const rate = off > 0.15 ? 0.4 : 0.05;
  for (let k = 0; k < 3; k += 1) own.colour[k] += rate * (now[k] - own.colour[k]);
}
