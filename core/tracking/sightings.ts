import { distance, type ImagePoint } from '../math/vec.ts';
import type { Option } from './assign.ts';
import { findCandidates } from './candidates.ts';
import { centreOn } from './centre.ts';
import type { PlanarFrame, Region } from './frame.ts';
import { inLight } from './light.ts';
import { findPatch, type Patch } from './patch.ts';
import type { Recalled } from './recall.ts';
import type { Located, Sticker } from './sticker.ts';

/** A landmark on its way through the film. */
export interface Followed {
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
/** From this share on it is placed by what is seen of its rim, where nothing whole is about and it is expected close by. */
const PART_FROM = 0.5;
const PART_SCORE = 0.3;
/** How much brighter or darker a sticker may suddenly be, and what it costs to take it for that. */
const LIGHTS = [0.78, 1.28, 0.62];
const LIGHT_COST = 2;
/** Looked for on the first frame without it, and on every so many after that. */
const LIGHT_EVERY = 5;
/** A sticker whose middle is further than this share of its contrast from its colour is another thing. */
const COLOUR_MISS = 0.45;
/** How much of the time between frames a slow shutter is open. */
const SLOW_SHARE = 0.5;

/** Where the trail leads at a time: Lagrange through the last one, two or three places; exact for even acceleration. */
export function predict(trail: Followed['trail'], t: number): ImagePoint {
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

/** Whole, within what noise and a smear make of it, and of its colour. */
const isWhole = (found: Located): boolean =>
  found.areaRatio >= WHOLE_FROM && found.areaRatio <= WHOLE_TO && found.colourMiss <= COLOUR_MISS;

/** Whole and of its own colour beyond doubt. */
function isUnmistakable(found: Located): boolean {
  return found.areaRatio > 0.85 && found.areaRatio < 1.2 && found.colourMiss < 0.2;
}

/** A place that may be the landmark’s. */
export type Sighting = Option & { found: Located | null; score: number };

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

/** How far from where it is expected a landmark is looked for, px. @param isMarked see `Looking` */
function reachOf(f: Followed, farReach: number, isMarked = true): number {
  if (f.trail.length < 2 || f.lostFrames > 0) {
    const afar = Math.min(2 * farReach, farReach + 5 * f.lostFrames);
    if (isMarked || f.trail.length < 3) return afar;
    return Math.min(afar, Math.ceil(14 + 3.5 * f.surprise * (1 + f.lostFrames)));
  }
  return Math.min(farReach, Math.ceil((f.trail.length > 3 ? 6 : 12) + 3.5 * f.surprise));
}

/** How the film is looked through at present. */
export interface Looking {
  /** How far a landmark is looked for when nothing is known of its way yet, px. */
  farReach: number;
  /** How much of the time between frames the shutter is open: so much of its step a sticker is smeared. */
  openShare: number;
  /** Where a lost landmark must be by how the others stand. */
  recalled?: Recalled | null;
  /**
   * Landmarks of a body, each marked on a slow moment: one may be smeared on its first step, and hidden in part on any. Spots of which nobody
   * knows whose they are stand by others of their look, and have to be whole.
   */
  isBody?: boolean;
  /** False: of a spot nobody knows what it is, nor whether it is still there; lost, it is looked for where its way leads, not afar. */
  isMarked?: boolean;
}

/** Lost for so many frames, every so many of the next are looked at widely even where its place is recalled: it may have moved on the body. */
const WIDELY_AFTER = 24;
const WIDELY_EVERY = 8;

/** Every place of a frame that looks like the landmark, the likeliest first. */
export function sightingsOf(
  f: Followed,
  frame: PlanarFrame,
  t: number,
  { farReach, openShare, recalled = null, isBody = false, isMarked = true }: Looking,
): Sighting[] {
  const guess = predict(f.trail.slice(-3), t);
  const newest = f.trail[f.trail.length - 1];
  const blind = f.trail.length < 2 || f.lostFrames > 0;
  const settled = f.trail.length > 3 && f.lostFrames === 0;
  const told = f.lostFrames > WIDELY_AFTER && f.lostFrames % WIDELY_EVERY === 0 ? null : recalled;
  const reach = told ? Math.ceil(3 * told.spreadPx) + 4 : reachOf(f, farReach, isMarked);
  const sigma = told ? told.spreadPx : blind ? reach / 2 : Math.max(2.5, f.surprise * 1.5);
  // A lost landmark's own speed is soon out of date: look about where it was last seen going, not where it would be by now.
  const centre = f.lostFrames > 2 ? { x: (guess.x + newest.x) / 2, y: (guess.y + newest.y) / 2 } : guess;
  const near = told ?? (f.lostFrames > 6 ? { x: newest.x, y: newest.y } : centre);
  if (f.patch) {
    const hit = findPatch(frame, f.patch, near, Math.min(reach, 28));
    if (!hit || !isInside(frame, hit)) return [];
    const miss = distance(hit, near) / sigma;
    return [
      { x: hit.x, y: hit.y, score: hit.score, found: null, cost: miss * miss * 0.5 + 12 * (1 - hit.score) },
    ];
  }
  // Before its first step nothing is known of the shutter either: at rest, then as a slow one would smear it on the way from where it was.
  const fresh = f.trail.length === 1;
  const slow = isBody ? [SLOW_SHARE / (f.lostFrames + 1)] : [];
  const shares = fresh ? [0, ...slow] : [Math.min(0.7, 1.1 * openShare)];
  if (settled && f.surprise < 0.5 * f.sticker!.radiusPx) {
    // It moves evenly and stands where it was expected, whole and of its colour: no need to look about.
    const step = { x: (near.x - newest.x) * shares[0], y: (near.y - newest.y) * shares[0] };
    const found = centreOn(frame, f.sticker!, near, step);
    if (found && isUnmistakable(found) && distance(found, near) < 0.6 * f.sticker!.radiusPx)
      return [optionAt(found, near, sigma)];
  }
  const out: Sighting[] = [];
  const look = (s: Sticker, dearer: number): void => {
    for (const c of findCandidates(frame, s, { near, reachPx: reach, most: blind ? 7 : 3 })) {
      let found: Located | null = null;
      for (const share of shares) {
        const step = { x: (c.x - newest.x) * share, y: (c.y - newest.y) * share };
        found = centreOn(frame, s, c, step);
        if (found && isWhole(found)) break;
      }
      if (!found || !isWhole(found)) continue;
      if (out.some((o) => distance(o, found) < 1)) continue;
      const option = optionAt(found, near, sigma);
      out.push({ ...option, cost: option.cost + dearer });
    }
  };
  look(f.sticker!, 0);
  if (out.length === 0 && isBody && (told || settled)) out.push(...partOf(f.sticker!, frame, near, sigma));
  // It may have come into the sun, or into a shadow.
  const lights = f.lostFrames % LIGHT_EVERY === 0 ? LIGHTS.length : 0;
  for (let k = 0; out.length === 0 && k < lights; k += 1)
    look({ ...f.sticker!, colour: inLight(f.sticker!.colour, LIGHTS[k]) }, LIGHT_COST);
  return out.sort((a, b) => a.cost - b.cost);
}

/** A sticker of which something hides up to half, close to where it is expected. */
function partOf(s: Sticker, frame: PlanarFrame, near: ImagePoint, sigmaPx: number): Sighting[] {
  // Of one that is always hidden in part, no less is enough.
  if (s.shown !== undefined) return [];
  const still = { x: 0, y: 0 };
  const reachPx = Math.ceil(2 * sigmaPx + s.radiusPx);
  for (const c of findCandidates(frame, s, { near, reachPx, most: 2 })) {
    const seen = centreOn(frame, s, c, still);
    if (!seen || seen.areaRatio < PART_FROM || seen.areaRatio > WHOLE_FROM) continue;
    const found = centreOn(frame, { ...s, shown: seen.areaRatio }, c, still);
    if (!found || found.colourMiss > COLOUR_MISS || distance(found, near) > 2 * sigmaPx) continue;
    const option = optionAt(seen, near, sigmaPx);
    return [{ ...option, x: found.x, y: found.y, found: null, score: PART_SCORE }];
  }
  return [];
}

const isInside = (f: PlanarFrame, p: ImagePoint): boolean =>
  p.x >= 0 && p.y >= 0 && p.x < f.width && p.y < f.height;

/** The part of a picture, on even pixels, in which all that is followed is looked for; null where it may be anywhere. */
export function regionOf(
  followed: readonly Followed[],
  frame: PlanarFrame,
  t: number,
  farReach: number,
): Region | null {
  let [left, top, right, bottom] = [Infinity, Infinity, -Infinity, -Infinity];
  for (const f of followed) {
    if (!f.sticker || f.trail.length < 4 || f.lostFrames > 0) return null;
    const at = predict(f.trail.slice(-3), t);
    const newest = f.trail[f.trail.length - 1];
    // The sticker with its ring, found at the reach's very edge; and the prediction may shift with the frame between.
    const smear = 0.5 * distance(at, newest);
    const margin = 1.5 * reachOf(f, farReach) + 4 * f.sticker.radiusPx + smear + 12;
    left = Math.min(left, at.x - margin);
    top = Math.min(top, at.y - margin);
    right = Math.max(right, at.x + margin);
    bottom = Math.max(bottom, at.y + margin);
  }
  const even = (v: number, most: number): number =>
    Math.min(most - (most % 2), Math.max(0, 2 * Math.round(v / 2)));
  const x = even(left, frame.width);
  const y = even(top, frame.height);
  const width = even(right, frame.width) - x;
  const height = even(bottom, frame.height) - y;
  return width > 0 && height > 0 ? { x, y, width, height } : null;
}
