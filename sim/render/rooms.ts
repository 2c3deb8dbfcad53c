import type { Vec2 } from '../../core/math/vec.ts';
import { seededRandom, gaussian } from '../random.ts';
import { newRaster, type Raster } from './raster.ts';

/** What rooms and cameras do to a film (handbook: how people pedal, rooms). */
export interface Room {
  /** Lamps at twice the mains, share of the light that comes and goes. */
  flicker?: number;
  /** Exposure that drifts by so much of itself, once in four seconds. */
  drift?: number;
  /** A tripod that trembles, SD in pixels, and one that is knocked at a time. */
  tremblePx?: number;
  knock?: { atS: number; byPx: number };
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
  return { x: tremble * swing(11) + knock, y: tremble * swing(12) + 0.4 * knock };
}

/** How bright a frame is against the room's usual light. */
function gainAt(room: Room, tS: number, shutterS: number): number {
  // Over the open shutter a lamp's ripple averages out in part.
  const x = Math.PI * 2 * MAINS_HZ * shutterS;
  const left = x > 0 ? Math.abs(Math.sin(x) / x) : 1;
  const flicker = (room.flicker ?? 0) * left * Math.sin(2 * Math.PI * 2 * MAINS_HZ * tS + 1);
  return (1 + flicker) * (1 + (room.drift ?? 0) * Math.sin((2 * Math.PI * tS) / DRIFT_S));
}

/** A camera in such a room: `shoot(i)` gives the film's frame i. */
export function inRoom(
  film: { shoot: (i: number) => Raster },
  room: Room,
  of: { framesPerS: number; shutterS: number },
): { shoot: (i: number) => Raster } {
  let out: Raster | null = null;
  return {
    shoot(i) {
      const { shows } = written(room, i);
      const tS = shows / of.framesPerS;
      const seen = film.shoot(shows);
      out ??= newRaster(seen.width, seen.height);
      const { x: dx, y: dy } = shiftPx(room, tS);
      const gain = gainAt(room, tS, of.shutterS);
      const { width, height } = seen;
      for (let y = 0; y < height; y += 1) {
        const sy = Math.min(height - 2, Math.max(0, y - dy));
        const y0 = Math.floor(sy);
        const fy = sy - y0;
        for (let x = 0; x < width; x += 1) {
          const sx = Math.min(width - 2, Math.max(0, x - dx));
          const x0 = Math.floor(sx);
          const fx = sx - x0;
          const k = 3 * (y0 * width + x0);
          const to = 3 * (y * width + x);
          for (let c = 0; c < 3; c += 1) {
            const top = seen.rgb[k + c] * (1 - fx) + seen.rgb[k + 3 + c] * fx;
            const low = seen.rgb[k + 3 * width + c] * (1 - fx) + seen.rgb[k + 3 * width + 3 + c] * fx;
            out.rgb[to + c] = Math.min(255, gain * (top * (1 - fy) + low * fy) + 0.5);
          }
        }
      }
      return out;
    },
  };
}
