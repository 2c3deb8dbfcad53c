import { CAST } from '../../sim/cast.ts';
import type { FilmSetting } from '../../sim/render/film.ts';
import type { Room } from '../../sim/render/rooms.ts';
import { variant, type Variant } from './variants.ts';

/** A film as rooms and phones make them. */
export type HardFilm = Variant & { room: Room };

/** A variant so many seconds long, in a room of its own. */
function hard(name: string, of: string, seconds: number, c: Parameters<typeof variant>[3]): HardFilm {
  const one = variant(name, of, 0, c);
  return { ...one, frames: Math.round(seconds * one.member.film.framesPerS), room: c.room ?? {} };
}

const SLOW: Partial<FilmSetting> = { framesPerS: 30, shutterS: 1 / 60, subFrames: 8, noiseSigma: 9 };

const PILAR_STICKER = CAST.find((k) => k.id === 'pilar')!.scene.look.sticker;

/** Films on which a proposal and a tracker made for laboratories fail. */
export const HARD: readonly HardFilm[] = [
  hard('30 frames/s, 97 rpm, shutter 1/60 s, noise σ 9', 'maren', 4, {
    rider: { cadenceRpm: 97 },
    film: SLOW,
  }),
  hard('lamps flicker 12 % at 100 Hz, exposure falls by 35 %, σ 7', 'pilar', 4, {
    film: { noiseSigma: 7 },
    room: { flicker: 0.12, fade: { by: 0.35, overS: 4 } },
  }),
  hard('a sticker two thirds covered on the first frames', 'idris', 3, {
    scene: {
      strap: {
        colour: [60, 52, 48],
        atThetaDeg: 35,
        halfWidthDeg: 24,
        over: 'knee',
        thin: { radiusPx: 4, offsetPx: 1 },
      },
    },
  }),
  hard('16 mm stickers, 30 frames/s, strong compression', 'juno', 4, {
    look: { stickerRadiusMm: 8 },
    film: { framesPerS: 30, shutterS: 1 / 250, subFrames: 4 },
    room: { blockStep: 14 },
  }),
  hard('a person in the stickers’ colour walks behind', 'maren', 4, {
    scene: { walker: { fromMm: -1100, mmPerS: 500 } },
  }),
  hard('every 11th frame doubled', 'pilar', 4, { room: { doubledEvery: 11 } }),
  hard('tripod pushed by 9 px', 'maren', 4, { room: { pushed: { atS: 2.2, byPx: 9 } } }),
  hard('stickers of two sizes', 'idris', 3, {
    look: { stickerRadiusMm: 14, stickerRadiusOnMm: { ankle: 9, heel: 9, toe: 9 } },
  }),
  hard('a striped jersey in the stickers’ colour', 'pilar', 3, { look: { stripes: PILAR_STICKER } }),
  hard('a mirror on the wall', 'maren', 3, {
    scene: { mirror: { x: 0.02, y: 0.06, width: 0.3, height: 0.36 } },
  }),
  hard('low sun', 'juno', 3, { room: { sun: 0.35 } }),
  hard('a cable tie over the ankle', 'maren', 3, {
    scene: {
      strap: {
        colour: [40, 40, 42],
        atThetaDeg: 0,
        halfWidthDeg: 181,
        over: 'ankle',
        thin: { radiusPx: 1.5, offsetPx: 2 },
      },
    },
  }),
];
