/**
 * Makes the demo clips from the virtual rider, with their truth beside them. Needs ffmpeg; what it makes is committed.
 *   npm run demo            all riders
 *   npm run demo -- maren   one
 */
import { mkdirSync, writeFileSync } from 'node:fs';
import { CAST, FRONTAL_CAST, trueCadenceRpm, type CastMember, type FrontalMember } from '../sim/cast.ts';
import { project, wheelsInPicture } from '../sim/camera.ts';
import { barOnPicture } from '../sim/frontal.ts';
import { frontalAct, frontalStickers } from '../sim/render/frontalScene.ts';
import { extrasOf, hipStickerMm, hoodMm, poseAt } from '../sim/rider.ts';
import { encode } from './demo/encode.ts';
import { MAREN_AGAIN } from './demo/rounds.ts';
import { frameTruth, openCamera, openFilm } from '../sim/render/film.ts';

const round = (v: number, digits = 3): number => Number(v.toFixed(digits));

function truth(member: CastMember, frames: number): object {
  const { scene, film } = member;
  const px = (p: { x: number; y: number }): { x: number; y: number } => ({ x: round(p.x), y: round(p.y) });
  const { rear, front, ...rims } = wheelsInPicture(scene.camera, scene.bike);
  const perFrame = Array.from({ length: frames }, (_, i) => frameTruth(scene, film, i));
  const centre = project(scene.camera, { x: 0, y: 0 }, 172);
  return {
    clip: `${member.id}.${member.container}`,
    framesPerS: film.framesPerS,
    frames,
    facing: scene.camera.facing,
    crankMm: scene.rider.crankMm,
    wheelbaseMm: round(scene.bike.frontAxle.x - scene.bike.rearAxle.x),
    rearAxlePx: px(rear),
    frontAxlePx: px(front),
    rimsPx: Object.fromEntries(Object.entries(rims).map(([key, p]) => [key, px(p)])),
    crankCentrePx: px(centre),
    cadenceRpm: round(trueCadenceRpm(scene.rider, (frames - 1) / film.framesPerS), 4),
    thetaDeg: perFrame.map((f) => round(f.thetaDeg)),
    jointsPx: Object.fromEntries(
      Object.keys(perFrame[0].joints).map((key) => [
        key,
        perFrame.map((f) => [round(f.joints[key as 'hip'].x), round(f.joints[key as 'hip'].y)]),
      ]),
    ),
    jointsMm: Object.fromEntries(
      Object.keys(perFrame[0].joints).map((key) => [
        key,
        perFrame.map((f) => {
          const pose = poseAt(scene.rider, f.thetaDeg, f.tS);
          const p = {
            ...pose.joints,
            hip: hipStickerMm(scene.rider, pose),
            ...extrasOf(pose, scene.rider.headAboveBackMm),
          }[key as 'hip'];
          return [round(p.x, 2), round(p.y, 2)];
        }),
      ]),
    ),
  };
}

/** What the camera ahead or behind should have seen. */
function frontalTruth(member: FrontalMember, frames: number): object {
  const { scene, film } = member;
  const hood = hoodMm(scene.rider);
  const bar = { x: hood.x - 60, y: hood.y - 30, widthMm: scene.barWidthMm };
  const perFrame = Array.from({ length: frames }, (_, i) => frontalStickers(scene, i / film.framesPerS));
  return {
    clip: `${member.id}.webm`,
    framesPerS: film.framesPerS,
    frames,
    view: scene.view,
    crankMm: scene.rider.crankMm,
    barMm: scene.barWidthMm,
    barPx: barOnPicture(scene.camera, scene.view, bar),
    jointsPx: Object.fromEntries(
      Object.keys(perFrame[0]).map((key) => [key, perFrame.map((f) => [round(f[key].x), round(f[key].y)])]),
    ),
  };
}

mkdirSync('public/demo', { recursive: true });
const truthOnly = process.argv.includes('--truth-only');
const wanted = process.argv.slice(2).filter((a) => !a.startsWith('--'));
for (const member of [...CAST, ...MAREN_AGAIN]) {
  if (wanted.length && !wanted.includes(member.id)) continue;
  const frames = Math.round(member.seconds * member.film.framesPerS);
  const { scene, film } = member;
  if (!truthOnly)
    await encode(
      { camera: scene.camera, framesPerS: film.framesPerS, shoot: openFilm(scene, film).shoot },
      `public/demo/${member.id}.${member.container}`,
      frames,
    );
  writeFileSync(`public/demo/${member.id}.truth.json`, JSON.stringify(truth(member, frames)));
}
for (const member of FRONTAL_CAST) {
  if (wanted.length && !wanted.includes(member.id)) continue;
  const frames = Math.round(member.seconds * member.film.framesPerS);
  const { scene, film } = member;
  if (!truthOnly)
    await encode(
      { camera: scene.camera, framesPerS: film.framesPerS, shoot: openCamera(frontalAct(scene), film).shoot },
      `public/demo/${member.id}.webm`,
      frames,
    );
  writeFileSync(`public/demo/${member.id}.truth.json`, JSON.stringify(frontalTruth(member, frames)));
}
