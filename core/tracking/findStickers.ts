import type { ImagePoint } from '../math/vec.ts';
import { findCandidates } from './candidates.ts';
import { centreOn } from './centre.ts';
import type { PlanarFrame } from './frame.ts';
import { centreSmeared } from './smeared.ts';
import type { Sticker } from './sticker.ts';

/** A round spot on a frame that looks like the sticker looked for. */
export interface Spot extends ImagePoint {
  /** 0…1: how whole it is and how much of its own colour. */
  sure: number;
}

/** As many as could be taped onto a rider, and some that only look like it. */
const MOST = 40;
/** So many of the likeliest places are looked at for a smeared one too. */
const SMEARED = 30;
/** What only a smear makes a sticker may be something else. */
const SMEARED_SURE = 0.6;
/** What stands out from a dark trouser far and from skin a little is looked for by both: so much less than it stands out at most. */
const PALER = 0.5;
const PALER_FROM = 70;
/** A spot is another than its neighbour from this many radii on. */
const APART = 1.6;

/**
 * All places of a frame that look like a sticker, the surest first.
 * @param pale those too that stand out by half as much
 */
export function findStickers(frame: PlanarFrame, sticker: Sticker, pale = true): Spot[] {
  const middle = { x: frame.width / 2, y: frame.height / 2 };
  const reach = Math.max(frame.width, frame.height) / 2;
  const spots: Spot[] = [];
  const everywhere = { near: middle, reachPx: reach, most: 4 * MOST };
  const candidates = findCandidates(frame, sticker, everywhere);
  if (pale && sticker.contrast > PALER_FROM)
    candidates.push(...findCandidates(frame, { ...sticker, contrast: PALER * sticker.contrast }, everywhere));
  for (const [k, c] of candidates.entries()) {
    const still = centreOn(frame, sticker, c, { x: 0, y: 0 });
    const whole = still && still.areaRatio >= 0.6 && still.areaRatio <= 1.5 && still.colourMiss <= 0.5;
    const found = whole ? still : k < SMEARED ? centreSmeared(frame, sticker, c) : null;
    if (!found) continue;
    if (spots.some((s) => Math.hypot(s.x - found.x, s.y - found.y) < APART * sticker.radiusPx)) continue;
    const area = Math.max(0, 1 - Math.abs(Math.log(found.areaRatio)) / 0.6);
    const looks = Math.sqrt(area * Math.max(0, 1 - found.colourMiss / 0.5));
    spots.push({ x: found.x, y: found.y, sure: whole ? looks : SMEARED_SURE * looks });
  }
  return spots.sort((a, b) => b.sure - a.sure).slice(0, MOST);
}
