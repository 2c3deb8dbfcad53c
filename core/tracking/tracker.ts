import { distance, type ImagePoint } from '../math/vec.ts';
import { assignCheapest, assignLandmarks, type Bone } from './assign.ts';
import { colourAt, colourGap, type PlanarFrame, type Region, type Yuv } from './frame.ts';
import { cutPatch, refreshPatch } from './patch.ts';
import { predict, regionOf, sightingsOf, type Followed, type Sighting } from './sightings.ts';
import { learnSticker } from './learn.ts';
import { strokeMemory } from './recall.ts';
import { inLight, lightMeter } from './light.ts';
import { unsmeared } from './smeared.ts';
import type { Sticker } from './sticker.ts';

/** A landmark on one frame. Lost is NaN with confidence 0: never a guess. */
export interface TrackedPoint extends ImagePoint {
  /** 0…1: how whole and how like its sticker (or patch) it was seen. */
  confidence: number;
}

/** A place that costs no more than this is surely the landmark's: what is lost is recalled by how these stand. */
const STANDS_COST = 5;

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
  /** After so many frames without it a landmark is not looked for any more, and not afar before that: spots that nobody has marked. */
  giveUpAfter?: number;
  /** The stickers under the marks, in their order, where they are known; what stands on none is then never seen. */
  stickers?: readonly (Sticker | null)[];
}

/** The stickers under marks on a frame, in their order; null where there is none. @param look see `FollowOptions` */
export function stickersUnder(
  frame: PlanarFrame,
  marks: readonly ImagePoint[],
  look: Sticker | null,
): (Sticker | null)[] {
  const learned = marks.map((at) => {
    const found = learnSticker(frame, at);
    return found && distance(found.centre, at) < found.sticker.radiusPx ? found.sticker : null;
  });
  return unsmeared(frame, marks, learned, look);
}

/**
 * Starts following landmarks from the frame on which they were marked.
 * A landmark on a round spot of one colour is followed as a sticker (centre of its coverage, below a quarter pixel); any
 * other by its patch of luma. Every frame, all places that look right are weighed together with the motion so far and the
 * limb lengths of the marked frame; where nothing agrees the landmark is lost until it is seen again, and after one turn it is looked
 * for where the stroke says that it must be.
 * @param frame the marked frame  @param marks landmark → px
 */
// eslint-disable-next-line max-lines-per-function -- what it gives shares its state
export function startTracker(
  frame: PlanarFrame,
  tS: number,
  marks: Readonly<Record<string, ImagePoint>>,
  { bones = [], look = null, giveUpAfter = Infinity, stickers: known }: FollowOptions = {},
): Tracker {
  const keys = Object.keys(marks);
  const stickers =
    known ??
    stickersUnder(
      frame,
      keys.map((key) => marks[key]),
      look,
    );
  const followed: Followed[] = keys.map((key, i) => {
    const sticker = stickers[i];
    return {
      key,
      sticker,
      patch: sticker || known ? null : cutPatch(frame, marks[key]),
      trail: [{ t: tS, x: marks[key].x, y: marks[key].y }],
      surprise: 4,
      lostFrames: 0,
    };
  });
  const meter = lightMeter(frame);
  meter.isRepeat(frame);
  // A sticker's own colour is kept as it would be in the marked frame's light.
  const own = followed.map((f) => f.sticker && { ...f.sticker, colour: [...f.sticker.colour] as Yuv });
  let lastT = tS;
  let voids = false;
  let lastPoints: TrackedPoint[] = keys.map((key) => ({ ...marks[key], confidence: 1 }));
  const limbs: Bone[] = bones
    .filter(([a, b]) => marks[a] && marks[b])
    .map(([a, b]) => ({ a: keys.indexOf(a), b: keys.indexOf(b), lengthPx: distance(marks[a], marks[b]) }));
  // A foot at 95 rpm crosses a seventh of its circle between frames at 30 frames/s: look that far when nothing is known yet.
  const farReach = Math.round(0.085 * Math.min(frame.width, frame.height));

  const isBody = limbs.length > 0;
  const memory = isBody ? strokeMemory(keys.length) : null;
  // How much of the time between frames the shutter is open, learned from how far moving stickers are smeared.
  let openShare = 0.2;

  return {
    keys,
    modes: followed.map((f) => (f.sticker ? 'sticker' : 'patch')),
    lookingAt: (frameNow, t) => regionOf(followed, frameNow, t, farReach),
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
      const looking = { farReach, openShare, isBody, isMarked: giveUpAfter === Infinity };
      const onTheirWay = followed.map((f) =>
        isUnseen(f) ? [] : f.lostFrames > 0 ? null : sightingsOf(f, frameNow, t, looking),
      );
      const stand = memory ? standOf(onTheirWay) : [];
      const options = followed.map((f, i) => {
        const recalled = f.lostFrames > 0 ? (memory?.recall(i, stand) ?? null) : null;
        return (
          onTheirWay[i] ??
          (f.lostFrames > giveUpAfter ? [] : sightingsOf(f, frameNow, t, { ...looking, recalled }))
        );
      });
      const chosen = isBody ? assignLandmarks(options, limbs) : assignCheapest(options);
      memory?.note(options.map((o, i) => (chosen[i] < 0 ? null : o[chosen[i]])));
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

/** Whether there is nothing to know it by. */
const isUnseen = (f: Followed): boolean => !f.sticker && !f.patch;

/** Where the landmarks that are surely seen stand, by the likeliest of their places; null for the others. */
const standOf = (options: readonly (readonly Sighting[] | null)[]): (ImagePoint | null)[] =>
  options.map((o) => (o && o.length > 0 && o[0].cost < STANDS_COST ? o[0] : null));

/** The light on a limb changes as it turns: the sticker's colour follows slowly. */
function adapt(own: Sticker, seen: Yuv, gain: number): void {
  const now = inLight(seen, 1 / gain);
  // A shadow's edge is passed within a few frames: what is far off is followed faster.
  const off = colourGap(now, own.colour) / own.contrast;
  const rate = off > 0.15 ? 0.4 : 0.05;
  for (let k = 0; k < 3; k += 1) own.colour[k] += rate * (now[k] - own.colour[k]);
}
