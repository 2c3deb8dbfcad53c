import { median } from '../math/statistics.ts';
import { colourGap, type PlanarFrame } from './frame.ts';
import { learnSticker } from './learn.ts';
import { findSpots, type RawSpot } from './spots.ts';
import { discColour, type Sticker } from './sticker.ts';

/** How many looks are handed back: a wall may have patterns of its own. */
const LOOKS = 8;
/** Dots looked at on one picture. */
const SPOTS = 320;
/** Of one kind, those that are learned: their middle stands for all. */
const LEARNED = 14;
/** More of one kind on a picture than this are a pattern. */
const PATTERN = 26;

interface Seen extends RawSpot {
  picture: number;
  moves: boolean;
}

/** Of one kind: of a size, and closer in colour than a share of what sets them off. */
const alike = (a: RawSpot, b: RawSpot): boolean =>
  Math.abs(Math.log(a.radiusPx / b.radiusPx)) < 0.4 &&
  colourGap(a.colour, b.colour) < 8 + 0.16 * Math.min(a.contrast, b.contrast);

/** Two sizes of one colour are two stickers from this ratio on, with so many of each. */
const TWO_SIZES = { ratio: 1.25, least: 2 };

/** The stickers that stand for a kind of dots, learned from the clearest of them: one, or one for each of two sizes; none where none is round. */
function stickersOf(kind: readonly Seen[], pictures: readonly PlanarFrame[]): Sticker[] {
  const learned = [...kind]
    .sort((a, b) => Number(b.moves) - Number(a.moves) || b.contrast - a.contrast)
    .slice(0, LEARNED)
    .flatMap((s) => learnSticker(pictures[s.picture], s)?.sticker ?? [])
    .sort((a, b) => a.radiusPx - b.radiusPx);
  if (learned.length < 2) return [];
  const middle = (list: readonly Sticker[]): Sticker => {
    const of = (value: (s: Sticker) => number): number => median(list.map(value));
    return {
      colour: [of((s) => s.colour[0]), of((s) => s.colour[1]), of((s) => s.colour[2])],
      radiusPx: of((s) => s.radiusPx),
      contrast: of((s) => s.contrast),
    };
  };
  const { least, ratio } = TWO_SIZES;
  let cut = 0;
  let widest = ratio;
  for (let k = least; k <= learned.length - least; k += 1) {
    const gap = learned[k].radiusPx / learned[k - 1].radiusPx;
    if (gap > widest) [cut, widest] = [k, gap];
  }
  return cut > 0 ? [middle(learned.slice(0, cut)), middle(learned.slice(cut))] : [middle(learned)];
}

/** Stickers are mostly of a colour, what else moves in a room is mostly grey: from 1 for grey to 1.5. */
const vivid = ({ colour: [, u, v] }: Sticker): number =>
  1 + Math.min(0.5, Math.hypot(u - 128, v - 128) / 120);

/**
 * Looks that could be the stickers', likeliest first: dots of all pictures are sorted by colour and size; a kind of which several
 * move from picture to picture and which stands out well is the rider's, one that stands still is the room's.
 * @param pictures of one film, some tenths of a second apart; one alone will do
 */
export function looksOfFilm(pictures: readonly PlanarFrame[]): Sticker[] {
  const spots = pictures.map((f) => findSpots(f, SPOTS));
  const all: Seen[] = spots.flatMap((list, picture) =>
    list.map((s) => {
      const other = pictures[picture > 0 ? picture - 1 : 1];
      // Nothing of its colour stands there on another picture.
      const moves =
        Boolean(other) && colourGap(discColour(other, s, 0.6 * s.radiusPx), s.colour) > 0.5 * s.contrast;
      return { ...s, picture, moves };
    }),
  );
  all.sort((a, b) => b.contrast - a.contrast);
  const looks: { sticker: Sticker; worth: number }[] = [];
  const left = new Set(all);
  let tries = 0;
  for (const seed of all) {
    if (!left.has(seed)) continue;
    const kind = [...left].filter((s) => alike(s, seed));
    kind.forEach((s) => left.delete(s));
    const onEach = kind.length / pictures.length;
    if (onEach < 3 || onEach > PATTERN) continue;
    tries += 1;
    if (tries > 40) break;
    const moving = kind.filter((s) => s.moves).length / pictures.length;
    // Of a rider's stickers about half move; of the room's dots those that a leg passes.
    const rider = Math.min(5, moving) * Math.min(1, (2 * moving) / onEach);
    for (const sticker of stickersOf(kind, pictures))
      looks.push({
        sticker,
        worth: (0.5 + rider + 0.1 * Math.min(10, onEach)) * Math.sqrt(sticker.contrast) * vivid(sticker),
      });
  }
  const apart: typeof looks = [];
  for (const l of looks.sort((a, b) => b.worth - a.worth))
    if (
      apart.every(
        ({ sticker: s }) =>
          colourGap(s.colour, l.sticker.colour) > 12 ||
          Math.abs(Math.log(s.radiusPx / l.sticker.radiusPx)) > 0.25,
      )
    )
      apart.push(l);
  return apart.slice(0, LOOKS).map((l) => l.sticker);
}
