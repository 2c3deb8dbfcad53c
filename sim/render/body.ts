import { project, type Camera } from '../camera.ts';
import { footToPlane, type Pose, type VirtualRider } from '../rider.ts';
import type { Vec2 } from '../../core/math/vec.ts';
import { fillLimb, type ConeLook, type Raster } from './raster.ts';
import type { Look } from './look.ts';
import { dim, tubeDrawer } from './tubes.ts';

const NEAR = 130;
const FAR = -130;

type Body = { camera: Camera; rider: VirtualRider; look: Look };
/** A place and the limb’s radius there, mm. */
type End = readonly [at: Vec2, radiusMm: number];

export function drawLeg(r: Raster, { camera, rider, look }: Body, pose: Pose, near: boolean): void {
  const k = near ? 1 : 0.62;
  const z = near ? NEAR : FAR;
  const { hip, knee, ankle } = pose.joints;
  const at = (p: Vec2, radiusMm: number): [Vec2, number] => {
    const q = project(camera, p, z);
    return [q, radiusMm * q.pxPerMm];
  };
  const limb = ([a, ra]: End, [b, rb]: End, coat: ConeLook): void => {
    const [pa, qa] = at(a, ra);
    const [pb, qb] = at(b, rb);
    fillLimb(r, { at: pa, radiusPx: qa }, { at: pb, radiusPx: qb }, coat);
  };
  const tube = tubeDrawer(r, camera);
  tube({ x: 0, y: 0 }, pose.spindle, { radiusMm: 13, colour: dim([96, 98, 102], k), zMm: near ? 70 : -70 });
  const foot = (x: number, y: number): Vec2 => footToPlane(pose.spindle, pose.footPitchDeg, x, y);
  const shoe = { colour: dim(look.shoe, k), roundness: 0.35, weave: look.weave * 0.5, seed: 4 };
  const skin = dim(look.skin, k);
  const shorts = dim(look.shorts, k);
  limb([knee, 50], [ankle, 33], {
    colour: look.shortsTo > 1 ? shorts : skin,
    roundness: 0.5,
    weave: look.shortsTo > 1 ? look.weave : look.weave * 0.4,
    seed: 2,
    split: { at: 0.86, colour: look.shortsTo > 1 ? shorts : dim([228, 226, 220], k) },
  });
  const sole = rider.soleAboveMm;
  // The uppers reach a little below heel and toe stickers, so that both lie on the shoe.
  limb([foot(-rider.heelBehindMm - 2, sole + 17), 35], [foot(10, sole + 13), 32], shoe);
  limb([foot(10, sole + 13), 32], [foot(rider.shoeTipMm, sole + 2), 21], shoe);
  limb(
    [foot(-rider.ankleBehindMm, rider.ankleAboveMm - 6), 35],
    [foot(-rider.ankleBehindMm + 40, sole + 34), 36],
    shoe,
  );
  limb([foot(-rider.heelBehindMm, sole - 18), 4], [foot(rider.shoeTipMm - 4, sole - 18), 4], {
    colour: dim(look.sole, k),
    roundness: 0,
  });
  limb([foot(-45, -4), 7], [foot(45, -4), 7], { colour: dim([58, 58, 60], k), roundness: 0.3 });
  limb([hip, 92], [knee, 57], {
    colour: shorts,
    roundness: 0.5,
    weave: look.weave,
    seed: 1,
  });
  if (look.shortsTo < 1) {
    // Skin from the hem down, smoother than cloth.
    const hem = { x: hip.x + (knee.x - hip.x) * look.shortsTo, y: hip.y + (knee.y - hip.y) * look.shortsTo };
    limb([hem, 64], [knee, 57], { colour: skin, roundness: 0.5, weave: look.weave * 0.4, seed: 6 });
    limb([{ x: hem.x + (hip.x - knee.x) * 0.09, y: hem.y + (hip.y - knee.y) * 0.09 }, 67], [hem, 65], {
      colour: shorts,
      roundness: 0.5,
      weave: look.weave,
      seed: 1,
    });
  }
}

// eslint-disable-next-line max-lines-per-function -- one shape after the other, from the back to the front
export function drawTrunk(r: Raster, camera: Camera, pose: Pose, look: Look): void {
  const { hip, shoulder } = pose.joints;
  const p = project(camera, { x: hip.x - 12, y: hip.y + 25 }, 0);
  const q = project(camera, { x: shoulder.x - 8, y: shoulder.y - 28 }, 0);
  fillLimb(
    r,
    { at: p, radiusPx: 105 * p.pxPerMm },
    { at: q, radiusPx: 98 * q.pxPerMm },
    {
      colour: look.jersey,
      roundness: 0.55,
      weave: look.weave,
      seed: 7,
    },
  );
  if (look.stripes)
    for (let k = 1; k < 9; k += 2) {
      const at = { x: p.x + ((q.x - p.x) * k) / 9, y: p.y + ((q.y - p.y) * k) / 9 };
      const [dx, dy] = [q.x - p.x, q.y - p.y];
      const across = (92 * p.pxPerMm) / Math.hypot(dx, dy);
      const ends = [-1, 1].map((s) => ({ x: at.x - s * across * dy, y: at.y + s * across * dx }));
      fillLimb(
        r,
        { at: ends[0], radiusPx: 14 * p.pxPerMm },
        { at: ends[1], radiusPx: 14 * p.pxPerMm },
        { colour: look.stripes, roundness: 0.2 },
      );
    }
  const ux = shoulder.x - hip.x;
  const uy = shoulder.y - hip.y;
  const l = Math.hypot(ux, uy);
  const neck = { x: shoulder.x + (ux / l) * 90, y: shoulder.y + (uy / l) * 60 + 55 };
  const head = { x: neck.x + 62, y: neck.y + 72 };
  const n = project(camera, neck, 0);
  const h = project(camera, head, 0);
  const collar = project(camera, { x: shoulder.x + ux * 0.05, y: shoulder.y + 25 }, 0);
  fillLimb(
    r,
    { at: collar, radiusPx: 52 * q.pxPerMm },
    { at: n, radiusPx: 50 * n.pxPerMm },
    {
      colour: dim(look.jersey, 0.9),
      roundness: 0.4,
      weave: look.weave,
    },
  );
  fillLimb(
    r,
    { at: n, radiusPx: 50 * n.pxPerMm },
    { at: h, radiusPx: 84 * h.pxPerMm },
    { colour: look.skin, roundness: 0.4 },
  );
  const back = project(camera, { x: head.x - 70, y: head.y + 46 }, 0);
  const front = project(camera, { x: head.x + 60, y: head.y + 58 }, 0);
  fillLimb(
    r,
    { at: back, radiusPx: 56 * back.pxPerMm },
    { at: front, radiusPx: 44 * front.pxPerMm },
    { colour: look.helmet, roundness: 0.5 },
  );
}

export function drawArm(r: Raster, { camera, look }: Body, pose: Pose, near: boolean): void {
  const z = near ? 185 : -185;
  const k = near ? 1 : 0.6;
  const { shoulder, elbow, wrist } = pose.joints;
  const s = project(camera, shoulder, z);
  const e = project(camera, elbow, z);
  const w = project(camera, wrist, z);
  const hand = project(camera, { x: wrist.x + 62, y: wrist.y - 12 }, z);
  fillLimb(
    r,
    { at: s, radiusPx: 58 * s.pxPerMm },
    { at: e, radiusPx: 42 * e.pxPerMm },
    {
      colour: dim(look.jersey, k),
      roundness: 0.5,
      weave: look.weave,
      seed: 9,
      split: { at: look.sleeveTo, colour: dim(look.skin, k) },
    },
  );
  fillLimb(
    r,
    { at: e, radiusPx: 41 * e.pxPerMm },
    { at: w, radiusPx: 27 * w.pxPerMm },
    {
      colour: dim(look.skin, k),
      roundness: 0.5,
      weave: look.weave * 0.4,
      seed: 3,
    },
  );
  fillLimb(
    r,
    { at: w, radiusPx: 28 * w.pxPerMm },
    { at: hand, radiusPx: 24 * hand.pxPerMm },
    { colour: dim([54, 54, 58], k), roundness: 0.4 },
  );
}
