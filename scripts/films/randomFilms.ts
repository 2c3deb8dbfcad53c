import { CAST } from '../../sim/cast.ts';
import { seededRandom } from '../../sim/random.ts';
import { SKIN } from '../../sim/render/look.ts';
import type { Rgb } from '../../sim/render/raster.ts';
import type { HardFilm } from '../accuracy/hardFilms.ts';

const STICKERS: readonly Rgb[] = [
  [238, 214, 60],
  [64, 196, 170],
  [240, 240, 236],
  [232, 110, 52],
  [226, 84, 150],
  [96, 200, 84],
  [30, 32, 36],
];
const CLOTH: readonly Rgb[] = [
  [44, 46, 54],
  [36, 56, 96],
  [92, 116, 124],
  [160, 60, 52],
  [120, 124, 128],
  [70, 96, 66],
  [190, 186, 176],
];
const WALLS: readonly Rgb[] = [
  [176, 170, 160],
  [150, 164, 172],
  [196, 192, 184],
  [140, 132, 124],
];
const RATES = [30, 60, 60, 60, 120];

const gap = (a: Rgb, b: Rgb): number => Math.hypot(a[0] - b[0], a[1] - b[1], a[2] - b[2]);

/**
 * A film of a rider, in clothes, a room and by a camera drawn at random: posture, size, colours, side, noise and rate. Stickers differ
 * from what they are taped to, as a fitter would choose them.
 */
export function randomFilm(seed: number): HardFilm {
  const random = seededRandom(7919 * seed + 13);
  const between = (a: number, b: number): number => a + (b - a) * random();
  const one = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length) % list.length];
  const base = one(CAST);
  const skin = one(SKIN);
  const [shorts, jersey, shoe] = [one(CLOTH), one(CLOTH), one(CLOTH)];
  const fits = STICKERS.filter((s) => [skin, shorts, jersey, shoe].every((c) => gap(s, c) > 75));
  const sticker = fits.length > 0 ? one(fits) : STICKERS[0];
  const framesPerS = one(RATES);
  const slow = random() < 0.25;
  // Open no longer than a frame lasts.
  const shutterS = Math.min(slow ? between(1 / 125, 1 / 60) : between(1 / 1000, 1 / 300), 1 / framesPerS);
  const cadenceRpm = between(62, 98);
  const mmPerPx = between(2.3, 3.1);
  const { scene } = base;
  return {
    name: `film ${seed}`,
    frames: Math.ceil(1.2 * framesPerS),
    room: {},
    member: {
      ...base,
      film: {
        framesPerS,
        shutterS,
        subFrames: slow ? 8 : 2,
        noiseSigma: between(1, 8),
        seed: seed + 1,
      },
      scene: {
        ...scene,
        camera: {
          ...scene.camera,
          mmPerPx,
          distanceMm: between(3600, 6000),
          yawDeg: between(-3, 3),
          rollDeg: between(-0.8, 0.8),
          facing: random() < 0.5 ? 'right' : 'left',
          aimMm: { x: between(0, 120), y: between(380, 460) },
        },
        rider: {
          ...scene.rider,
          cadenceRpm,
          startThetaDeg: between(0, 360),
          backDeg: scene.rider.backDeg + between(-4, 4),
          elbowFlexionDeg: scene.rider.elbowFlexionDeg + between(-5, 8),
          footPitchMeanDeg: between(8, 22),
        },
        look: {
          ...scene.look,
          skin,
          shorts,
          jersey,
          shoe,
          sticker,
          wall: one(WALLS),
          frame: one(CLOTH),
          stickerRadiusMm: between(9, 14),
          shortsTo: random() < 0.2 ? 1.2 : between(0.6, 0.75),
          weave: between(0.02, 0.08),
          extras: [],
        },
      },
    },
  };
}
