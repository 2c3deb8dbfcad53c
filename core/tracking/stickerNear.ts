import { findCandidates } from './candidates.ts';
import { centreOn } from './centre.ts';
import type { PlanarFrame } from './frame.ts';
import type { ImagePoint } from '../math/vec.ts';
import type { Located, Sticker } from './sticker.ts';

/** Of one that is known from another picture so much has to be seen, and no more than so far off its colour. */
const LEAST_SEEN = 0.7;
const COLOUR_MISS = 0.45;

/**
 * A sticker that is known from another picture of the same camera, near a place, px.
 * @param reachPx how far from there it is looked for  @returns null where what stands likeliest for it is not whole, or of another colour
 */
export function stickerNear(
  frame: PlanarFrame,
  sticker: Sticker,
  { near, reachPx }: { near: ImagePoint; reachPx: number },
): Located | null {
  const [likeliest] = findCandidates(frame, sticker, { near, reachPx, most: 1 });
  const found = likeliest ? centreOn(frame, sticker, likeliest, { x: 0, y: 0 }) : null;
  return found && found.areaRatio > LEAST_SEEN && found.colourMiss < COLOUR_MISS ? found : null;
}
