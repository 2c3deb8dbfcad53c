import { crankAngleDeg, hoodMm, poseAt, type VirtualRider } from './rider.ts';
import type { Camera } from './camera.ts';
import { seated } from './human.ts';
import { FRONTAL_BODY, type FrontalBody } from './frontal.ts';
import type { FrontalScene } from './render/frontalScene.ts';
import type { Look, VirtualBike } from './render/look.ts';
import type { Scene } from './render/scene.ts';
import type { Rgb } from './render/raster.ts';
import type { FilmSetting } from './render/film.ts';

/** One of the four made-up riders, as the virtual camera meets them. */
export interface CastMember {
  id: string;
  scene: Scene;
  film: FilmSetting;
  seconds: number;
  container: 'webm' | 'mp4';
}

const LEG: Omit<VirtualRider, 'hipMm' | 'backDeg' | 'shoulderDeg' | 'elbowFlexionDeg' | 'cadenceRpm'> = {
  crankMm: 172.5,
  thighMm: 425,
  shankMm: 425,
  ankleBehindMm: 125,
  ankleAboveMm: 95,
  soleAboveMm: 24,
  heelBehindMm: 168,
  shoeTipMm: 82,
  // As people pedal (handbook): toes furthest down at 275°, the hip highest near the top.
  hipRockX: [{ order: 1, amplitude: 2, phaseDeg: 20 }],
  hipRockY: [
    { order: 1, amplitude: 3.5, phaseDeg: 95 },
    { order: 2, amplitude: 0.8, phaseDeg: 200 },
  ],
  footPitchMeanDeg: 15,
  footPitch: [
    { order: 1, amplitude: 11, phaseDeg: 175 },
    { order: 2, amplitude: 1, phaseDeg: 60 },
  ],
  trunkMm: 480,
  upperArmMm: 285,
  forearmMm: 255,
  startThetaDeg: 35,
  unevenness: 0.02,
  wanderDeg: 1.1,
  foreshortening: 0.01,
  hipSkinMm: 22,
};

/** A rider on the saddle that gives these figures, as the cast's misfits want them. */
function on(
  rider: Omit<VirtualRider, 'hipMm'>,
  at: { kneeFlexionMinDeg: number; kneeOverSpindleMm: number },
): VirtualRider {
  const legMm = rider.thighMm + rider.shankMm;
  const sits = seated({ ...rider, hipMm: { x: -0.235 * legMm, y: 0.82 * legMm } }, at);
  if (!sits) throw new Error('One of the cast cannot reach the pedals.');
  return sits;
}

/** A bike drawn to fit its rider: saddle under the hip, head tube below the hands. */
export function bikeFor(rider: VirtualRider, wheelbaseMm: number, wheelRadiusMm = 342): VirtualBike {
  const chainstayMm = 428;
  const dropMm = 70;
  const rearAxle = { x: -Math.sqrt(chainstayMm ** 2 - dropMm ** 2), y: dropMm };
  const hood = hoodMm(rider);
  const headTop = { x: Math.min(hood.x - 130, 420), y: Math.min(hood.y - 30, 620) };
  return {
    rearAxle,
    frontAxle: { x: rearAxle.x + wheelbaseMm, y: dropMm },
    wheelRadiusMm,
    saddleTop: { x: rider.hipMm.x - 25, y: rider.hipMm.y - 92 },
    headTop,
    headBottom: { x: headTop.x + 38, y: headTop.y - 130 },
  };
}

const CAMERA: Camera = {
  widthPx: 1280,
  heightPx: 720,
  distanceMm: 5000,
  mmPerPx: 2.55,
  aimMm: { x: 60, y: 420 },
  centreShare: { x: 0.5, y: 0.5 },
  yawDeg: 0.6,
  rollDeg: 0.3,
  facing: 'right',
};

const FILM: FilmSetting = { framesPerS: 60, shutterS: 1 / 500, subFrames: 2, noiseSigma: 1.6, seed: 1 };

const ROOM = { wall: [176, 170, 160] as Rgb, floor: [140, 118, 96] as Rgb };

const LOOK: Look = {
  ...ROOM,
  skin: [206, 160, 132],
  shorts: [44, 46, 54],
  jersey: [92, 116, 124],
  shoe: [70, 72, 78],
  sole: [46, 46, 46],
  helmet: [214, 210, 200],
  frame: [126, 74, 60],
  sticker: [238, 214, 60],
  stickerRadiusMm: 13,
  shortsTo: 0.68,
  sleeveTo: 0.55,
  weave: 0.05,
};

function member(
  id: string,
  rider: VirtualRider,
  look: Look,
  options: { wheelbaseMm: number; camera?: Partial<Camera>; seconds: number; container?: 'webm' | 'mp4' },
): CastMember {
  return {
    id,
    scene: {
      camera: { ...CAMERA, ...options.camera },
      rider,
      bike: bikeFor(rider, options.wheelbaseMm),
      look,
    },
    film: FILM,
    seconds: options.seconds,
    container: options.container ?? 'webm',
  };
}

/** The four riders of the Kiln Yard Fitting Room, with the misfits that the handbook's demo world gives them. */
export const CAST: readonly CastMember[] = [
  // Saddle low and forward, reach long.
  member(
    'maren',
    on(
      {
        ...LEG,
        thighMm: 418,
        shankMm: 416,
        backDeg: 41.5,
        shoulderDeg: 95,
        elbowFlexionDeg: 14,
        cadenceRpm: 84,
        wanderSeed: 11,
      },
      { kneeFlexionMinDeg: 48, kneeOverSpindleMm: 18 },
    ),
    LOOK,
    { wheelbaseMm: 1032, seconds: 7 },
  ),
  // Flat bar, upright, cleats forward: a long lever from ankle to spindle.
  member(
    'idris',
    on(
      {
        ...LEG,
        crankMm: 175,
        thighMm: 452,
        shankMm: 448,
        ankleBehindMm: 138,
        heelBehindMm: 182,
        shoeTipMm: 70,
        footPitchMeanDeg: 12,
        footPitch: [{ order: 1, amplitude: 9.5, phaseDeg: 170 }],
        wanderSeed: 23,
        backDeg: 63,
        shoulderDeg: 52,
        elbowFlexionDeg: 20,
        trunkMm: 505,
        upperArmMm: 305,
        forearmMm: 270,
        cadenceRpm: 78,
      },
      { kneeFlexionMinDeg: 37, kneeOverSpindleMm: -18 },
    ),
    {
      ...LOOK,
      skin: [122, 84, 62],
      shorts: [70, 78, 92],
      jersey: [172, 88, 64],
      frame: [52, 92, 88],
      sticker: [240, 236, 226],
      shoe: [52, 50, 52],
    },
    { wheelbaseMm: 1076, seconds: 6.5, camera: { facing: 'left', aimMm: { x: 60, y: 530 }, mmPerPx: 2.8 } },
  ),
  // Bar low for her back, crank long for her legs.
  member(
    'pilar',
    on(
      {
        ...LEG,
        crankMm: 175,
        thighMm: 388,
        shankMm: 384,
        ankleBehindMm: 118,
        ankleAboveMm: 90,
        heelBehindMm: 158,
        footPitch: [{ order: 1, amplitude: 12, phaseDeg: 165 }],
        wanderSeed: 37,
        backDeg: 37,
        shoulderDeg: 82,
        elbowFlexionDeg: 18,
        trunkMm: 455,
        upperArmMm: 268,
        forearmMm: 238,
        cadenceRpm: 76,
      },
      { kneeFlexionMinDeg: 39, kneeOverSpindleMm: -6 },
    ),
    {
      ...LOOK,
      skin: [190, 140, 110],
      jersey: [110, 92, 134],
      frame: [150, 146, 132],
      sticker: [74, 214, 190],
      helmet: [92, 60, 58],
    },
    { wheelbaseMm: 1004, seconds: 7, camera: { aimMm: { x: 60, y: 390 } } },
  ),
  // Toe-pointing hides a high saddle; hip closed on the extensions.
  member(
    'juno',
    on(
      {
        ...LEG,
        crankMm: 170,
        thighMm: 430,
        shankMm: 436,
        footPitchMeanDeg: 30,
        footPitch: [{ order: 1, amplitude: 9, phaseDeg: 172 }],
        headAboveBackMm: 72,
        wanderSeed: 41,
        backDeg: 16,
        shoulderDeg: 86,
        elbowFlexionDeg: 88,
        trunkMm: 492,
        upperArmMm: 290,
        forearmMm: 258,
        cadenceRpm: 97,
      },
      { kneeFlexionMinDeg: 34, kneeOverSpindleMm: 26 },
    ),
    {
      ...LOOK,
      skin: [226, 188, 162],
      shorts: [36, 52, 78],
      jersey: [36, 52, 78],
      sleeveTo: 0.7,
      frame: [60, 62, 70],
      sticker: [246, 120, 52],
      helmet: [226, 226, 222],
      extras: ['head', 'c7', 'sacrum', 'asis', 'hand'],
      wall: [158, 166, 168],
    },
    { wheelbaseMm: 986, seconds: 6, container: 'mp4', camera: { aimMm: { x: 90, y: 420 } } },
  ),
];

/** The same body with every sticker on its bone and nothing leaving the picture's plane, calm: for asking what the measuring itself errs. */
const onBone = (rider: VirtualRider): VirtualRider => ({
  ...rider,
  foreshortening: 0,
  hipSkinMm: 0,
  headAboveBackMm: undefined,
  wanderDeg: Math.min(0.5, rider.wanderDeg),
  unevenness: Math.min(0.012, rider.unevenness),
});

/** The cast so. */
export const CAST_ON_BONE: readonly CastMember[] = CAST.map((m) => ({
  ...m,
  scene: { ...m.scene, rider: onBone(m.scene.rider) },
}));

/** Mean cadence over a clip, from its first to its last frame, rpm. */
export function trueCadenceRpm(rider: VirtualRider, seconds: number): number {
  return (crankAngleDeg(rider, seconds) - crankAngleDeg(rider, 0)) / (6 * seconds);
}

/** The pose at a crank angle on the rider's first stroke, without wander: for quoting a rider's own figures. */
export const stillPose = (rider: VirtualRider, thetaDeg: number): ReturnType<typeof poseAt> =>
  poseAt({ ...rider, wanderDeg: 0 }, thetaDeg, 0);

/** A film from ahead or behind of one of the cast. */
export interface FrontalMember {
  id: string;
  of: string;
  scene: FrontalScene;
  film: FilmSetting;
  seconds: number;
}

const FRONTAL_CAMERA: Camera = {
  ...CAMERA,
  widthPx: 720,
  heightPx: 720,
  distanceMm: 4300,
  mmPerPx: 2.1,
  aimMm: { x: 0, y: 470 },
  yawDeg: 0,
  rollDeg: 0.5,
  facing: 'right',
};

/** A film from ahead or behind; `body` is what that view shows of it beside the usual. */
function frontal({
  of,
  view,
  barWidthMm,
  body,
  camera = {},
}: {
  of: string;
  view: 'front' | 'rear';
  barWidthMm: number;
  body: Partial<FrontalBody>;
  camera?: Partial<Camera>;
}): FrontalMember {
  const { scene, film } = CAST.find((m) => m.id === of)!;
  return {
    id: `${of}-${view}`,
    of,
    scene: {
      camera: { ...FRONTAL_CAMERA, ...camera },
      view,
      rider: scene.rider,
      body: { ...FRONTAL_BODY, ...body },
      bike: scene.bike,
      look: scene.look,
      barWidthMm,
    },
    film,
    seconds: 6,
  };
}

/** The films from ahead and behind that the demo ships. */
export const FRONTAL_CAST: readonly FrontalMember[] = [
  // Stance too narrow for his hips: the knees stand outside the feet.
  frontal({
    of: 'idris',
    view: 'front',
    barWidthMm: 640,
    body: {
      stanceMm: 242,
      hipWidthMm: 362,
      asisWidthMm: 252,
      kneeOutMm: {
        right: { mean: 24, waves: [{ order: 1, amplitude: 15, phaseDeg: 150 }] },
        left: { mean: 27, waves: [{ order: 1, amplitude: 17, phaseDeg: 140 }] },
      },
    },
    camera: { aimMm: { x: 0, y: 600 }, mmPerPx: 2.35 },
  }),
  // Sits off to the right, the right knee swings in.
  frontal({
    of: 'juno',
    view: 'rear',
    barWidthMm: 380,
    body: {
      pelvisTiltDeg: { mean: 2.6, waves: [{ order: 1, amplitude: 1.8, phaseDeg: 80 }] },
      hipShiftMm: { mean: 9, waves: [{ order: 1, amplitude: 7, phaseDeg: 60 }] },
      kneeOutMm: {
        right: { mean: -9, waves: [{ order: 1, amplitude: 19, phaseDeg: 160 }] },
        left: { mean: 4, waves: [{ order: 1, amplitude: 9, phaseDeg: 140 }] },
      },
    },
  }),
];
