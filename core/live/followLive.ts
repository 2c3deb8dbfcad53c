import { scaleFromAxles } from '../camera/plane.ts';
import { watchHands, type HandsRest, type HandsWatch } from '../kinematics/live/hands.ts';
import { asTracks, liveReader, type Frames, type LiveReader } from '../kinematics/live/liveReader.ts';
import { scaleByCrank } from '../kinematics/live/liveScale.ts';
import { watchPosture, type Posture, type PostureEvent } from '../kinematics/live/posture.ts';
import type { Turn } from '../kinematics/live/turns.ts';
import { readTracks, type ReadOptions, type ReadResult } from '../kinematics/read.ts';
import { RIGID_BONES, SIDE_LANDMARKS, type Landmark } from '../landmarks/landmarks.ts';
import { SURE } from '../landmarks/nameSpots.ts';
import { distance, isSeen, type ImagePoint } from '../math/vec.ts';
import { judgeReading, type MeasureReading } from '../protocol/measures.ts';
import type { Protocol } from '../protocol/protocols.ts';
import { exposureOf } from '../survey/filmFacts.ts';
import { HELD_BYTES, HELD_PER_S, wheelsOn } from '../survey/lookAt.ts';
import { LEG, nameFilm } from '../survey/nameFilm.ts';
import { watchSteadiness } from '../survey/steadiness.ts';
import type { PlanarFrame, Region } from '../tracking/frame.ts';
import type { Sticker } from '../tracking/sticker.ts';
import { stickerNear } from '../tracking/stickerNear.ts';
import { startTracker, stickersUnder, type TrackedPoint, type Tracker } from '../tracking/tracker.ts';
import type { Tracks } from '../tracking/tracks.ts';
import type { FoundWheels } from '../survey/wheels.ts';
import { countPictures } from './countPictures.ts';
import { isFoot, watchBody } from './watchBody.ts';

/** What is known before the camera runs. */
export interface LiveAsk {
  wheelbaseMm: number | null;
  crankMm: number;
  protocol: Protocol;
}

/** What keeps the figures from being as good as they could be. */
export type LiveWarning = 'dark' | 'slow' | 'busy' | 'moved' | 'by-crank' | 'unread';

/** What is told while the camera runs. */
export type LiveWord =
  /** Pictures are gathered, or looked at, to find the stickers; `tries`: how often that was for nothing. */
  | { kind: 'looking'; tries: number }
  | { kind: 'following'; facing: 'left' | 'right' }
  | {
      kind: 'picture';
      tS: number;
      /** Landmarks that are followed, and those of them that are not seen just now. */
      followed: number;
      lost: string[];
      handled: number;
      dropped: number;
      framesPerS: number;
      posture: Posture;
      /** Where the near hand rested of late; null before the scale is known. */
      hands: HandsRest | null;
      warnings: LiveWarning[];
    }
  | { kind: 'turns'; turns: Turn[]; measures: MeasureReading[]; cadenceRpm: number }
  | { kind: 'posture'; event: PostureEvent };

/** What a stretch of the camera leaves beside its pictures. */
export interface Lately {
  /** On the camera’s clock. */
  tracks: Tracks;
  wheels: FoundWheels | null;
  facing: 'left' | 'right';
}

export interface LiveFollower {
  /** Takes the next picture. @returns whether it is kept, so that its buffer can't be written over */
  see: (frame: PlanarFrame, tS: number) => boolean;
  /** The part of the next picture that is wanted; null for all of it. */
  lookingAt: (tS: number) => Region | null;
  /** What was followed of late, and the wheels that it was measured by; null while nothing is. */
  lately: (seconds: number) => Lately | null;
  /** Where the landmarks stand on the last picture; null while none are followed. */
  points: () => Partial<Record<string, TrackedPoint>> | null;
  /** Pictures are missing on purpose: nothing is counted as dropped. */
  rest: () => void;
}

/** Pictures of about a turn are gathered to find the stickers. */
const HELD_S = 1.25;
/** Where a rider stands like on the picture that was named: each sticker within so much of its place there, share of the picture's height. */
const NEAR_SHARE = 0.012;
const LOOK_SHARE = 0.05;
/** After so long of waiting for that, a sticker fewer will do; after longer it is looked for anew. */
const PATIENT_S = 2.5;
const GIVE_UP_S = 6;
const FOOT: readonly Landmark[] = ['ankle', 'heel', 'toe'];
const LEAST_SURE = 4;
const FOOT_SURE = 0.3;
/** Told no more often than this. */
const TELL_S = 0.25;
const MOVED_PX = 4;
const DARK_SHARE = 0.5;
const SLOW_PER_S = 40;
/** With fewer landmarks than this for so long the rider is gone, or the camera was moved. */
const LEAST_SEEN = 4;
const GONE_S = 3;
/** Where no turn could be read for so long it is said; after longer the names may be wrong, and the rider is looked for anew. */
const UNREAD_S = 5;
const NEVER_READ_S = 10;
/** So much of riding tells the scale by the crank. */
const SCALE_S = 2.2;

interface Named {
  points: Partial<Record<Landmark, ImagePoint>>;
  stickers: Map<string, Sticker>;
  facing: 'left' | 'right';
  roughMmPerPx: number;
  wheels: FoundWheels | null;
  scale: ReadOptions | null;
}

/** How many of the side's landmarks have a name. */
const namesOf = ({ points }: Named): number => SIDE_LANDMARKS.filter((key) => key in points).length;

/** What a reading that broke down comes to. */
const UNREADABLE: ReadResult = { ok: false, reason: 'no-stroke', detail: 'The turns could not be read.' };

/** Reads turns, at once or meanwhile. */
export type ReadTurns = (tracks: Tracks, options: ReadOptions) => ReadResult | Promise<ReadResult>;

/** Reads a rider from a running camera's pictures: looks for the stickers, follows them, and reads every turn as it closes. */
// eslint-disable-next-line max-lines-per-function -- what it gives shares its state
export function followLive(
  ask: LiveAsk,
  tell: (w: LiveWord) => void,
  readTurns: ReadTurns = readTracks,
): LiveFollower {
  let held: { frames: PlanarFrame[]; tS: number[]; bytes: number } = { frames: [], tS: [], bytes: 0 };
  let tries = 0;
  let named: Named | null = null;
  /** The first look, where it had not every name: one more may have. */
  let partly: Named | null = null;
  let waitedFromS: number | null = null;
  let following: Following | null = null;
  const counts = countPictures();
  let told = -Infinity;
  let lastFrame: PlanarFrame | null = null;
  let points: Partial<Record<string, TrackedPoint>> | null = null;

  const startOver = (): void => {
    held = { frames: [], tS: [], bytes: 0 };
    [named, partly, waitedFromS, following, points] = [null, null, null, null, null];
    tell({ kind: 'looking', tries });
  };
  startOver();

  const gather = (frame: PlanarFrame, tS: number): boolean => {
    const last = held.tS[held.tS.length - 1] ?? -Infinity;
    // After a gap what was held is of another turn.
    if (tS - last > 0.5) held = { frames: [], tS: [], bytes: 0 };
    else if (tS - last < 1 / HELD_PER_S - 1e-3) return false;
    held.frames.push(frame);
    held.tS.push(tS);
    held.bytes += 1.5 * frame.width * frame.height;
    if (tS - held.tS[0] < HELD_S && held.bytes < HELD_BYTES) return true;
    const found = nameOf(held, ask);
    held = { frames: [], tS: [], bytes: 0 };
    counts.rest();
    if (found && !partly && namesOf(found) < SIDE_LANDMARKS.length) {
      partly = found;
      return true;
    }
    named = found && (!partly || namesOf(found) >= namesOf(partly)) ? found : partly;
    partly = null;
    if (!named) {
      tries += 1;
      tell({ kind: 'looking', tries });
    }
    return true;
  };

  const wait = (frame: PlanarFrame, tS: number): void => {
    waitedFromS ??= tS;
    const waitedS = tS - waitedFromS;
    if (waitedS > GIVE_UP_S) {
      tries += 1;
      return startOver();
    }
    const marks = standsLike(frame, named!, waitedS > PATIENT_S ? 1 : 0);
    if (!marks) return;
    following = follow(frame, tS, { named: named!, marks, ask, tell, readTurns });
    tell({ kind: 'following', facing: named!.facing });
  };

  return {
    rest: () => counts.rest(),
    points: () => points,
    lately: (seconds) => following?.lately(seconds) ?? null,
    lookingAt: (tS) =>
      following && lastFrame && !counts.checksNext() ? following.tracker.lookingAt(lastFrame, tS) : null,
    see(frame, tS) {
      counts.count(tS, following !== null);
      if (!named) return gather(frame, tS);
      if (!following) {
        wait(frame, tS);
        return false;
      }
      lastFrame = frame;
      const isWhole = frame.filled === undefined;
      points = following.step(frame, tS, isWhole && counts.checksNow());
      if (following.isLost(tS)) {
        if (following.isUnread(tS)) tries += 1;
        startOver();
        return false;
      }
      if (tS - told >= TELL_S) {
        told = tS;
        const counted = counts.now();
        tell({
          kind: 'picture',
          tS,
          followed: following.tracker.keys.length,
          lost: Object.entries(points).flatMap(([key, p]) => (p && isSeen(p) ? [] : [key])),
          ...counted,
          posture: following.posture(),
          hands: following.hands(),
          warnings: [
            ...(counts.isBusy() ? (['busy'] as const) : []),
            ...(!counts.isBusy() && counted.framesPerS < SLOW_PER_S ? (['slow'] as const) : []),
            ...following.warnings(tS),
          ],
        });
      }
      return false;
    },
  };
}

/** The stickers of the pictures with their names, and the scale by the wheels. */
function nameOf(held: { frames: PlanarFrame[]; tS: number[] }, ask: LiveAsk): Named | null {
  const named = nameFilm(held, 'drive', { mmPerPx: null, facing: null }, true);
  // Without names nothing is to be measured: the next look comes the sooner.
  if (!named) return null;
  const wheels = wheelsOn(held, named, null);
  const frame = held.frames[named.picture];
  const all = Object.entries(named.points) as [Landmark, ImagePoint & { sure: number }][];
  // Where leg and trunk are sure the foot is too, though a picture that was dropped made its way uneven.
  const leastSure = all.filter(([, p]) => p.sure >= SURE).length >= LEAST_SURE ? FOOT_SURE : SURE;
  const sure = all.filter(([key, p]) => p.sure >= (FOOT.includes(key) ? leastSure : SURE));
  const stickers = new Map<string, Sticker>();
  const at = sure.map(([, { x, y }]) => ({ x, y }));
  stickersUnder(frame, at, null).forEach((s, k) => s && stickers.set(sure[k][0], s));
  const points = Object.fromEntries(sure.flatMap(([key], k) => (stickers.has(key) ? [[key, at[k]]] : [])));
  if (!LEG.every((k) => k in points) || !isFoot(points, named.facing)) return null;
  const scale =
    wheels && ask.wheelbaseMm
      ? scaleFromAxles({
          rearAxlePx: wheels.rear,
          frontAxlePx: wheels.front,
          wheelbaseMm: ask.wheelbaseMm,
          rims: wheels.rims,
          centrePx: { x: frame.width / 2, y: frame.height / 2 },
        })
      : null;
  return {
    points,
    stickers,
    facing: named.facing,
    roughMmPerPx: named.mmPerPx,
    wheels,
    scale: scale?.ok
      ? {
          mmPerPx: scale.mmPerPx,
          levelDeg: scale.levelDeg,
          facing: named.facing,
          keystone: scale.keystone,
          crankMm: ask.crankMm,
        }
      : null,
  };
}

/**
 * Whether the rider stands as on the picture that was named: a turn comes round to the same place.
 * @param fewer so many stickers may be missing
 */
function standsLike(
  frame: PlanarFrame,
  { points, stickers }: Named,
  fewer: number,
): Record<string, ImagePoint> | null {
  const reachPx = Math.ceil(LOOK_SHARE * frame.height);
  const marks: Record<string, ImagePoint> = {};
  let far = 0;
  for (const [key, at] of Object.entries(points)) {
    const sticker = stickers.get(key)!;
    const found = stickerNear(frame, sticker, { near: at, reachPx });
    if (!found || distance(found, at) > NEAR_SHARE * frame.height) far += 1;
    else marks[key] = { x: found.x, y: found.y };
    if (far > fewer) return null;
  }
  return marks;
}

interface Following {
  tracker: Tracker;
  step: (frame: PlanarFrame, tS: number, checks: boolean) => Partial<Record<string, TrackedPoint>>;
  /** Hardly anything is seen any more, or what is seen is no body: it is looked for anew. */
  isLost: (tS: number) => boolean;
  /** None of the turns of what is followed can be read. */
  isUnread: (tS: number) => boolean;
  posture: () => Posture;
  hands: () => HandsRest | null;
  lately: (seconds: number) => Lately | null;
  warnings: (tS: number) => LiveWarning[];
}

// eslint-disable-next-line max-lines-per-function -- what it gives shares its state
function follow(
  first: PlanarFrame,
  firstS: number,
  {
    named,
    marks,
    ask,
    tell,
    readTurns,
  }: {
    named: Named;
    marks: Record<string, ImagePoint>;
    ask: LiveAsk;
    tell: (w: LiveWord) => void;
    readTurns: ReadTurns;
  },
): Following {
  const tracker = startTracker(first, firstS, marks, { bones: RIGID_BONES });
  let options = named.scale;
  let reader: LiveReader | null = options && liveReader(options);
  const handsBy = ({ mmPerPx }: ReadOptions): HandsWatch => watchHands({ mmPerPx, facing: named.facing });
  let hands = options && handsBy(options);
  const early: Frames = { tS: [], points: [] };
  const watch = watchPosture();
  const shiftOf = first.filled ? null : watchSteadiness(first);
  let seenS = firstS;
  const body = watchBody(marks, named.facing, firstS);
  let isDark = false;
  let hasMoved = false;
  let hasRead = false;
  const isUnread = (tS: number): boolean => !hasRead && tS - firstS > NEVER_READ_S;

  /** Without wheels the scale is the crank's: known after some turns. */
  const readerByCrank = (): LiveReader | null => {
    const { tS } = early;
    if (tS.length === 0 || tS[tS.length - 1] - tS[0] < SCALE_S) return null;
    const mmPerPx = scaleByCrank(asTracks(early, tS[0]), named.roughMmPerPx, {
      facing: named.facing,
      crankMm: ask.crankMm,
    });
    early.tS = [];
    early.points = [];
    if (mmPerPx === null) return null;
    options = { mmPerPx, facing: named.facing, crankMm: ask.crankMm };
    hands = handsBy(options);
    return liveReader(options);
  };

  const read = (result: ReadResult): void => {
    const update = reader?.take(result);
    if (!update) return;
    hasRead = true;
    tell({
      kind: 'turns',
      turns: update.turns,
      measures: judgeReading(update.reading, ask.protocol),
      cadenceRpm: update.turns[update.turns.length - 1].cadenceRpm,
    });
  };

  return {
    tracker,
    isLost: (tS) => tS - seenS > GONE_S || body.isWrong(tS) || isUnread(tS),
    isUnread,
    posture: () => watch.now(),
    hands: () => hands?.rest() ?? null,
    lately: (seconds) =>
      reader && { tracks: reader.lately(seconds), wheels: named.wheels, facing: named.facing },
    warnings: (tS) => [
      ...(!hasRead && tS - firstS > UNREAD_S ? (['unread'] as const) : []),
      ...(isDark ? (['dark'] as const) : []),
      ...(hasMoved ? (['moved'] as const) : []),
      ...(named.scale ? [] : (['by-crank'] as const)),
    ],
    step(frame, tS, checks) {
      const list = tracker.step(frame, tS);
      const points = Object.fromEntries(tracker.keys.map((key, k) => [key, list[k]]));
      if (list.filter(isSeen).length >= LEAST_SEEN) seenS = tS;
      if (checks) {
        isDark = exposureOf(frame).black > DARK_SHARE;
        const by = shiftOf?.(frame);
        hasMoved = by ? Math.hypot(by.x, by.y) > MOVED_PX : hasMoved;
      }
      const whole = body.see(tS, points);
      const event = watch.see(tS, points);
      if (event) tell({ kind: 'posture', event });
      if (whole && watch.now() === 'riding') hands?.see(tS, points);
      if (!reader) {
        if (whole) {
          early.tS.push(tS);
          early.points.push(points);
        }
        reader = readerByCrank();
        return points;
      }
      // Standing, or a hand in the way: what is seen then is no pedalling to be read.
      const turns = reader.see(tS, watch.now() !== 'riding' || !whole ? {} : points);
      if (turns) {
        const result = readTurns(turns, options!);
        if (result instanceof Promise) void result.catch(() => UNREADABLE).then(read);
        else read(result);
      }
      return points;
    },
  };
}
