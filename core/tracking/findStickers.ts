import { mean } from '../math/statistics.ts';
import type { ImagePoint } from '../math/vec.ts';
import { findCandidates } from './candidates.ts';
import { centreOn } from './centre.ts';
import type { PlanarFrame } from './frame.ts';
import { learnSticker } from './learn.ts';
import type { Sticker } from './sticker.ts';

/** A round spot on a frame that looks like the sticker looked for. */
export interface Spot extends ImagePoint {
  /** 0…1: how whole it is and how much of its own colour. */
  sure: number;
}

/** As many as could be taped onto a rider, and some that only look like it. */
const MOST = 40;
/** A spot is another than its neighbour from this many radii on. */
const APART = 1.6;

/** All places of a frame that look like a sticker, the surest first. */
export function findStickers(frame: PlanarFrame, sticker: Sticker): Spot[] {
  const middle = { x: frame.width / 2, y: frame.height / 2 };
  const reach = Math.max(frame.width, frame.height) / 2;
  const spots: Spot[] = [];
  for (const c of findCandidates(frame, sticker, { near: middle, reachPx: reach, most: 4 * MOST })) {
    const found = centreOn(frame, sticker, c, { x: 0, y: 0 });
    if (!found || found.areaRatio < 0.6 || found.areaRatio > 1.5 || found.colourMiss > 0.5) continue;
    if (spots.some((s) => Math.hypot(s.x - found.x, s.y - found.y) < APART * sticker.radiusPx)) continue;
    const area = Math.max(0, 1 - Math.abs(Math.log(found.areaRatio)) / 0.6);
    spots.push({ x: found.x, y: found.y, sure: Math.sqrt(area * Math.max(0, 1 - found.colourMiss / 0.5)) });
  }
  return spots.sort((a, b) => b.sure - a.sure).slice(0, MOST);
}

/** Spots closer than this on the search's grid are one, px. */
const GRID_PX = 4;
/** What is fainter or smaller than this is no sticker that could be followed. */
const LEAST_CONTRAST = 32;
const LEAST_RADIUS_PX = 2.6;
/** How many looks are handed back: a tiled wall may have one of its own. */
const LOOKS = 4;

/**
 * Looks that could be the stickers' when none was pointed out: round spots are learned all over the frame and sorted by colour and
 * size; what comes often and stands out most comes first.
 */
export function looksOfFrame(frame: PlanarFrame): Sticker[] {
  const seen: { sticker: Sticker; at: ImagePoint }[] = [];
  for (let y = GRID_PX; y < frame.height - GRID_PX; y += GRID_PX) {
    for (let x = GRID_PX; x < frame.width - GRID_PX; x += GRID_PX) {
      if (!standsOut(frame, x, y)) continue;
      const found = learnSticker(frame, { x, y });
      if (!found || found.sticker.contrast < LEAST_CONTRAST || found.sticker.radiusPx < LEAST_RADIUS_PX)
        continue;
      if (Math.hypot(found.centre.x - x, found.centre.y - y) > 2 * GRID_PX) continue;
      if (seen.some((s) => Math.hypot(s.at.x - found.centre.x, s.at.y - found.centre.y) < 4)) continue;
      seen.push({ sticker: found.sticker, at: found.centre });
    }
  }
  const alike = (a: Sticker, b: Sticker): boolean =>
    Math.hypot(a.colour[0] - b.colour[0], 2 * (a.colour[1] - b.colour[1]), 2 * (a.colour[2] - b.colour[2])) <
      40 && Math.abs(Math.log(a.radiusPx / b.radiusPx)) < 0.3;
  const looks: { sticker: Sticker; worth: number }[] = [];
  const rest = [...seen];
  while (rest.length) {
    const like = rest.filter((s) => alike(s.sticker, rest[0].sticker));
    // The one in the middle of its kind stands for all.
    const sticker = [...like].sort((a, b) => a.sticker.radiusPx - b.sticker.radiusPx)[like.length >> 1]
      .sticker;
    const contrast = mean(like.map((l) => l.sticker.contrast));
    if (like.length >= 3) looks.push({ sticker, worth: Math.min(16, like.length) * contrast });
    for (const l of like) rest.splice(rest.indexOf(l), 1);
  }
  return looks
    .sort((a, b) => b.worth - a.worth)
    .slice(0, LOOKS)
    .map((l) => l.sticker);
}

/** Whether a place differs in colour or light from what is some pixels off on all four sides: worth a closer look. */
function standsOut(f: PlanarFrame, x: number, y: number): boolean {
  const D = 12;
  const luma = (i: number, j: number): number =>
    f.y[Math.min(f.height - 1, Math.max(0, j)) * f.yStride + Math.min(f.width - 1, Math.max(0, i))];
  const chroma = (i: number, j: number): number => {
    const k =
      (Math.min(f.height - 1, Math.max(0, j)) >> 1) * f.chromaStride +
      (Math.min(f.width - 1, Math.max(0, i)) >> 1) * f.chromaStep;
    return f.u[k] - f.v[k];
  };
  const [y0, c0] = [luma(x, y), chroma(x, y)];
  let sides = 0;
  for (const [dx, dy] of [
    [D, 0],
    [-D, 0],
    [0, D],
    [0, -D],
  ])
    if (Math.abs(luma(x + dx, y + dy) - y0) > 22 || Math.abs(chroma(x + dx, y + dy) - c0) > 18) sides += 1;
  return sides === 4;
}
