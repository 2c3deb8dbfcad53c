import type { Vec2 } from '../../core/math/vec.ts';
import type { JointKey } from '../rider.ts';
import { fillLimb, type Raster, type Rgb } from './raster.ts';

/** A bar across the picture (a hand, a strap) that moves with the stroke and hides what is behind it. */
export interface Strap {
  colour: Rgb;
  /** Hidden while the crank is within this many degrees of `atThetaDeg`. */
  atThetaDeg: number;
  halfWidthDeg: number;
  over: JointKey;
  /** A cable tie: so thin, and beside the middle by so much, px. */
  thin?: { radiusPx: number; offsetPx: number };
}

interface End {
  at: Vec2;
  radiusPx: number;
}

/** The two ends of the bar over a joint on the picture. */
function barOf({ thin }: Strap, { x, y }: Vec2): [End, End] {
  return thin
    ? [
        { at: { x: x - 24, y: y + thin.offsetPx - 3 }, radiusPx: thin.radiusPx },
        { at: { x: x + 24, y: y + thin.offsetPx + 3 }, radiusPx: thin.radiusPx },
      ]
    : [
        { at: { x: x - 60, y: y - 18 }, radiusPx: 17 },
        { at: { x: x + 26, y: y + 4 }, radiusPx: 15 },
      ];
}

const isThere = (s: Strap, thetaDeg: number): boolean =>
  Math.abs(((((thetaDeg - s.atThetaDeg + 180) % 360) + 360) % 360) - 180) < s.halfWidthDeg;

export function drawStrap(r: Raster, s: Strap, thetaDeg: number, joint: Vec2): void {
  if (!isThere(s, thetaDeg)) return;
  const [a, b] = barOf(s, joint);
  fillLimb(r, a, b, { colour: s.colour, roundness: s.thin ? 0.2 : 0.4 });
}

const GRID = 24;

/** How much of a round sticker the strap leaves to be seen, 0…1. */
export function shownUnder(s: Strap, thetaDeg: number, sticker: Vec2, radiusPx: number): number {
  if (!isThere(s, thetaDeg)) return 1;
  const [a, b] = barOf(s, sticker);
  const along = { x: b.at.x - a.at.x, y: b.at.y - a.at.y };
  const long2 = along.x ** 2 + along.y ** 2;
  let [seen, all] = [0, 0];
  for (let j = 0; j < GRID; j += 1)
    for (let i = 0; i < GRID; i += 1) {
      const [dx, dy] = [(2 * (i + 0.5)) / GRID - 1, (2 * (j + 0.5)) / GRID - 1];
      if (dx * dx + dy * dy > 1) continue;
      all += 1;
      const p = { x: sticker.x + radiusPx * dx - a.at.x, y: sticker.y + radiusPx * dy - a.at.y };
      const share = Math.min(1, Math.max(0, (p.x * along.x + p.y * along.y) / long2));
      const off = Math.hypot(p.x - share * along.x, p.y - share * along.y);
      if (off > a.radiusPx + share * (b.radiusPx - a.radiusPx)) seen += 1;
    }
  return seen / all;
}
