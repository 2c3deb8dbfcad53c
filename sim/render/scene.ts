import {
  extrasOf,
  hipStickerMm,
  poseAt,
  type ExtraKey,
  type JointKey,
  type Pose,
  type VirtualRider,
} from '../rider.ts';
import { project, type Camera } from '../camera.ts';
import type { Vec2 } from '../../core/math/vec.ts';
import { drawBar } from './bike.ts';
import { drawArm, drawLeg, drawTrunk } from './body.ts';
import type { Look, VirtualBike } from './look.ts';
import { fillDisc, fillLimb, grow, type Raster } from './raster.ts';
import { drawStrap, type Strap } from './strap.ts';

/** How far each joint's sticker stands towards the camera from the bike's plane, mm. */
const STICKER_DEPTH_MM: Record<JointKey, number> = {
  hip: 172,
  knee: 165,
  ankle: 160,
  heel: 166,
  toe: 172,
  shoulder: 200,
  elbow: 208,
  wrist: 205,
};

const EXTRA_DEPTH_MM: Record<ExtraKey, number> = {
  head: 78,
  c7: 40,
  sacrum: 60,
  asis: 128,
  hand: 212,
  spindle: 182,
};

/** Where the crank stands, and when. */
export interface Moment {
  thetaDeg: number;
  tS: number;
}

export interface Scene {
  camera: Camera;
  rider: VirtualRider;
  bike: VirtualBike;
  look: Look;
  strap?: Strap;
  /** Somebody who walks through behind the bike, in the stickers' colour. */
  walker?: { fromMm: number; mmPerS: number };
  /** A mirror on the wall, in shares of the picture: all is seen in it again, turned about, small and dim. */
  mirror?: { x: number; y: number; width: number; height: number };
}

/** Where each near-side sticker's centre lands in the picture. */
export function projectJoints(
  scene: Scene,
  pose: Pose,
): Record<JointKey, Vec2> & Partial<Record<ExtraKey, Vec2>> {
  const out = {} as ReturnType<typeof projectJoints>;
  const places = { ...pose.joints, hip: hipStickerMm(scene.rider, pose) };
  for (const key of Object.keys(STICKER_DEPTH_MM) as JointKey[]) {
    const p = project(scene.camera, places[key], STICKER_DEPTH_MM[key]);
    out[key] = { x: p.x, y: p.y };
  }
  const extras = extrasOf(pose, scene.rider.headAboveBackMm);
  for (const key of scene.look.extras ?? []) {
    const p = project(scene.camera, extras[key], EXTRA_DEPTH_MM[key]);
    out[key] = { x: p.x, y: p.y };
  }
  return out;
}

/** What a mirror on the wall shows of the rider, before whom it hangs. */
function drawMirror(r: Raster, scene: Scene, at: Moment, bikeOver: (r: Raster) => void): void {
  const { x, y, width, height } = scene.mirror!;
  const seen: Raster = { ...r, rgb: r.rgb.slice() };
  drawRider(seen, { ...scene, mirror: undefined }, at, bikeOver);
  const [x0, y0] = [Math.round(x * r.width), Math.round(y * r.height)];
  const [w, h] = [Math.round(width * r.width), Math.round(height * r.height)];
  grow(r.drawn, { x0, y0, x1: x0 + w - 1, y1: y0 + h - 1 });
  for (let j = 0; j < h; j += 1)
    for (let i = 0; i < w; i += 1) {
      const from =
        3 *
        (Math.floor(((j + 0.5) / h) * r.height) * r.width +
          r.width -
          1 -
          Math.floor(((i + 0.5) / w) * r.width));
      const to = 3 * ((y0 + j) * r.width + x0 + i);
      for (let c = 0; c < 3; c += 1) r.rgb[to + c] = 0.82 * seen.rgb[from + c];
    }
}

/** A shirt and a head far behind the bike, dotted with the stickers' colour. */
function drawWalker(r: Raster, { camera, look, walker }: Scene, tS: number): void {
  const x = walker!.fromMm + walker!.mmPerS * tS;
  const at = (dx: number, y: number) => project(camera, { x: x + dx, y }, -1800);
  const [hip, neck, head] = [at(0, 700), at(0, 1250), at(0, 1420)];
  fillLimb(
    r,
    { at: hip, radiusPx: 150 * hip.pxPerMm },
    { at: neck, radiusPx: 130 * neck.pxPerMm },
    { colour: [96, 104, 120], roundness: 0.4 },
  );
  fillDisc(r, head, 95 * head.pxPerMm, [196, 158, 132]);
  for (let k = 0; k < 5; k += 1) {
    const dot = at(-60 + 30 * k, 760 + 110 * k);
    fillDisc(r, dot, look.stickerRadiusMm * dot.pxPerMm, look.sticker);
  }
}

/** What is behind the bike, over the room already in the raster; `bikeOver` lays the bike over it, which is seen in a mirror too. */
export function drawFarSide(r: Raster, scene: Scene, at: Moment, bikeOver: (r: Raster) => void): void {
  const { rider } = scene;
  const { thetaDeg, tS } = at;
  if (scene.mirror) drawMirror(r, scene, at, bikeOver);
  if (scene.walker) drawWalker(r, scene, tS);
  drawArm(r, scene, poseAt(rider, thetaDeg, tS), false);
  drawLeg(r, scene, poseAt(rider, thetaDeg + 180, tS), false);
}

/** What is before the bike already in the raster, with the stickers. */
export function drawNearSide(r: Raster, scene: Scene, { thetaDeg, tS }: Moment): void {
  const { camera, rider, bike, look } = scene;
  const pose = poseAt(rider, thetaDeg, tS);
  drawTrunk(r, camera, pose, look);
  drawBar(r, camera, bike, rider);
  drawLeg(r, scene, pose, true);
  drawArm(r, scene, pose, true);
  const joints = projectJoints(scene, pose);
  for (const [key, p] of Object.entries(joints) as [JointKey, Vec2][]) {
    const colour = look.stickerOn?.[key] === undefined ? look.sticker : look.stickerOn[key];
    const radiusMm = look.stickerRadiusOnMm?.[key] ?? look.stickerRadiusMm;
    if (colour) fillDisc(r, p, radiusMm / camera.mmPerPx, colour);
  }
  if (scene.strap) drawStrap(r, scene.strap, thetaDeg, joints[scene.strap.over]);
}

/** Draws everything that moves over the room already in the raster; `bikeOver` lays the bike between the far leg and the near one. */
export function drawRider(r: Raster, scene: Scene, at: Moment, bikeOver: (r: Raster) => void): void {
  drawFarSide(r, scene, at, bikeOver);
  bikeOver(r);
  drawNearSide(r, scene, at);
}
