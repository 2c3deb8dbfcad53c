import { CAST, FRONTAL_CAST, type CastMember } from '../../sim/cast.ts';
import type { FrontalScene } from '../../sim/render/frontalScene.ts';
import type { Camera } from '../../sim/camera.ts';
import type { FilmSetting } from '../../sim/render/film.ts';
import type { Room } from '../../sim/render/rooms.ts';
import type { Look } from '../../sim/render/look.ts';
import type { Scene } from '../../sim/render/scene.ts';
import type { JointKey, VirtualRider } from '../../sim/rider.ts';

/** A film that is not shipped: one thing made harder than on the demo clips. */
export interface Variant {
  name: string;
  member: CastMember;
  frames: number;
  room?: Room;
}

interface Changes {
  camera?: Partial<Camera>;
  rider?: Partial<VirtualRider>;
  look?: Partial<Look>;
  film?: Partial<FilmSetting>;
  /** What else is in the scene: straps, a mirror, somebody behind. */
  scene?: Partial<Scene>;
  room?: Room;
}

/** A film of one of the cast with some things otherwise. */
export function variant(name: string, base: string, frames: number, c: Changes): Variant {
  const m = CAST.find((k) => k.id === base)!;
  return {
    name,
    frames,
    room: c.room,
    member: {
      ...m,
      scene: {
        ...m.scene,
        camera: { ...m.scene.camera, ...c.camera },
        rider: { ...m.scene.rider, ...c.rider },
        look: { ...m.scene.look, ...c.look },
        ...c.scene,
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

/** Bare joints: no sticker on these, only what skin, cloth and shoe look like. */
const bare = (...keys: JointKey[]): Partial<Look> => ({
  stickerOn: Object.fromEntries(keys.map((k) => [k, null])),
});

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
    scene: { strap: { colour: [60, 52, 48], atThetaDeg: 60, halfWidthDeg: 20, over: 'hip' } },
  }),
  variant('120 frames/s', 'maren', 190, { film: { framesPerS: 120, subFrames: 1 } }),
  variant('noise σ 12 grey levels', 'maren', 110, { film: { noiseSigma: 12 } }),
];

/** Further films for the published tables: the other postures, rates, sides and yaws. */
export const MORE: readonly Variant[] = [
  variant('city posture, camera yaw 1°', 'idris', 110, { camera: { yawDeg: 1 } }),
  variant('city posture, 30 frames/s', 'idris', 60, { film: { framesPerS: 30 } }),
  variant('city posture, 120 frames/s, chain side', 'idris', 210, {
    camera: { facing: 'right' },
    film: { framesPerS: 120, subFrames: 1 },
  }),
  variant('time-trial posture, camera yaw 2°', 'juno', 90, { camera: { yawDeg: 2 } }),
  variant('time-trial posture, 30 frames/s, facing left', 'juno', 50, {
    camera: { facing: 'left' },
    film: { framesPerS: 30 },
  }),
  variant('time-trial posture, 120 frames/s', 'juno', 170, { film: { framesPerS: 120, subFrames: 1 } }),
  variant('camera yaw 0°', 'pilar', 120, { camera: { yawDeg: 0 } }),
  variant('camera yaw 3°, facing left', 'pilar', 120, { camera: { yawDeg: 3, facing: 'left' } }),
  variant('camera yaw 5°', 'maren', 110, { camera: { yawDeg: 5 } }),
];

/** Films on which some joints carry no sticker: they are followed by their looks, and drift. */
export const BARE: readonly Variant[] = [
  variant('no sticker on the hip', 'maren', 110, { look: bare('hip') }),
  variant('no sticker on shoulder and elbow', 'maren', 110, { look: bare('shoulder', 'elbow') }),
  variant('no sticker on knee and wrist', 'pilar', 120, { look: bare('knee', 'wrist') }),
];

/** Rooms and cameras as they are (handbook: how people pedal). */
export const ROOMS: readonly Variant[] = [
  variant('lamps flicker, ± 12 %', 'maren', 110, { room: { flicker: 0.12 } }),
  variant('exposure drifts by a third', 'maren', 110, { room: { drift: 0.33 } }),
  variant('shutter 1/60 s at 30 frames/s', 'maren', 70, {
    film: { framesPerS: 30, shutterS: 1 / 60, subFrames: 10 },
  }),
  variant('the tripod trembles, 0.6 px', 'maren', 110, { room: { tremblePx: 0.6 } }),
  variant('the tripod is knocked once, 6 px', 'maren', 110, { room: { knock: { atS: 0.8, byPx: 6 } } }),
  variant('somebody walks behind, dotted like the stickers', 'maren', 110, {
    scene: { walker: { fromMm: -900, mmPerS: 1000 } },
  }),
  variant('an arm over the knee, 80 ms a stroke', 'maren', 110, {
    scene: { strap: { colour: [176, 138, 116], atThetaDeg: 200, halfWidthDeg: 20, over: 'knee' } },
  }),
  variant('every 12th frame doubled', 'maren', 110, { room: { doubledEvery: 12 } }),
  variant('every 9th frame dropped', 'maren', 100, { room: { droppedEvery: 9 } }),
];

/** A film from ahead or behind. */
export interface FrontalVariant {
  name: string;
  scene: FrontalScene;
  film: FilmSetting;
  frames: number;
}

function frontalVariant(
  name: string,
  {
    base,
    of,
    view,
    frames,
    c = {},
  }: {
    base: string;
    of: string;
    view: 'front' | 'rear';
    frames: number;
    c?: { camera?: Partial<Camera>; film?: Partial<FilmSetting> };
  },
): FrontalVariant {
  const m = FRONTAL_CAST.find((k) => k.id === base)!;
  const { scene } = CAST.find((k) => k.id === of)!;
  return {
    name,
    frames,
    scene: {
      ...m.scene,
      view,
      rider: scene.rider,
      bike: scene.bike,
      look: scene.look,
      camera: { ...m.scene.camera, ...c.camera },
    },
    film: { ...m.film, ...c.film },
  };
}

/** Films from the front and the rear: riders, rates, and a camera not quite straight ahead. */
export const FRONTAL: readonly FrontalVariant[] = [
  frontalVariant('front, 60 frames/s', { base: 'idris-front', of: 'idris', view: 'front', frames: 160 }),
  frontalVariant('rear, 60 frames/s', { base: 'juno-rear', of: 'juno', view: 'rear', frames: 130 }),
  frontalVariant('front, 30 frames/s', {
    base: 'idris-front',
    of: 'maren',
    view: 'front',
    frames: 75,
    c: { film: { framesPerS: 30 } },
  }),
  frontalVariant('rear, 120 frames/s', {
    base: 'juno-rear',
    of: 'pilar',
    view: 'rear',
    frames: 340,
    c: {
      film: { framesPerS: 120, subFrames: 1 },
    },
  }),
  frontalVariant('front, yaw 2°', {
    base: 'idris-front',
    of: 'idris',
    view: 'front',
    frames: 160,
    c: { camera: { yawDeg: 2 } },
  }),
  frontalVariant('rear, yaw 3°', {
    base: 'juno-rear',
    of: 'maren',
    view: 'rear',
    frames: 150,
    c: { camera: { yawDeg: 3 } },
  }),
];
