import {
  extrasOf,
  hipStickerMm,
  footToPlane,
  hoodMm,
  poseAt,
  type ExtraKey,
  type JointKey,
  type Pose,
  type VirtualRider,
} from '../rider.ts';
import { project, type Camera } from '../camera.ts';
import type { Vec2 } from '../../core/math/vec.ts';
import { cellNoise, fillConvex, fillDisc, fillLimb, fillRing, type Raster, type Rgb } from './raster.ts';

/** The bike's points that do not move, mm in the bike plane. */
export interface VirtualBike {
  rearAxle: Vec2;
  frontAxle: Vec2;
  wheelRadiusMm: number;
  saddleTop: Vec2;
  headTop: Vec2;
  headBottom: Vec2;
}

export interface Look {
  skin: Rgb;
  shorts: Rgb;
  jersey: Rgb;
  shoe: Rgb;
  sole: Rgb;
  helmet: Rgb;
  frame: Rgb;
  wall: Rgb;
  floor: Rgb;
  sticker: Rgb;
  /** Sticker colour joint by joint where it differs, or null for none on that joint. */
  stickerOn?: Partial<Record<JointKey, Rgb | null>>;
  stickerRadiusMm: number;
  /** Where a joint's sticker is of another size. */
  stickerRadiusOnMm?: Partial<Record<JointKey, number>>;
  /** Stripes across the jersey. */
  stripes?: Rgb;
  /** Stickers on these points too. */
  extras?: readonly ExtraKey[];
  /** Share of the thigh that the shorts cover: over 1 for full tights. */
  shortsTo: number;
  sleeveTo: number;
  weave: number;
}

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

/** How thick a tyre is drawn, about 0.965 of the wheel's radius. */
const TYRE_MM = 34;
/** The drawn tyre's outer edge, mm. */
export const tyreEdgeMm = (bike: VirtualBike): number => 0.965 * bike.wheelRadiusMm + TYRE_MM / 2;

const NEAR = 130;
const FAR = -130;

function dim(c: Rgb, k: number): Rgb {
  return [c[0] * k, c[1] * k, c[2] * k];
}

type Tube = (a: Vec2, b: Vec2, radiusMm: number, colour: Rgb, zMm?: number) => void;

function tubeDrawer(r: Raster, camera: Camera): Tube {
  return (a, b, radiusMm, colour, zMm = 0) => {
    const p = project(camera, a, zMm);
    const q = project(camera, b, zMm);
    fillLimb(r, p, radiusMm * p.pxPerMm, q, radiusMm * q.pxPerMm, { colour, roundness: 0.6 });
  };
}

/** The room behind: a tiled wall with a window and a shelf, a boarded floor. Drawn once. */
export function drawRoom(r: Raster, camera: Camera, bike: VirtualBike, look: Look): void {
  const floorY = project(camera, { x: 0, y: bike.rearAxle.y - bike.wheelRadiusMm }, -900).y;
  const tile = 46;
  for (let y = 0; y < r.height; y += 1) {
    for (let x = 0; x < r.width; x += 1) {
      const k = (y * r.width + x) * 3;
      const onWall = y < floorY;
      const row = Math.floor(y / tile);
      const col = Math.floor((x + (row % 2) * (tile / 2)) / tile);
      const joint = onWall && (y % tile < 2 || (x + (row % 2) * (tile / 2)) % tile < 2);
      const base = onWall ? look.wall : look.floor;
      let light = onWall
        ? 0.93 + 0.05 * cellNoise(col, row, 3) + 0.1 * (1 - y / floorY) - (joint ? 0.13 : 0)
        : 0.9 + 0.07 * cellNoise(Math.floor((x + 3 * y) / 90), Math.floor((y - floorY) / 16), 8);
      light += 0.012 * cellNoise(x >> 1, y >> 1, 17);
      r.rgb[k] = base[0] * light;
      r.rgb[k + 1] = base[1] * light;
      r.rgb[k + 2] = base[2] * light;
    }
  }
  const w = r.width;
  const shelf: Rgb = [112, 88, 66];
  const rect = (x: number, y: number, width: number, height: number, colour: Rgb): void =>
    fillConvex(
      r,
      [
        { x, y },
        { x: x + width, y },
        { x: x + width, y: y + height },
        { x, y: y + height },
      ],
      colour,
    );
  rect(0.05 * w, 60, 150, 190, [205, 216, 220]);
  rect(0.05 * w + 72, 60, 6, 190, [120, 112, 104]);
  rect(0.05 * w, 150, 150, 6, [120, 112, 104]);
  rect(0.8 * w, 180, 210, 10, shelf);
  rect(0.82 * w, 120, 44, 60, [96, 110, 118]);
  rect(0.87 * w, 138, 60, 42, [150, 122, 92]);
  rect(0.94 * w, 104, 26, 76, [128, 76, 70]);
}

/** Wheels, frame and trainer: they stand still, so they are drawn once, on a layer that goes over the far leg. */
export function drawBike(r: Raster, camera: Camera, bike: VirtualBike, look: Look): void {
  const tube = tubeDrawer(r, camera);
  const bb = { x: 0, y: 0 };
  for (const axle of [bike.rearAxle, bike.frontAxle]) {
    const c = project(camera, axle, 0);
    const ry = bike.wheelRadiusMm * c.pxPerMm;
    const rx = ry * Math.cos((camera.yawDeg * Math.PI) / 180);
    for (let i = 0; i < 9; i += 1) {
      const a = (i / 9) * Math.PI + 0.2;
      const end = { x: bike.wheelRadiusMm * 0.95 * Math.cos(a), y: bike.wheelRadiusMm * 0.95 * Math.sin(a) };
      tube(
        { x: axle.x - end.x, y: axle.y - end.y },
        { x: axle.x + end.x, y: axle.y + end.y },
        1.6,
        [150, 150, 152],
      );
    }
    // A circle seen from aside is an ellipse whose middle is not the circle's.
    const sides = [-1, 1].map((k) => project(camera, { x: axle.x + k * bike.wheelRadiusMm, y: axle.y }, 0));
    const mid = { x: (sides[0].x + sides[1].x) / 2, y: (sides[0].y + sides[1].y) / 2 };
    fillRing(r, mid, rx * 0.965, ry * 0.965, TYRE_MM * c.pxPerMm, [42, 42, 44]);
    fillRing(r, mid, rx * 0.9, ry * 0.9, 10 * c.pxPerMm, [120, 122, 126]);
    fillDisc(r, c, 22 * c.pxPerMm, [70, 72, 76]);
    fillDisc(r, c, 7 * c.pxPerMm, [214, 206, 188]);
  }
  const f = look.frame;
  const seat = { x: bike.saddleTop.x * 0.86, y: bike.saddleTop.y * 0.8 };
  tube(bike.rearAxle, bb, 9, dim(f, 0.85));
  tube(bike.rearAxle, seat, 8, dim(f, 0.85));
  tube(bb, seat, 15, f);
  tube(seat, { x: bike.saddleTop.x, y: bike.saddleTop.y - 35 }, 13, [60, 60, 62]);
  tube(bb, bike.headBottom, 19, f);
  tube(seat, bike.headTop, 14, f);
  tube(bike.headBottom, bike.headTop, 18, dim(f, 1.1));
  tube(bike.headBottom, bike.frontAxle, 11, dim(f, 0.9));
  const ring = project(camera, bb, 45);
  fillRing(r, ring, 78 * ring.pxPerMm, 78 * ring.pxPerMm, 12 * ring.pxPerMm, [88, 90, 94]);
  const s = bike.saddleTop;
  tube({ x: s.x - 120, y: s.y - 6 }, { x: s.x + 145, y: s.y - 16 }, 14, [38, 36, 38]);
  tube(
    { x: bike.rearAxle.x - 150, y: bike.rearAxle.y - bike.wheelRadiusMm },
    bike.rearAxle,
    14,
    [84, 90, 88],
    60,
  );
  tube(
    { x: bike.rearAxle.x + 170, y: bike.rearAxle.y - bike.wheelRadiusMm },
    bike.rearAxle,
    14,
    [84, 90, 88],
    60,
  );
}

function drawBar(r: Raster, camera: Camera, bike: VirtualBike, rider: VirtualRider): void {
  const hood = hoodMm(rider);
  const tube = tubeDrawer(r, camera);
  const bar: Rgb = [48, 48, 50];
  const clamp = { x: hood.x - 95, y: hood.y - 12 };
  tube(bike.headTop, clamp, 14, [66, 66, 70]);
  tube(clamp, { x: hood.x + 18, y: hood.y - 22 }, 14, bar, 190);
  tube({ x: hood.x + 18, y: hood.y - 22 }, { x: hood.x + 30, y: hood.y - 95 }, 12, bar, 190);
  tube({ x: hood.x + 30, y: hood.y - 95 }, { x: hood.x - 70, y: hood.y - 140 }, 12, bar, 190);
}

function drawLeg(
  r: Raster,
  camera: Camera,
  pose: Pose,
  rider: VirtualRider,
  look: Look,
  near: boolean,
): void {
  const k = near ? 1 : 0.62;
  const z = near ? NEAR : FAR;
  const { hip, knee, ankle } = pose.joints;
  const at = (p: Vec2, radiusMm: number): [Vec2, number] => {
    const q = project(camera, p, z);
    return [q, radiusMm * q.pxPerMm];
  };
  const limb = (a: Vec2, ra: number, b: Vec2, rb: number, look2: Parameters<typeof fillLimb>[5]): void => {
    const [pa, qa] = at(a, ra);
    const [pb, qb] = at(b, rb);
    fillLimb(r, pa, qa, pb, qb, look2);
  };
  const tube = tubeDrawer(r, camera);
  tube({ x: 0, y: 0 }, pose.spindle, 13, dim([96, 98, 102], k), near ? 70 : -70);
  const foot = (x: number, y: number): Vec2 => footToPlane(pose.spindle, pose.footPitchDeg, x, y);
  const shoe = { colour: dim(look.shoe, k), roundness: 0.35, weave: look.weave * 0.5, seed: 4 };
  const skin = dim(look.skin, k);
  const shorts = dim(look.shorts, k);
  limb(knee, 50, ankle, 33, {
    colour: look.shortsTo > 1 ? shorts : skin,
    roundness: 0.5,
    weave: look.shortsTo > 1 ? look.weave : look.weave * 0.4,
    seed: 2,
    split: { at: 0.86, colour: look.shortsTo > 1 ? shorts : dim([228, 226, 220], k) },
  });
  const sole = rider.soleAboveMm;
  // The uppers reach a little below heel and toe stickers, so that both lie on the shoe.
  limb(foot(-rider.heelBehindMm - 2, sole + 17), 35, foot(10, sole + 13), 32, shoe);
  limb(foot(10, sole + 13), 32, foot(rider.shoeTipMm, sole + 2), 21, shoe);
  limb(
    foot(-rider.ankleBehindMm, rider.ankleAboveMm - 6),
    35,
    foot(-rider.ankleBehindMm + 40, sole + 34),
    36,
    shoe,
  );
  limb(foot(-rider.heelBehindMm, sole - 18), 4, foot(rider.shoeTipMm - 4, sole - 18), 4, {
    colour: dim(look.sole, k),
    roundness: 0,
  });
  limb(foot(-45, -4), 7, foot(45, -4), 7, { colour: dim([58, 58, 60], k), roundness: 0.3 });
  limb(hip, 92, knee, 57, {
    colour: shorts,
    roundness: 0.5,
    weave: look.weave,
    seed: 1,
  });
  if (look.shortsTo < 1) {
    // Skin from the hem down, smoother than cloth.
    const hem = { x: hip.x + (knee.x - hip.x) * look.shortsTo, y: hip.y + (knee.y - hip.y) * look.shortsTo };
    limb(hem, 64, knee, 57, { colour: skin, roundness: 0.5, weave: look.weave * 0.4, seed: 6 });
    limb({ x: hem.x + (hip.x - knee.x) * 0.09, y: hem.y + (hip.y - knee.y) * 0.09 }, 67, hem, 65, {
      colour: shorts,
      roundness: 0.5,
      weave: look.weave,
      seed: 1,
    });
  }
}

function drawTrunk(r: Raster, camera: Camera, pose: Pose, look: Look): void {
  const { hip, shoulder } = pose.joints;
  const p = project(camera, { x: hip.x - 12, y: hip.y + 25 }, 0);
  const q = project(camera, { x: shoulder.x - 8, y: shoulder.y - 28 }, 0);
  fillLimb(r, p, 105 * p.pxPerMm, q, 98 * q.pxPerMm, {
    colour: look.jersey,
    roundness: 0.55,
    weave: look.weave,
    seed: 7,
  });
  if (look.stripes)
    for (let k = 1; k < 9; k += 2) {
      const at = { x: p.x + ((q.x - p.x) * k) / 9, y: p.y + ((q.y - p.y) * k) / 9 };
      const [dx, dy] = [q.x - p.x, q.y - p.y];
      const across = (92 * p.pxPerMm) / Math.hypot(dx, dy);
      const ends = [-1, 1].map((s) => ({ x: at.x - s * across * dy, y: at.y + s * across * dx }));
      fillLimb(r, ends[0], 14 * p.pxPerMm, ends[1], 14 * p.pxPerMm, { colour: look.stripes, roundness: 0.2 });
    }
  const ux = shoulder.x - hip.x;
  const uy = shoulder.y - hip.y;
  const l = Math.hypot(ux, uy);
  const neck = { x: shoulder.x + (ux / l) * 90, y: shoulder.y + (uy / l) * 60 + 55 };
  const head = { x: neck.x + 62, y: neck.y + 72 };
  const n = project(camera, neck, 0);
  const h = project(camera, head, 0);
  const collar = project(camera, { x: shoulder.x + ux * 0.05, y: shoulder.y + 25 }, 0);
  fillLimb(r, collar, 52 * q.pxPerMm, n, 50 * n.pxPerMm, {
    colour: dim(look.jersey, 0.9),
    roundness: 0.4,
    weave: look.weave,
  });
  fillLimb(r, n, 50 * n.pxPerMm, h, 84 * h.pxPerMm, { colour: look.skin, roundness: 0.4 });
  const back = project(camera, { x: head.x - 70, y: head.y + 46 }, 0);
  const front = project(camera, { x: head.x + 60, y: head.y + 58 }, 0);
  fillLimb(r, back, 56 * back.pxPerMm, front, 44 * front.pxPerMm, { colour: look.helmet, roundness: 0.5 });
}

function drawArm(r: Raster, camera: Camera, pose: Pose, look: Look, near: boolean): void {
  const z = near ? 185 : -185;
  const k = near ? 1 : 0.6;
  const { shoulder, elbow, wrist } = pose.joints;
  const s = project(camera, shoulder, z);
  const e = project(camera, elbow, z);
  const w = project(camera, wrist, z);
  const hand = project(camera, { x: wrist.x + 62, y: wrist.y - 12 }, z);
  fillLimb(r, s, 58 * s.pxPerMm, e, 42 * e.pxPerMm, {
    colour: dim(look.jersey, k),
    roundness: 0.5,
    weave: look.weave,
    seed: 9,
    split: { at: look.sleeveTo, colour: dim(look.skin, k) },
  });
  fillLimb(r, e, 41 * e.pxPerMm, w, 27 * w.pxPerMm, {
    colour: dim(look.skin, k),
    roundness: 0.5,
    weave: look.weave * 0.4,
    seed: 3,
  });
  fillLimb(r, w, 28 * w.pxPerMm, hand, 24 * hand.pxPerMm, { colour: dim([54, 54, 58], k), roundness: 0.4 });
}

/** A bar across the picture (a hand, a strap) that moves with the stroke and hides what is behind it. */
export interface Strap {
  colour: Rgb;
  /** Hidden while the crank is within this many degrees of `atThetaDeg`. */
  atThetaDeg: number;
  halfWidthDeg: number;
  over: JointKey;
  /** A cable tie: so thin, and beside the middle by so much, px. */
  thin?: { radiusPx: number; aroundPx: number };
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
function drawMirror(
  r: Raster,
  scene: Scene,
  thetaDeg: number,
  tS: number,
  bikeOver: (r: Raster) => void,
): void {
  const { x, y, width, height } = scene.mirror!;
  const seen: Raster = { ...r, rgb: r.rgb.slice() };
  drawRider(seen, { ...scene, mirror: undefined }, thetaDeg, tS, bikeOver);
  const [x0, y0] = [Math.round(x * r.width), Math.round(y * r.height)];
  const [w, h] = [Math.round(width * r.width), Math.round(height * r.height)];
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
  fillLimb(r, hip, 150 * hip.pxPerMm, neck, 130 * neck.pxPerMm, { colour: [96, 104, 120], roundness: 0.4 });
  fillDisc(r, head, 95 * head.pxPerMm, [196, 158, 132]);
  for (let k = 0; k < 5; k += 1) {
    const dot = at(-60 + 30 * k, 760 + 110 * k);
    fillDisc(r, dot, look.stickerRadiusMm * dot.pxPerMm, look.sticker);
  }
}

/** Draws everything that moves over the room already in the raster; `bikeOver` lays the bike between the far leg and the near one. */
export function drawRider(
  r: Raster,
  scene: Scene,
  thetaDeg: number,
  tS: number,
  bikeOver: (r: Raster) => void,
): void {
  const { camera, rider, bike, look } = scene;
  const pose = poseAt(rider, thetaDeg, tS);
  if (scene.mirror) drawMirror(r, scene, thetaDeg, tS, bikeOver);
  if (scene.walker) drawWalker(r, scene, tS);
  drawArm(r, camera, pose, look, false);
  drawLeg(r, camera, poseAt(rider, thetaDeg + 180, tS), rider, look, false);
  bikeOver(r);
  drawTrunk(r, camera, pose, look);
  drawBar(r, camera, bike, rider);
  drawLeg(r, camera, pose, rider, look, true);
  drawArm(r, camera, pose, look, true);
  const at = projectJoints(scene, pose);
  for (const [key, p] of Object.entries(at) as [JointKey, Vec2][]) {
    const colour = look.stickerOn?.[key] === undefined ? look.sticker : look.stickerOn[key];
    const radiusMm = look.stickerRadiusOnMm?.[key] ?? look.stickerRadiusMm;
    if (colour) fillDisc(r, p, radiusMm / camera.mmPerPx, colour);
  }
  if (scene.strap) {
    const off = Math.abs(((((thetaDeg - scene.strap.atThetaDeg + 180) % 360) + 360) % 360) - 180);
    if (off < scene.strap.halfWidthDeg) {
      const c = at[scene.strap.over];
      const { thin } = scene.strap;
      if (thin) {
        const y = c.y + thin.aroundPx;
        fillLimb(r, { x: c.x - 24, y: y - 3 }, thin.radiusPx, { x: c.x + 24, y: y + 3 }, thin.radiusPx, {
          colour: scene.strap.colour,
          roundness: 0.2,
        });
        return;
      }
      fillLimb(r, { x: c.x - 60, y: c.y - 18 }, 17, { x: c.x + 26, y: c.y + 4 }, 15, {
        colour: scene.strap.colour,
        roundness: 0.4,
      });
    }
  }
}
