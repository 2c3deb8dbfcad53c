import { CAST, type CastMember } from '../../sim/cast.ts';
import type { Camera } from '../../sim/camera.ts';
import type { FilmSetting } from '../../sim/render/film.ts';
import type { Look, Strap } from '../../sim/render/scene.ts';
import type { VirtualRider } from '../../sim/rider.ts';

/** A film that is not shipped: one thing made harder than on the demo clips. */
export interface Variant {
  name: string;
  member: CastMember;
  frames: number;
}

interface Changes {
  camera?: Partial<Camera>;
  rider?: Partial<VirtualRider>;
  look?: Partial<Look>;
  film?: Partial<FilmSetting>;
  strap?: Strap;
}

function variant(name: string, base: string, frames: number, c: Changes): Variant {
  const m = CAST.find((k) => k.id === base)!;
  return {
    name,
    frames,
    member: {
      ...m,
      scene: {
        ...m.scene,
        camera: { ...m.scene.camera, ...c.camera },
        rider: { ...m.scene.rider, ...c.rider },
        look: { ...m.scene.look, ...c.look },
        strap: c.strap,
      },
      film: { ...m.film, ...c.film },
    },
  };
}

/** Tights a little lighter than their stickers: about 20 grey levels apart. */
const DARK: Partial<Look> = {
  shorts: [66, 68, 74],
  shortsTo: 1.2,
  jersey: [72, 76, 84],
  sleeveTo: 1.1,
  shoe: [80, 80, 84],
  sole: [112, 104, 96],
  skin: [74, 76, 82],
  sticker: [30, 32, 36],
};

/** The films on which the tracker must hold, each long enough for two whole strokes. */
export const VARIANTS: readonly Variant[] = [
  variant('facing left', 'maren', 110, { camera: { facing: 'left' } }),
  variant('30 frames/s, 95 rpm, shutter 1/90 s', 'maren', 70, {
    rider: { cadenceRpm: 95 },
    film: { framesPerS: 30, shutterS: 1 / 90, subFrames: 6 },
  }),
  variant('dark stickers on dark tights', 'maren', 110, { look: DARK, film: { noiseSigma: 2.5 } }),
  variant('camera yaw 4°', 'maren', 110, { camera: { yawDeg: 4 } }),
  variant('strap hides the hip, 80 ms a stroke', 'maren', 110, {
    strap: { colour: [60, 52, 48], atThetaDeg: 60, halfWidthDeg: 20, over: 'hip' },
  }),
  variant('120 frames/s', 'maren', 190, { film: { framesPerS: 120, subFrames: 1 } }),
  variant('noise σ 12 grey levels', 'maren', 110, { film: { noiseSigma: 12 } }),
];
