import type { Camera } from '../camera.ts';
import { frontalPlaces, projectFrontal, type FrontalBody, type Place } from '../frontal.ts';
import { crankAngleDeg, footToPlane, hoodMm, poseAt, type VirtualRider } from '../rider.ts';
import type { Vec2 } from '../../core/math/vec.ts';
import type { Act } from './film.ts';
import { fillDisc, fillLimb, type ConeLook, type Raster, type Rgb } from './raster.ts';
import type { Look, VirtualBike } from './look.ts';
import { drawRoom } from './room.ts';

/** A rider on a bike, seen from ahead or behind. */
export interface FrontalScene {
  camera: Camera;
  view: 'front' | 'rear';
  rider: VirtualRider;
  body: FrontalBody;
  bike: VirtualBike;
  look: Look;
  barWidthMm: number;
}

/** Where every sticker's centre lands in the picture. */
export function frontalStickers(scene: FrontalScene, tS: number): Record<string, Vec2> {
  const places = frontalPlaces(
    { rider: scene.rider, body: scene.body, view: scene.view },
    { thetaDeg: crankAngleDeg(scene.rider, tS), tS },
  );
  return Object.fromEntries(
    Object.entries(places).map(([key, p]) => {
      const { x, y } = projectFrontal(scene.camera, scene.view, p);
      return [key, { x, y }];
    }),
  );
}

/** A place and the limb’s radius there, mm. */
type End = readonly [at: Place, radiusMm: number];

const at = (p: Vec2, right: number): Place => ({ x: p.x, y: p.y, right });

type Limb = (a: End, b: End, coat: ConeLook) => void;

/** What is drawn of a scene at one moment. */
interface Moment {
  scene: FrontalScene;
  tS: number;
  thetaDeg: number;
  places: ReturnType<typeof frontalPlaces>;
  pose: ReturnType<typeof poseAt>;
  skin: ConeLook;
  cloth: (colour: Rgb, seed: number) => ConeLook;
}

function drawTrunk({ scene: { look }, pose, skin, cloth }: Moment, limb: Limb): void {
  const { hip, shoulder } = pose.joints;
  limb(
    [at({ x: hip.x - 12, y: hip.y + 20 }, 0), 150],
    [at({ x: shoulder.x - 8, y: shoulder.y - 40 }, 0), 160],
    cloth(look.jersey, 7),
  );
  limb(
    [at({ x: shoulder.x + 60, y: shoulder.y + 70 }, 0), 60],
    [at({ x: shoulder.x + 110, y: shoulder.y + 150 }, 0), 78],
    skin,
  );
  limb(
    [at({ x: shoulder.x + 100, y: shoulder.y + 195 }, 0), 70],
    [at({ x: shoulder.x + 120, y: shoulder.y + 200 }, 0), 60],
    { colour: look.helmet, roundness: 0.5 },
  );
}

/** Leg, foot and pedal of one side. */
function drawLeg(m: Moment, limb: Limb, letter: 'R' | 'L'): void {
  const { rider, body, look } = m.scene;
  const [sign, turnDeg] = letter === 'R' ? [1, 0] : [-1, 180];
  const own = poseAt(rider, m.thetaDeg + turnDeg, m.tS);
  const foot = sign * (body.stanceMm / 2);
  const hipAt = at(own.joints.hip, m.places[`hip${letter}`].right * 0.62);
  const kneeAt = at(own.joints.knee, m.places[`knee${letter}`].right);
  const ankleAt = at(own.joints.ankle, m.places[`ankle${letter}`].right);
  limb([hipAt, 92], [kneeAt, 57], m.cloth(look.shorts, 1));
  limb([kneeAt, 55], [ankleAt, 33], m.skin);
  const inFoot = (x: number, y: number): Place => at(footToPlane(own.spindle, own.footPitchDeg, x, y), foot);
  const shoe: ConeLook = { colour: look.shoe, roundness: 0.35 };
  const ball = inFoot(10, rider.soleAboveMm + 14);
  limb([inFoot(-rider.heelBehindMm, rider.soleAboveMm + 12), 36], [ball, 42], shoe);
  limb([ball, 42], [inFoot(rider.shoeTipMm, rider.soleAboveMm), 24], shoe);
  const edge = footToPlane(own.spindle, own.footPitchDeg, -44, 2);
  limb([at(edge, foot - 42), 10], [at(edge, foot + 42), 10], { colour: [58, 58, 60], roundness: 0.2 });
}

function drawArm(m: Moment, limb: Limb, letter: 'R' | 'L'): void {
  const { rider, look, barWidthMm } = m.scene;
  const { shoulder, elbow, wrist } = m.pose.joints;
  const hood = hoodMm(rider);
  const bar = (barWidthMm / 2) * (letter === 'R' ? 1 : -1);
  limb(
    [at(shoulder, m.places[`shoulder${letter}`].right), 58],
    [at(elbow, bar * 1.04), 42],
    m.cloth(look.jersey, 9),
  );
  limb([at(elbow, bar * 1.04), 41], [at(wrist, bar), 28], m.skin);
  limb([at(wrist, bar), 30], [at({ x: hood.x + 50, y: hood.y - 10 }, bar), 26], { colour: [54, 54, 58] });
}

function drawBike({ scene: { rider, bike, view, look, barWidthMm } }: Moment, limb: Limb): void {
  const half = barWidthMm / 2;
  const hood = hoodMm(rider);
  const barAt = { x: hood.x - 60, y: hood.y - 30 };
  limb([at(barAt, -half), 14], [at(barAt, half), 14], { colour: [48, 48, 50], roundness: 0.4 });
  const wheel = view === 'front' ? bike.frontAxle : bike.rearAxle;
  limb(
    [at({ x: wheel.x, y: wheel.y - bike.wheelRadiusMm + 14 }, 0), 15],
    [at({ x: wheel.x, y: wheel.y + bike.wheelRadiusMm - 14 }, 0), 15],
    { colour: [42, 42, 44], roundness: 0.5 },
  );
  limb([at(wheel, -52), 9], [at(wheel, 52), 9], { colour: [96, 98, 102], roundness: 0.3 });
  const frame: ConeLook = { colour: look.frame, roundness: 0.5 };
  limb([at({ x: 0, y: 0 }, 0), 20], [at({ x: bike.saddleTop.x, y: bike.saddleTop.y - 30 }, 0), 16], frame);
  limb([at(bike.headBottom, 0), 22], [at(bike.headTop, 0), 22], frame);
  limb([at(bike.saddleTop, -62), 16], [at(bike.saddleTop, 62), 16], { colour: [38, 36, 38], roundness: 0.4 });
}

/** Draws the body with what is nearer the camera over what is further. */
function drawBody(r: Raster, scene: FrontalScene, tS: number): void {
  const { camera, view, rider, body, look } = scene;
  const thetaDeg = crankAngleDeg(rider, tS);
  const towards = view === 'front' ? 1 : -1;
  const jobs: { ahead: number; draw: () => void }[] = [];
  const limb: Limb = ([a, ra], [b, rb], coat) => {
    jobs.push({
      ahead: (towards * (a.x + b.x)) / 2,
      draw: () => {
        const [p, q] = [projectFrontal(camera, view, a), projectFrontal(camera, view, b)];
        fillLimb(r, { at: p, radiusPx: ra * p.pxPerMm }, { at: q, radiusPx: rb * q.pxPerMm }, coat);
      },
    });
  };
  const moment: Moment = {
    scene,
    tS,
    thetaDeg,
    places: frontalPlaces({ rider, body, view }, { thetaDeg, tS }),
    pose: poseAt(rider, thetaDeg, tS),
    skin: { colour: look.skin, roundness: 0.5, weave: look.weave * 0.4, seed: 3 },
    cloth: (colour, seed) => ({ colour, roundness: 0.5, weave: look.weave, seed }),
  };
  drawTrunk(moment, limb);
  for (const letter of ['R', 'L'] as const) {
    drawLeg(moment, limb, letter);
    drawArm(moment, limb, letter);
  }
  drawBike(moment, limb);
  jobs.sort((a, b) => a.ahead - b.ahead).forEach((j) => j.draw());
  for (const p of Object.values(frontalStickers(scene, tS)))
    fillDisc(r, p, look.stickerRadiusMm / camera.mmPerPx, look.sticker);
}

/** The scene as an act for the camera. */
export const frontalAct = (scene: FrontalScene): Act => ({
  widthPx: scene.camera.widthPx,
  heightPx: scene.camera.heightPx,
  still: (r) => drawRoom(r, scene.camera, scene.bike, scene.look),
  moving: (r, tS) => drawBody(r, scene, tS),
});
