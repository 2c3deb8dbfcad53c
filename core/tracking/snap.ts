import { distance, type ImagePoint } from '../math/vec.ts';
import type { PlanarFrame } from './frame.ts';
import { learnSticker } from './learn.ts';
import type { Sticker } from './sticker.ts';

/** Rings about the click from which the sticker is looked for, px, and places on each. */
const RINGS = [0, 2.5, 5, 7.5] as const;
const PLACES = 8;
/** No click misses a sticker's middle by more, px. */
const FARTHEST_PX = 14;
/** Centres this close are one sticker's; a middle is agreed on by so many of the places at the least. */
const SAME_PX = 0.6;
const LEAST_VOTES = 4;

interface Found {
  centre: ImagePoint;
  sticker: Sticker;
  votes: number;
}

/**
 * The middle of the sticker that was pointed at: a finger misses by some pixels, so it is looked for from the click and from rings about
 * it, and the middle counts on which most of those places agree. An edge or a fold that looks round from one place does not from others.
 * @returns null where no sticker is agreed on: the point stays where it was put, by eye
 */
export function snapToSticker(frame: PlanarFrame, at: ImagePoint): ImagePoint | null {
  const found: Found[] = [];
  for (const radius of RINGS) {
    const places = radius === 0 ? 1 : PLACES;
    for (let k = 0; k < places; k += 1) {
      const a = ((k + radius) / places) * 2 * Math.PI;
      const from = { x: at.x + radius * Math.cos(a), y: at.y + radius * Math.sin(a) };
      const learned = learnSticker(frame, from);
      if (!learned || distance(learned.centre, at) > FARTHEST_PX) continue;
      const known = found.find((f) => distance(f.centre, learned.centre) < SAME_PX);
      if (!known) found.push({ ...learned, votes: 1 });
      else {
        known.votes += 1;
        // Of those that agree the clearest look gives the middle.
        if (learned.sticker.contrast > known.sticker.contrast) Object.assign(known, learned);
      }
    }
  }
  const worth = ({ votes, sticker, centre }: Found): number =>
    votes * Math.sqrt(sticker.contrast) * sticker.radiusPx * (1 - distance(centre, at) / (2 * FARTHEST_PX));
  const best = found.filter((f) => f.votes >= LEAST_VOTES).sort((f, g) => worth(g) - worth(f))[0];
  return best?.centre ?? null;
}
