import type { Vec2 } from '../../core/math/vec.ts';
import { seededRandom, gaussian } from '../random.ts';
import type { FilmCamera } from './film.ts';
import { newRaster, type Raster } from './raster.ts';

/** What rooms and cameras do to a film (handbook: how people pedal, rooms). */
export interface Room {
  /** Lamps at twice the mains, share of the light that comes and goes. */
  flicker?: number;
  /** Exposure that drifts by so much of itself, once in four seconds. */
  drift?: number;
  /** Exposure that goes down steadily, by such a share over so many seconds. */
  fade?: { by: number; overS: number };
  /** A tripod that trembles, SD in pixels, and one that is knocked at a time. */
  tremblePx?: number;
  knock?: { atS: number; byPx: number };
  /** A tripod that was pushed: the picture stays elsewhere from then on. */
  pushed?: { atS: number; byPx: number };
  /** Strong compression: waves of 8 × 8 blocks are kept in steps of so many grey levels, finer ones in coarser steps. */
  blockStep?: number;
  /** Low sun through a window: a slanting beam brighter by such a share, all else darker. */
  sun?: number;
  /** Every so many frames one is written twice (its picture stays, its stamp is new), or left out. */
  doubledEvery?: number;
  droppedEvery?: number;
}

const MAINS_HZ = 50;
const DRIFT_S = 4;
const TREMBLE_HZ = 7;

/** Which of the camera's exposures the film's frame i shows, and at which of its stamps it is written. */
export function written(room: Room, i: number): { shows: number; stamp: number } {
  const dropped = room.droppedEvery ? Math.floor(i / (room.droppedEvery - 1)) : 0;
  const stamp = i + dropped;
  const doubled = room.doubledEvery !== undefined && i > 0 && i % room.doubledEvery === 0;
  return { shows: doubled ? stamp - 1 : stamp, stamp };
}

/** By how much the picture stands elsewhere, px. */
export function shiftPx(room: Room, tS: number): Vec2 {
  const swing = (seed: number): number => {
    const random = seededRandom(seed);
    return [1, 1.7, 2.3].reduce(
      (s, k) =>
        s + Math.sin(2 * Math.PI * (TREMBLE_HZ / k) * tS + 6.28 * random()) * (1 + 0.2 * gaussian(random)),
      0,
    );
  };
  // Three sines have an SD of 1.22.
  const tremble = (room.tremblePx ?? 0) / 1.22;
  const since = tS - (room.knock?.atS ?? Infinity);
  const knock =
    since > 0 ? room.knock!.byPx * Math.exp(-since / 0.25) * Math.cos(2 * Math.PI * 5 * since) : 0;
  const pushed = tS >= (room.pushed?.atS ?? Infinity) ? room.pushed!.byPx : 0;
  return { x: tremble * swing(11) + knock + pushed, y: tremble * swing(12) + 0.4 * knock + 0.4 * pushed };
}

/** How bright a frame is against the room's usual light. */
function gainAt(room: Room, tS: number, shutterS: number): number {
  // Over the open shutter a lamp's ripple averages out in part.
  const x = Math.PI * 2 * MAINS_HZ * shutterS;
  const left = x > 0 ? Math.abs(Math.sin(x) / x) : 1;
  const flicker = (room.flicker ?? 0) * left * Math.sin(2 * Math.PI * 2 * MAINS_HZ * tS + 1);
  const faded = 1 - (room.fade ? room.fade.by * Math.min(1, tS / room.fade.overS) : 0);
  return (1 + flicker) * (1 + (room.drift ?? 0) * Math.sin((2 * Math.PI * tS) / DRIFT_S)) * faded;
}

/** The beam's share at a place: bright between two slanting lines, with soft edges. */
function sunAt(room: Room, x: number, y: number, width: number): number {
  if (!room.sun) return 1;
  const along = (x + 0.6 * y) / width;
  const inside =
    Math.min(1, Math.max(0, 12 * (along - 0.42))) * Math.min(1, Math.max(0, 12 * (0.72 - along)));
  return 1 - 0.5 * room.sun + 1.5 * room.sun * inside;
}

const BLOCK = 8;
const WAVES = Array.from({ length: BLOCK }, (_, k) =>
  Float64Array.from(
    { length: BLOCK },
    (_, n) => Math.sqrt((k === 0 ? 1 : 2) / BLOCK) * Math.cos(((2 * n + 1) * k * Math.PI) / (2 * BLOCK)),
  ),
);

/** Keeps each 8 × 8 block's waves in whole steps, as lossy codecs do, channel by channel. */
function inBlocks(r: Raster, step: number): void {
  const block = new Float64Array(BLOCK * BLOCK);
  const half = new Float64Array(BLOCK * BLOCK);
  const waves = new Float64Array(BLOCK * BLOCK);
  const turned = (from: Float64Array, to: Float64Array, back: boolean): void => {
    for (let i = 0; i < BLOCK; i += 1)
      for (let k = 0; k < BLOCK; k += 1) {
        let s = 0;
        for (let n = 0; n < BLOCK; n += 1) s += from[i * BLOCK + n] * (back ? WAVES[n][k] : WAVES[k][n]);
        to[k * BLOCK + i] = s;
      }
  };
  for (let by = 0; by + BLOCK <= r.height; by += BLOCK)
    for (let bx = 0; bx + BLOCK <= r.width; bx += BLOCK)
      for (let c = 0; c < 3; c += 1) {
        for (let n = 0; n < block.length; n += 1)
          block[n] = r.rgb[3 * ((by + (n >> 3)) * r.width + bx + (n & 7)) + c];
        turned(block, half, false);
        turned(half, waves, false);
        for (let n = 0; n < waves.length; n += 1) {
          const q = step * (1 + 0.35 * ((n >> 3) + (n & 7)));
          waves[n] = q * Math.round(waves[n] / q);
        }
        turned(waves, half, true);
        turned(half, block, true);
        for (let n = 0; n < block.length; n += 1)
          r.rgb[3 * ((by + (n >> 3)) * r.width + bx + (n & 7)) + c] = Math.max(
            0,
            Math.min(255, block[n] + 0.5),
          );
      }
}

/** The picture as it stands, in another light; its last row and column show those before them. */
function lit(seen: Raster, { rgb: to }: Raster, gain: number): void {
  const { width, height, rgb } = seen;
  const line = 3 * width;
  const shades = Uint8ClampedArray.from({ length: 256 }, (_, v) => Math.min(255, gain * v + 0.5));
  for (let k = 0; k < rgb.length; k += 1) to[k] = shades[rgb[k]];
  to.copyWithin((height - 1) * line, (height - 2) * line, (height - 1) * line);
  for (let end = line; end <= to.length; end += line) to.copyWithin(end - 3, end - 6, end - 3);
}

/** The picture as it stands elsewhere by so much, in a light that is not the same everywhere. */
function moved(seen: Raster, out: Raster, by: Vec2, lightAt: (x: number, y: number) => number): void {
  const { width, height } = seen;
  for (let y = 0; y < height; y += 1) {
    const sy = Math.min(height - 2, Math.max(0, y - by.y));
    const y0 = Math.floor(sy);
    const fy = sy - y0;
    for (let x = 0; x < width; x += 1) {
      const sx = Math.min(width - 2, Math.max(0, x - by.x));
      const x0 = Math.floor(sx);
      const fx = sx - x0;
      const k = 3 * (y0 * width + x0);
      const to = 3 * (y * width + x);
      const light = lightAt(x, y);
      for (let c = 0; c < 3; c += 1) {
        const top = seen.rgb[k + c] * (1 - fx) + seen.rgb[k + 3 + c] * fx;
        const low = seen.rgb[k + 3 * width + c] * (1 - fx) + seen.rgb[k + 3 * width + 3 + c] * fx;
        out.rgb[to + c] = Math.min(255, light * (top * (1 - fy) + low * fy) + 0.5);
      }
    }
  }
}

/** A camera in such a room: `shoot(i)` gives the film's frame i. */
export function inRoom(
  film: FilmCamera,
  room: Room,
  of: { framesPerS: number; shutterS: number },
): FilmCamera {
  let out: Raster | null = null;
  return {
    shoot(i) {
      const { shows } = written(room, i);
      const tS = shows / of.framesPerS;
      const seen = film.shoot(shows);
      out ??= newRaster(seen.width, seen.height);
      const by = shiftPx(room, tS);
      const gain = gainAt(room, tS, of.shutterS);
      if (by.x === 0 && by.y === 0 && !room.sun) lit(seen, out, gain);
      else moved(seen, out, by, (x, y) => gain * sunAt(room, x, y, seen.width));
      if (room.blockStep) inBlocks(out, room.blockStep);
      return out;
    },
  };
}
