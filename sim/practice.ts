import { ridden, type Habit } from './answer.ts';
import type { Camera } from './camera.ts';
import { bikeFor, CAST } from './cast.ts';
import { nextComfortable } from './human.ts';
import { trueFigures, type TrueFigures } from './measured.ts';
import { seededRandom } from './random.ts';
import { drawBike } from './render/bike.ts';
import { newPlanes, planesInto, type Part, type Planes } from './render/film.ts';
import { SKIN, type Look } from './render/look.ts';
import {
  clear,
  coveredPixels,
  grow,
  layOver,
  newLayer,
  newRaster,
  noBox,
  type Box,
  type Rgb,
} from './render/raster.ts';
import { drawRoom } from './render/room.ts';
import { drawRider, type Scene } from './render/scene.ts';
import { crankAngleDeg, type VirtualRider } from './rider.ts';

/** How far what the rider touches has been moved since it was found, mm. */
export interface Moved {
  saddleUpMm: number;
  saddleBackMm: number;
  handsUpMm: number;
  handsBackMm: number;
}
export const NOT_MOVED: Moved = { saddleUpMm: 0, saddleBackMm: 0, handsUpMm: 0, handsBackMm: 0 };
export const MOVED_KEYS = Object.keys(NOT_MOVED) as (keyof Moved)[];

/** Somebody to practise on: a made-up rider on a bike that was set up wrong. */
export interface PracticeRider {
  seed: number;
  /** On the bike that fits. */
  atEase: VirtualRider;
  habit: Habit;
  /** What has to be moved until it fits. */
  wanted: Moved;
  look: Look;
  wheelbaseMm: number;
}

/** No seatpost, rail or stem goes further than this from where it was found. */
const MOST_MM = 45;

/** What this rider does when the bike as found is moved by so much; null where the bike does not go, or leg or arm cannot reach. */
export function practiceRide({ atEase, habit, wanted }: PracticeRider, moved: Moved): VirtualRider | null {
  if (MOVED_KEYS.some((key) => Math.abs(moved[key]) > MOST_MM)) return null;
  const off = (key: keyof Moved): number => moved[key] - wanted[key];
  return ridden(
    atEase,
    {
      sitMm: { x: -off('saddleBackMm'), y: off('saddleUpMm') },
      handMm: { x: -off('handsBackMm'), y: off('handsUpMm') },
      ...{ crankMm: 0, cleatBackMm: 0, stackMm: 0 },
    },
    habit,
  );
}

const JERSEYS: readonly Rgb[] = [
  [92, 116, 124],
  [150, 78, 66],
  [70, 96, 66],
  [110, 92, 134],
];

/** The rider of a number: the same one each time. */
export function practiceRider(seed: number): PracticeRider {
  const random = seededRandom(31 * seed + 5);
  const one = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)];
  /** By so much at the least and at the most, either way. */
  const either = (least: number, most: number): number =>
    Math.round(least + (most - least) * random()) * (random() < 0.5 ? -1 : 1);
  const { look } = CAST[0].scene;
  for (;;) {
    const rider: PracticeRider = {
      seed,
      atEase: nextComfortable(random),
      habit: { kappa: 0.2 + 0.3 * random(), rho: 0.4 + 0.4 * random() },
      wanted: {
        saddleUpMm: either(9, 20),
        saddleBackMm: either(0, 14),
        handsUpMm: either(0, 25),
        handsBackMm: either(0, 20),
      },
      look: { ...look, jersey: one(JERSEYS), skin: one(SKIN), extras: [] },
      wheelbaseMm: 990 + Math.round(60 * random()),
    };
    if (practiceRide(rider, NOT_MOVED)) return rider;
  }
}

/** What a millimetre away from where it fits is to a rider: at the saddle's height most of all. */
const FELT: Moved = { saddleUpMm: 1, saddleBackMm: 0.6, handsUpMm: 0.35, handsBackMm: 0.35 };
const FELT_LEAST_MM = 1.2;

/** How far a rider feels from where it fits, mm of saddle height. */
const missMm = ({ wanted }: PracticeRider, moved: Moved): number =>
  Math.hypot(...MOVED_KEYS.map((key) => FELT[key] * (moved[key] - wanted[key])));

/** What the rider says of a change. */
export function practiceWord(rider: PracticeRider, before: Moved, after: Moved): 'better' | 'same' | 'worse' {
  const by = missMm(rider, after) - missMm(rider, before);
  if (Math.abs(by) < FELT_LEAST_MM) return 'same';
  return by < 0 ? 'better' : 'worse';
}

/** Far enough back for the tallest head. */
const CAMERA: Camera = { ...CAST[0].scene.camera, mmPerPx: 2.9, aimMm: { x: 60, y: 490 } };

/** A bolt is turned under a rider who goes on pedalling: the body takes so long to follow. */
const EASE_S = 0.8;
const between = (a: Moved, b: Moved, k: number): Moved =>
  Object.fromEntries(MOVED_KEYS.map((key) => [key, a[key] + k * (b[key] - a[key])])) as unknown as Moved;

/** The even pixels that a box of a picture of even size reaches into: what colour is kept for. */
const evenPart = ({ x0, y0, x1, y1 }: Box): Part => {
  const [x, y] = [x0 - (x0 % 2), y0 - (y0 % 2)];
  return { x, y, width: x1 + 1 + ((x1 + 1) % 2) - x, height: y1 + 1 + ((y1 + 1) % 2) - y };
};

export interface PracticeCamera {
  widthPx: number;
  heightPx: number;
  /** From the time of the next picture on it is moved by so much, all in all. */
  move: (moved: Moved) => void;
  /** The picture of a time: the same planes each time, written anew. */
  shoot: (tS: number) => Planes;
}

/** A camera beside the rider's bike. Times only go forward. */
export function practiceCamera(of: PracticeRider, start = NOT_MOVED): PracticeCamera {
  const { widthPx, heightPx } = CAMERA;
  const [room, out] = [newRaster(widthPx, heightPx), newRaster(widthPx, heightPx)];
  const planes = newPlanes(widthPx, heightPx);
  const rideOn = (moved: Moved): VirtualRider => practiceRide(of, moved) ?? of.atEase;
  const sceneOf = (rider: VirtualRider): Scene => ({
    ...{ camera: CAMERA, rider, look: of.look },
    bike: bikeFor(rider, of.wheelbaseMm),
  });
  let scene = sceneOf(rideOn(start));
  let [from, now, to, movedS] = [start, start, start, -Infinity];
  let bikeOver: (r: typeof out) => void = () => undefined;
  let last = { x0: 0, y0: 0, x1: widthPx - 1, y1: heightPx - 1 };
  drawRoom(room, CAMERA, scene.bike, of.look);

  const setUp = (rider: VirtualRider): void => {
    scene = sceneOf(rider);
    const layer = newLayer(widthPx, heightPx);
    drawBike(layer, CAMERA, scene.bike, of.look);
    const touched = coveredPixels(layer);
    bikeOver = (r) => layOver(r, layer, touched);
  };
  setUp(scene.rider);

  return {
    widthPx,
    heightPx,
    move(moved) {
      [from, to, movedS] = [now, moved, NaN];
    },
    shoot(tS) {
      if (Number.isNaN(movedS)) {
        movedS = tS;
        setUp(rideOn(to));
      }
      const gone = Math.min(1, (tS - movedS) / EASE_S);
      now = gone < 1 ? between(from, to, gone * gone * (3 - 2 * gone)) : to;
      const rider = gone < 1 ? rideOn(now) : scene.rider;
      clear(out, room, last);
      out.drawn = noBox();
      drawRider(out, { ...scene, rider }, { thetaDeg: crankAngleDeg(rider, tS), tS }, bikeOver);
      grow(last, out.drawn);
      planesInto(planes, out, evenPart(last));
      last = out.drawn;
      return planes;
    },
  };
}

/** By how much a rider’s true figures differ between two places of the bike, by figure; degrees and mm. */
export function trulyMoved(rider: PracticeRider, before: Moved, after: Moved): TrueFigures | null {
  const [a, b] = [practiceRide(rider, before), practiceRide(rider, after)];
  if (!a || !b) return null;
  const [was, is] = [trueFigures(a), trueFigures(b)];
  return Object.fromEntries(
    Object.entries(is).map(([key, v]) => [key, v - was[key as keyof TrueFigures]]),
  ) as unknown as TrueFigures;
}
