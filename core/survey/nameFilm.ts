import { SIDE_LANDMARKS, type Landmark, type View } from '../landmarks/landmarks.ts';
import { nameSpots, type NamedSpots, SURE } from '../landmarks/nameSpots.ts';
import type { Known } from '../landmarks/layout.ts';
import type { MovingSpot } from '../landmarks/relations.ts';
import { mean, median } from '../math/statistics.ts';
import { distance, isSeen, type ImagePoint } from '../math/vec.ts';
import { findStickers, type Spot } from '../tracking/findStickers.ts';
import { colourGap, type PlanarFrame } from '../tracking/frame.ts';
import { lightMeter } from '../tracking/light.ts';
import { discColour, type Sticker } from '../tracking/sticker.ts';
import { startTracker, stickersUnder } from '../tracking/tracker.ts';
import { watchSteadiness } from './steadiness.ts';
import { looksOfFilm } from '../tracking/looks.ts';

/** Pictures of a film held at once, in the order of time: about a turn of the crank. */
export interface HeldFilm {
  frames: readonly PlanarFrame[];
  tS: readonly number[];
}

/** The same with how far each picture stands from the first one, px. */
interface SteadyFilm extends HeldFilm {
  shifts: readonly ImagePoint[];
}

/** The pictures without those that are written a second time. */
function shownOnce({ frames }: HeldFilm): number[] {
  const meter = lightMeter(frames[0]);
  return frames.flatMap((f, i) => (meter.isRepeat(f) ? [] : [i]));
}

function steadied(film: HeldFilm): SteadyFilm {
  const shiftOf = watchSteadiness(film.frames[0]);
  let last: ImagePoint = { x: 0, y: 0 };
  return { ...film, shifts: film.frames.map((f) => (last = shiftOf(f) ?? last)) };
}

/** A landmark as it was found on the film. */
export interface FoundPoint extends ImagePoint {
  /** 0…1: how sure its name is. */
  sure: number;
}

/** The stickers of a film, each with its name. */
export interface NamedFilm {
  /** Which of the held pictures the points stand on. */
  picture: number;
  points: Partial<Record<Landmark, FoundPoint>>;
  facing: 'left' | 'right';
  mmPerPx: number;
  /** Middle of the foot's way, px; null where no foot was seen to turn. */
  pedalPx: ImagePoint | null;
  /** On what share of the pictures the sticker that was lost most is seen. */
  leastSeen: number;
}

/** Pictures on which stickers are looked for, so far apart. */
const PICTURES = 5;
const APART_S = 0.13;
/** As many spots of one look on a picture are a pattern; of fewer the surest are followed. */
const PATTERN = 30;
const HALF_SURE = 0.5;
const MOST_SPOTS = 22;
const LEAST_SPOTS = 4;
/** Knee, ankle, heel and toe go round: of those so many at the least. */
const LEAST_MOVING = 2;
/** Two paths this close on most pictures are one sticker's. */
const ONE_PX = 2.5;
/** Looks closer in colour than this share of what sets them off are one kind of sticker in two sizes. */
const SAME_COLOUR = 0.15;
/** A spot that was not seen for so many pictures is not looked for any more. */
const GIVE_UP = 6;
/** Less than this share of the pictures is no path to judge by. */
const LEAST_SEEN = 0.45;

interface Path {
  at: ImagePoint[];
  sure: number;
}

/** Spots of a picture followed through the held film, both ways, together: one place is one spot's. */
function followSpots({ frames, tS }: HeldFilm, from: number, spots: readonly Spot[], look: Sticker): Path[] {
  const paths = spots.map((s): Path => ({ at: frames.map(() => ({ x: NaN, y: NaN })), sure: s.sure }));
  paths.forEach((p, k) => (p.at[from] = { x: spots[k].x, y: spots[k].y }));
  const marks = Object.fromEntries(spots.map((s, k) => [`${k}`, { x: s.x, y: s.y }]));
  const stickers = stickersUnder(frames[from], spots, look);
  for (const step of [1, -1]) {
    const tracker = startTracker(frames[from], tS[from], marks, { stickers, giveUpAfter: GIVE_UP });
    for (let i = from + step; i >= 0 && i < frames.length; i += step)
      tracker.step(frames[i], tS[i]).forEach((p, k) => {
        paths[Number(tracker.keys[k])].at[i] = { x: p.x, y: p.y };
      });
  }
  return paths;
}

/** Shorter stretches are no path. */
const LEAST_STRETCH = 5;

const framesSeen = ({ at }: Path): number[] => at.flatMap((p, i) => (isSeen(p) ? [i] : []));

/** The path on some of its frames alone. */
function only({ at, sure }: Path, frames: readonly number[]): Path {
  const own = new Set(frames);
  return { sure, at: at.map((p, i) => (own.has(i) ? p : { x: NaN, y: NaN })) };
}

/**
 * Frames cut into the stretches between breaks, without those that are too short.
 * @param breaks whether a stretch that began at an index ends before another
 */
function stretchesOf(frames: readonly number[], breaks: (n: number, from: number) => boolean): number[][] {
  const out: number[][] = [];
  let from = 0;
  for (let n = 1; n <= frames.length; n += 1) {
    if (n < frames.length && !breaks(n, from)) continue;
    if (n - from >= LEAST_STRETCH) out.push(frames.slice(from, n));
    from = n;
  }
  return out;
}

/** A path without its stretches on another thing: where it jumps or is lost it is cut, and short stretches are left out. */
function withoutJumps(path: Path): Path {
  const seen = framesSeen(path);
  const isNext = (n: number): boolean => seen[n] - seen[n - 1] === 1;
  const stepTo = (n: number): number => distance(path.at[seen[n]], path.at[seen[n - 1]]);
  const usual = median(seen.flatMap((_, n) => (n > 0 && isNext(n) ? [stepTo(n)] : [])));
  return only(path, stretchesOf(seen, (n) => !isNext(n) || stepTo(n) > 2.5 * usual + 5).flat());
}

/**
 * A path cut where it leaves one thing for another that looks alike: where it jumps, or turns off more sharply than it does elsewhere.
 * Each stretch of some length is a path of its own.
 */
function pieces(path: Path): Path[] {
  const { at } = path;
  const seen = framesSeen(path);
  const stepTo = (n: number): number => distance(at[seen[n]], at[seen[n - 1]]) / (seen[n] - seen[n - 1]);
  /** How far it is from where the two before lead; 0 across gaps, where they lead nowhere. */
  const turnTo = (n: number): number => {
    if (n < 2 || seen[n] - seen[n - 2] !== 2) return 0;
    const [a, b, p] = [at[seen[n - 2]], at[seen[n - 1]], at[seen[n]]];
    return distance(p, { x: 2 * b.x - a.x, y: 2 * b.y - a.y });
  };
  const each = seen.map((_, n) => n);
  const usualStep = median(each.slice(1).map(stepTo));
  const usualTurn = median(each.slice(2).map(turnTo));
  return stretchesOf(
    seen,
    (n, from) => stepTo(n) > 2.5 * usualStep + 5 || (n - from >= 2 && turnTo(n) > 2.5 * usualTurn + 3),
  ).map((frames) => only(path, frames));
}

const shareSeen = (p: Path): number => p.at.filter(isSeen).length / p.at.length;

/** How far a path turns off from picture to picture, px, wherever three in a row show it; as far as it would in even time. */
function bendsOf(at: Path['at'], tS: readonly number[]): number[] {
  const usualS = median(tS.slice(1).map((t, n) => t - tS[n]));
  return at
    .slice(1, -1)
    .map((p, n) => {
      const [before, after] = [tS[n + 1] - tS[n], tS[n + 2] - tS[n + 1]];
      const turned = (q: number, r: number, s: number): number => (s - r) / after - (r - q) / before;
      const bend = Math.hypot(turned(at[n].x, p.x, at[n + 2].x), turned(at[n].y, p.y, at[n + 2].y));
      return (bend * usualS * usualS) / ((before + after) / 2);
    })
    .filter(Number.isFinite);
}
/** Fewer say nothing of a path. */
const FEWEST_BENDS = 6;

/**
 * Whether a path is that of one thing: a limb swings smoothly, what jumps between things that look alike does not. The bend from picture
 * to picture is held against the whole way.
 */
function isSmooth({ at }: Path, tS: readonly number[]): boolean {
  const bends = bendsOf(at, tS).sort((a, b) => a - b);
  if (bends.length < FEWEST_BENDS) return false;
  const seen = at.filter(isSeen);
  const [xs, ys] = [seen.map((p) => p.x), seen.map((p) => p.y)];
  const way = Math.hypot(Math.max(...xs) - Math.min(...xs), Math.max(...ys) - Math.min(...ys));
  return bends[Math.floor(0.9 * bends.length)] < 1.5 + 0.1 * way && bends[bends.length - 1] < 3 + 0.25 * way;
}

/** A piece of a path that wandered counts where it is most of the film. */
const LEAST_PIECE = 0.55;

/** A path as that of one thing, its jumps left out; where it is none, the stretches that each may be of one. */
function asOneThing(path: Path, tS: readonly number[]): Path[] {
  const whole = withoutJumps(path);
  return isSmooth(whole, tS) ? [whole] : pieces(path).filter((p) => shareSeen(p) > LEAST_PIECE);
}

/** How far a path goes, without its farthest few places. */
function swingOf(p: Path, turnS: number): MovingSpot['swingPx'] {
  const seen = p.at.filter(isSeen);
  if (turnS < LEAST_TURN_S || seen.length < LEAST_SEEN * p.at.length) return null;
  const span = (value: (q: ImagePoint) => number): number => {
    const v = seen.map(value).sort((a, b) => a - b);
    const cut = Math.floor(0.02 * v.length);
    return v[v.length - 1 - cut] - v[cut];
  };
  return { x: span((q) => q.x), y: span((q) => q.y) };
}

const FOLLOWED_SURE = 0.8;

/** A turn at 60 turns a minute and more. */
const LEAST_TURN_S = 0.9;

/** Whether a place on another picture has not the look of a sticker: what was there has moved. */
const isGone = (other: PlanarFrame, at: ImagePoint, look: Sticker): boolean =>
  colourGap(discColour(other, at, 0.6 * look.radiusPx), look.colour) > 0.4 * look.contrast;

/** Which of the pictures with their spots has most of them, and so on. */
const fullestFirst = (found: readonly (readonly Spot[])[]): number[] =>
  found.map((_, k) => k).sort((a, b) => found[b].length - found[a].length);

/** The spots of one look on each of some pictures, the surest first; null where they are a pattern, or too few, or nothing of it moves. */
function spotsOf(
  film: SteadyFilm,
  pictures: readonly number[],
  look: Sticker,
  sizes: readonly Sticker[],
): Spot[][] | null {
  const isPattern = (spots: readonly Spot[]): boolean =>
    spots.filter((s) => s.sure > HALF_SURE).length >= PATTERN;
  const found: Spot[][] = [];
  /** The picture half of them away from one. */
  const away = (i: number): PlanarFrame =>
    film.frames[pictures[(pictures.indexOf(i) + (pictures.length >> 1)) % pictures.length]];
  for (const i of pictures) {
    let list = findStickers(film.frames[i], look);
    // Stripes in the stickers' colour: what stands out as they do is less.
    if (isPattern(list)) list = findStickers(film.frames[i], look, false);
    // A wall or a window with dots of their look: of what stands still, no sticker is among so many.
    if (isPattern(list)) list = list.filter((s) => isGone(away(i), s, look));
    if (isPattern(list)) return null;
    // Stickers of a second size: a dot is found by the size that it is most whole in.
    for (const size of sizes)
      for (const spot of findStickers(film.frames[i], size)) {
        const near = list.findIndex((s) => distance(s, spot) < look.radiusPx);
        if (near < 0) list.push(spot);
        else if (spot.sure > list[near].sure) list[near] = spot;
      }
    list.sort((a, b) => b.sure - a.sure);
    found.push(list.slice(0, MOST_SPOTS));
  }
  const order = fullestFirst(found);
  const fullest = found[order[0]];
  if (fullest.length < LEAST_SPOTS) return null;
  // Where nothing moves it is no rider: what stood somewhere stands there on the other pictures too.
  const other = film.frames[pictures[order[order.length - 1]]];
  const moved = fullest.filter((s) => isGone(other, s, look));
  return pictures.length > 1 && moved.length < LEAST_MOVING ? null : found;
}

/** The ways of the spots of one look, each followed through the film from where it was found. */
function pathsOf(
  film: SteadyFilm,
  pictures: readonly number[],
  look: Sticker,
  found: readonly (readonly Spot[])[],
): Path[] {
  const paths: Path[] = [];
  for (const k of fullestFirst(found)) {
    const i = pictures[k];
    const anew = found[k].filter((s) => !paths.some((p) => isSeen(p.at[i]) && distance(p.at[i], s) < ONE_PX));
    if (anew.length === 0) continue;
    const fresh = anew.slice(0, Math.max(0, 2 * MOST_SPOTS - paths.length));
    // What has its path already is followed along: its place is nobody else's.
    const others = found[k].filter((s) => !anew.includes(s));
    const followedOn = followSpots(film, i, [...fresh, ...others], look).slice(0, fresh.length);
    for (const path of followedOn.flatMap((p) => asOneThing(p, film.tS))) {
      const twin = paths.find((p) => {
        const both = p.at.map((q, n) => distance(q, path.at[n])).filter(Number.isFinite);
        return both.length > 3 && both.filter((d) => d < ONE_PX).length > 0.5 * both.length;
      });
      if (!twin) paths.push(path);
      // The same sticker, lost on the way: what either has seen is one path.
      else twin.at = twin.at.map((q, n) => (isSeen(q) ? q : path.at[n]));
    }
  }
  // A camera that was pushed moves all alike: that is no limb's way.
  const still = paths.map(({ at, sure }): Path => ({
    sure,
    at: at.map((p, i) => ({ x: p.x - film.shifts[i].x, y: p.y - film.shifts[i].y })),
  }));
  return still.filter((p) => shareSeen(p) > LEAST_SEEN && isSmooth(p, film.tS));
}

/** Looks of one colour with a look, in another size. */
const otherSizes = (look: Sticker, looks: readonly Sticker[]): Sticker[] =>
  looks.filter(
    (l) => l !== look && colourGap(l.colour, look.colour) < SAME_COLOUR * Math.min(l.contrast, look.contrast),
  );

/** A rider wears no more stickers. */
const WORN = 14;
/** Followed over so many pictures, the stickers of a leg go so far, px; a knee and a foot have so many of them. */
const SHORT_WAY = 9;
const SHORT_PX = 6;
const OF_A_LEG = 3;

/** Whether some spots of a picture go on smoothly over the next ones, as a leg's do and a wall's do not. */
export function isLegAmong(film: HeldFilm, picture: number, spots: readonly Spot[], look: Sticker): boolean {
  const from = Math.min(picture, Math.max(0, film.frames.length - SHORT_WAY));
  const part = <T>(list: readonly T[]): readonly T[] => list.slice(from, from + SHORT_WAY);
  const short = { frames: part(film.frames), tS: part(film.tS) };
  const goes = followSpots(short, picture - from, spots, look).filter((path) => {
    const [a, b] = [path.at[0], path.at[path.at.length - 1]];
    return distance(a, b) > SHORT_PX && isSmooth(path, short.tS);
  });
  return goes.length >= OF_A_LEG;
}

/**
 * Looks with their spots, as they are asked for, in their order; but those of which the picture is full, which take longest to follow, come
 * after all the others where no leg is seen among them, and not at all where one was found before.
 * @param isFound whether a leg beyond doubt was found by now
 */
function* byCrowd(
  film: SteadyFilm,
  pictures: readonly number[],
  looks: readonly Sticker[],
  isFound: () => boolean,
): Generator<readonly [Sticker, Spot[][]]> {
  const crowded: (readonly [Sticker, Spot[][]])[] = [];
  for (const look of looks) {
    const found = spotsOf(film, pictures, look, otherSizes(look, looks));
    if (!found) continue;
    const isFew = found.every((list) => list.length <= WORN);
    if (isFew || isLegAmong(film, pictures[0], found[0], look)) yield [look, found];
    else crowded.push([look, found]);
  }
  if (!isFound()) yield* crowded;
}

/**
 * The stickers of a film and which joint each is: looks that come often are tried, every spot of one is followed through about a
 * turn, and where they lie to each other and how they move gives the names.
 * @param known scale and facing, where they are  @param soon the first look with a leg beyond doubt will do, though a part of the body is
 * missing: whoever waits can look again
 * @returns null where no look makes a body
 */
export function nameFilm(held: HeldFilm, view: View, known: Known, soon = false): NamedFilm | null {
  if (held.frames.length === 0) return null;
  const once = shownOnce(held);
  const film = steadied({ frames: once.map((i) => held.frames[i]), tS: once.map((i) => held.tS[i]) });
  const { frames, tS } = film;
  const turnS = tS[tS.length - 1] - tS[0];
  const pictures: number[] = [];
  for (let k = 0; k < PICTURES; k += 1) {
    const t = tS[0] + Math.min(k * APART_S, (k / PICTURES) * turnS + 1e-9);
    const i = tS.findIndex((s) => s >= t - 1e-6);
    if (i >= 0 && !pictures.includes(i)) pictures.push(i);
  }
  const looks = looksOfFilm(pictures.map((i) => frames[i]));
  let best: { named: NamedSpots; paths: Path[] } | null = null;
  for (const [look, found] of byCrowd(film, pictures, looks, () => best !== null && hasLeg(best.named))) {
    const paths = pathsOf(film, pictures, look, found);
    const spots = paths.map((p): MovingSpot => ({
      at: pictures.map((i) => p.at[i]),
      // What was followed all the way is a sticker, however pale it was where it was found.
      sure: Math.max(p.sure * Math.min(1, 1.3 * shareSeen(p)), FOLLOWED_SURE * shareSeen(p)),
      swingPx: swingOf(p, turnS),
    }));
    const named = nameSpots(spots, view, { ...known, pictureWidthPx: frames[0].width });
    if (!named) continue;
    if (!best || named.cost < best.named.cost) best = { named, paths };
    if (named.cost < GOOD_COST && SIDE_LANDMARKS.every((k) => named.names[k])) break;
    if (soon && hasLeg(named)) break;
  }
  const named = best && atBestPicture(film, best, pictures);
  return named && { ...named, picture: once[named.picture] };
}

/** Without these nothing is to be measured. */
export const LEG: readonly Landmark[] = ['hip', 'knee', 'ankle'];
/** Whether the leg's names are beyond doubt. */
const hasLeg = ({ names }: NamedSpots): boolean => LEG.every((k) => (names[k]?.sure ?? 0) >= SURE);

/** Below this the spots are a body beyond doubt: no other look need be tried. */
const GOOD_COST = 45;

/** The foot's points turn evenly: the sharpest bend of a whole path is little more than the usual one. */
const EVEN: readonly Landmark[] = ['ankle', 'heel', 'toe'];
const MOST_UNEVEN = 1.6;
/** So many names of the eight have to be sure before any is. */
const LEAST_SURE = 4;

/**
 * The sharpest bend of a path against its usual one: a place where it goes over to another thing stands out. Without its ends: whether the
 * first picture was written twice, and so has a later stamp than its own, can't be seen.
 */
function unevenness({ at }: Path, tS: readonly number[]): number {
  const bends = bendsOf(at.slice(1, -1), tS.slice(1, -1));
  // Half of each is how far a place lies from halfway between its neighbours.
  return bends.length < FEWEST_BENDS ? 0 : Math.max(...bends) / (median(bends) + 2);
}

/** How far a path goes from a picture to the next, px; at the film's end from the one before. NaN where it is not seen on both. */
const paceAt = ({ at }: Path, i: number): number =>
  i + 1 < at.length ? distance(at[i], at[i + 1]) : distance(at[Math.max(0, i - 1)], at[i]);

/** Where most of a body is unsure, so is the rest of it. */
export const sureTogether = (points: NamedFilm['points']): NamedFilm['points'] =>
  Object.values(points).filter((p) => p.sure >= SURE).length >= LEAST_SURE
    ? points
    : Object.fromEntries(
        Object.entries(points).map(([key, p]) => [key, { ...p, sure: Math.min(p.sure, HALF_SURE) }]),
      );

/** The names on the picture that shows most of them, and of those on the one on which they move least: the sharpest. */
function atBestPicture(
  { shifts, tS }: SteadyFilm,
  { named, paths }: { named: NamedSpots; paths: readonly Path[] },
  pictures: readonly number[],
): NamedFilm {
  const entries = Object.entries(named.names) as [Landmark, { spot: number; sure: number }][];
  const seenOn = (i: number): number => entries.filter(([, n]) => isSeen(paths[n.spot].at[i])).length;
  const paceOn = (i: number): number =>
    mean(entries.map(([, n]) => paceAt(paths[n.spot], i)).filter(Number.isFinite)) || 0;
  const picture = [...pictures].sort((a, b) => seenOn(b) - seenOn(a) || paceOn(a) - paceOn(b))[0];
  const points: NamedFilm['points'] = {};
  for (const [key, { spot, sure }] of entries) {
    const at = paths[spot].at[picture];
    const ofTwo = EVEN.includes(key) && unevenness(paths[spot], tS) > MOST_UNEVEN;
    if (isSeen(at))
      points[key] = {
        x: at.x + shifts[picture].x,
        y: at.y + shifts[picture].y,
        sure: ofTwo ? Math.min(sure, HALF_SURE) : sure,
      };
  }
  const toe = named.names.toe ?? named.names.ankle;
  const way = toe ? paths[toe.spot].at.filter(isSeen) : [];
  const middle = (values: number[]): number => (Math.max(...values) + Math.min(...values)) / 2;
  return {
    picture,
    points: sureTogether(points),
    facing: named.facing,
    mmPerPx: named.mmPerPx,
    leastSeen: Math.min(...entries.map(([, n]) => shareSeen(paths[n.spot]))),
    pedalPx: way.length > 5 ? { x: middle(way.map((p) => p.x)), y: middle(way.map((p) => p.y)) } : null,
  };
}
