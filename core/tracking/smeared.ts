import { distance, type ImagePoint } from '../math/vec.ts';
import { findCandidates } from './candidates.ts';
import { centreOn, reachOf } from './centre.ts';
import { colourGap, type PlanarFrame } from './frame.ts';
import type { Located, Sticker } from './sticker.ts';

/** Smears tried: directions over half a turn, and lengths in radii. */
const DIRECTIONS = 8;
const LENGTHS = [0, 1.2, 2.4, 3.6];
/** A smeared sticker covers as much as one at rest does, within this. */
const WHOLE = { from: 0.75, to: 1.3 };
const COLOUR_MISS = 0.45;

/**
 * The place of a sticker that may be smeared by a slow shutter: the smear that leaves it most whole and most of its own colour.
 * @param near within about a radius of it, px
 * @returns null where no smear makes a sticker of what is there
 */
export function centreSmeared(f: PlanarFrame, s: Sticker, near: ImagePoint): Located | null {
  let best: Located | null = null;
  let bestCost = Infinity;
  for (const length of LENGTHS) {
    const ways = length === 0 ? 1 : DIRECTIONS;
    for (let k = 0; k < ways; k += 1) {
      const a = (k / ways) * Math.PI;
      const blur = { x: length * s.radiusPx * Math.cos(a), y: length * s.radiusPx * Math.sin(a) };
      const found = centreOn(f, s, near, blur);
      if (!found || found.areaRatio < WHOLE.from || found.areaRatio > WHOLE.to) continue;
      if (found.colourMiss > COLOUR_MISS) continue;
      // The shorter smear is the likelier, where both explain it.
      const cost = Math.abs(Math.log(found.areaRatio)) + 0.5 * found.colourMiss + 0.04 * length;
      if (cost < bestCost) {
        bestCost = cost;
        best = found;
      }
    }
    if (best && bestCost < 0.12) break;
  }
  return best;
}

/** A smear that explains a smaller, paler spot is so many radii long. */
const SMEAR = { from: 0.9, to: 4 };

/**
 * Stickers on a frame that a slow shutter smears: a spot that a smear of the sharpest ones' look explains gets that look, since its
 * own is paler and smaller than it will be on a slower moment; one that could not be learned at all gets it too.
 * @param marks where each one is, px  @param learned what could be learned there
 * @param look the sharp look, where it is known
 */
export function unsmeared(
  f: PlanarFrame,
  marks: readonly ImagePoint[],
  learned: readonly (Sticker | null)[],
  look: Sticker | null = null,
): (Sticker | null)[] {
  const known = learned.filter((s): s is Sticker => s !== null).sort((a, b) => b.radiusPx - a.radiusPx);
  if (known.length < 2 && !look) return [...learned];
  const sharp = look ?? known[Math.floor(known.length / 4)];
  return learned.map((own, i) => {
    if (own && own.radiusPx > 0.96 * sharp.radiusPx) return own;
    const likeSharp = own !== null && colourGap(own.colour, sharp.colour) < PALER * sharp.contrast;
    if (likeSharp) return covered(f, own, sharp, marks[i]) ?? own;
    const reachPx = Math.ceil(1.5 * sharp.radiusPx);
    for (const c of findCandidates(f, sharp, { near: marks[i], reachPx, most: 2 })) {
      const found = centreSmeared(f, sharp, c);
      const long = (found?.smearPx ?? 0) / sharp.radiusPx;
      if (found && distance(found, marks[i]) < sharp.radiusPx && long > SMEAR.from && long < SMEAR.to)
        return { ...sharp, colour: [...sharp.colour], contrast: own?.contrast ?? sharp.contrast };
    }
    return own;
  });
}

/** A smeared sticker is paler by more than this share of what sets it off. */
const PALER = 0.07;
/** A sticker that reaches as far as a whole one and covers less is hidden in part: from this share of the reach, up to that of the area. */
const COVERED = { reach: 0.9, most: 0.85, least: 0.35 };

/** The look of a sticker of which a strap or a cable tie hides a part for good; null where it is simply smaller. */
function covered(f: PlanarFrame, own: Sticker, sharp: Sticker, mark: ImagePoint): Sticker | null {
  const seen = reachOf(f, sharp, mark);
  if (!seen || seen.reachPx < COVERED.reach * sharp.radiusPx) return null;
  const shown = seen.area / (Math.PI * sharp.radiusPx ** 2);
  return shown > COVERED.least && shown < COVERED.most
    ? { ...sharp, colour: [...own.colour], contrast: own.contrast, shown }
    : null;
}
