import { crankAngleDeg, poseAt } from '../rider.ts';
import { gaussian, seededRandom } from '../random.ts';
import { clear, coveredPixels, grow, layOver, newLayer, newRaster, noBox, type Raster } from './raster.ts';
import { drawBike } from './bike.ts';
import { drawRoom } from './room.ts';
import { drawFarSide, drawNearSide, projectJoints, type Scene } from './scene.ts';

export interface FilmSetting {
  framesPerS: number;
  shutterS: number;
  /** Sub-exposures averaged over the shutter: at most about 1.5 px apart for the foot. */
  subFrames: number;
  noiseSigma: number;
  seed: number;
}

export interface FrameTruth {
  tS: number;
  thetaDeg: number;
  joints: ReturnType<typeof projectJoints>;
}

/** What the camera should have seen at mid-exposure of frame i: the truth in pixels. */
export function frameTruth(scene: Scene, film: FilmSetting, i: number): FrameTruth {
  const tS = i / film.framesPerS;
  const thetaDeg = crankAngleDeg(scene.rider, tS);
  return { tS, thetaDeg, joints: projectJoints(scene, poseAt(scene.rider, thetaDeg, tS)) };
}

/** Something to be filmed: what stands still is drawn once, what moves for every exposure. */
export interface Act {
  widthPx: number;
  heightPx: number;
  still: (r: Raster) => void;
  moving: (r: Raster, tS: number) => void;
}

/** A camera pointed at a scene: `shoot(i)` exposes frame i and returns the same raster each time, drawn anew. */
export function openFilm(scene: Scene, film: FilmSetting): FilmCamera {
  const { widthPx, heightPx } = scene.camera;
  const bikeLayer = newLayer(widthPx, heightPx);
  drawBike(bikeLayer, scene.camera, scene.bike, scene.look);
  const bikePixels = coveredPixels(bikeLayer);
  const bikeOver = (r: Raster): void => layOver(r, bikeLayer, bikePixels);
  const room = newRaster(widthPx, heightPx);
  drawRoom(room, scene.camera, scene.bike, scene.look);
  const far = newRaster(widthPx, heightPx);
  clear(far, room, { x0: 0, y0: 0, x1: widthPx - 1, y1: heightPx - 1 });
  return openCamera(
    {
      widthPx,
      heightPx,
      still: (r) => {
        r.rgb.set(room.rgb);
        bikeOver(r);
      },
      moving: (r, tS) => {
        const moment = { thetaDeg: crankAngleDeg(scene.rider, tS), tS };
        far.drawn = noBox();
        drawFarSide(far, scene, moment, bikeOver);
        // The bike stands still: it is laid anew over what has moved behind it alone.
        clear(r, far, far.drawn);
        layOver(r, bikeLayer, bikePixels, far.drawn);
        clear(far, room, far.drawn);
        drawNearSide(r, scene, moment);
      },
    },
    film,
  );
}

/** Adds what an exposure shows beyond the room to the sum of those before it, and leaves the room in its place. */
function addMoved(sum: Uint16Array, exposure: Raster, room: Raster): void {
  const { width, rgb, drawn } = exposure;
  for (let y = drawn.y0; y <= drawn.y1; y += 1) {
    const to = 3 * (y * width + drawn.x1 + 1);
    for (let n = 3 * (y * width + drawn.x0); n < to; n += 1) {
      sum[n] += rgb[n] - room.rgb[n];
      rgb[n] = room.rgb[n];
    }
  }
}

/** A stretch of a picture's row: the mean of what was summed, with the sensor's noise. */
function develop(
  rgb: Uint8ClampedArray,
  sum: Uint16Array,
  { mean64, grain, grainFrom }: { mean64: Int32Array; grain: Int16Array; grainFrom: number },
): void {
  for (let n = 0; n < rgb.length; n += 1)
    rgb[n] = (mean64[sum[n]] + grain[(grainFrom + 1 + n) & 65535] + 32) >> 6;
}

/** What exposes frame by frame; where a part is asked for, the rest of the picture may be an earlier frame's. */
export interface FilmCamera {
  shoot: (i: number, part?: Part) => Raster;
}

/** Exposes an act frame by frame: each the mean over the open shutter, with the sensor's noise. */
export function openCamera(act: Act, film: FilmSetting): FilmCamera {
  const { widthPx, heightPx } = act;
  const room = newRaster(widthPx, heightPx);
  act.still(room);
  const out = newRaster(widthPx, heightPx);
  const exposure = newRaster(widthPx, heightPx);
  exposure.rgb.set(room.rgb);
  /** The sum of exposures that show the room alone. */
  const still = new Uint16Array(room.rgb);
  for (let n = 0; n < still.length; n += 1) still[n] *= film.subFrames;
  const sum = still.slice();
  let moved = noBox();
  const random = seededRandom(film.seed);
  const grain = new Int16Array(65536).map(() => Math.round(64 * film.noiseSigma * gaussian(random)));
  /** The mean of a sum of exposures, in 1/64 of a grey level. */
  const mean64 = Int32Array.from({ length: 255 * film.subFrames + 1 }, (_, s) => (64 * s) / film.subFrames);
  return {
    shoot(i, part = { x: 0, y: 0, width: widthPx, height: heightPx }) {
      const tMid = i / film.framesPerS;
      for (let y = moved.y0; y <= moved.y1; y += 1) {
        const [from, to] = [moved.x0, moved.x1 + 1].map((x) => 3 * (y * widthPx + x));
        sum.set(still.subarray(from, to), from);
      }
      moved = noBox();
      for (let k = 0; k < film.subFrames; k += 1) {
        const tS = tMid + film.shutterS * ((k + 0.5) / film.subFrames - 0.5);
        exposure.drawn = noBox();
        act.moving(exposure, tS);
        addMoved(sum, exposure, room);
        grow(moved, exposure.drawn);
      }
      // Each row starts elsewhere in the grain.
      const perFrame = seededRandom(film.seed * 100_003 + i);
      // A pixel more on each side: chroma is made of its neighbours too.
      const from = 3 * Math.max(0, part.x - 1);
      const to = 3 * Math.min(widthPx, part.x + part.width + 1);
      for (let row = 0; row < part.y + part.height; row += 1) {
        const grainFrom = Math.floor(perFrame() * 65536) + from;
        if (row < part.y) continue;
        const stretch = [3 * widthPx * row + from, 3 * widthPx * row + to] as const;
        develop(out.rgb.subarray(...stretch), sum.subarray(...stretch), { mean64, grain, grainFrom });
      }
      return out;
    },
  };
}

/** A picture as the three planes of 4:2:0 video, one behind the other in `data`. */
export interface Planes {
  width: number;
  height: number;
  data: Uint8Array;
  y: Uint8Array;
  u: Uint8Array;
  v: Uint8Array;
}

export function newPlanes(width: number, height: number): Planes {
  const [whole, quarter] = [width * height, (width >> 1) * (height >> 1)];
  const data = new Uint8Array(whole + 2 * quarter);
  return {
    ...{ width, height, data },
    y: data.subarray(0, whole),
    u: data.subarray(whole, whole + quarter),
    v: data.subarray(whole + quarter),
  };
}

/** A part of a picture, on even pixels. */
export interface Part {
  x: number;
  y: number;
  width: number;
  height: number;
}

/** Writes a part of the raster into the planes: BT.709, limited range, as a decoder hands them out, chroma left-sited. */
export function planesInto({ y, u, v }: Planes, { width, rgb }: Raster, part: Part): void {
  for (let row = part.y; row < part.y + part.height; row += 1) {
    for (let n = row * width + part.x, k = 3 * n; n < row * width + part.x + part.width; n += 1, k += 3)
      y[n] = 16 + 0.1826 * rgb[k] + 0.6142 * rgb[k + 1] + 0.062 * rgb[k + 2] + 0.5;
  }
  // Chroma sits on the even columns, between the rows: weights 1 2 1 across, 1 1 down.
  const line = 3 * width;
  const cw = width >> 1;
  const sumAt = (k: number): number => rgb[k] + rgb[k + line];
  for (let cy = part.y >> 1; cy < (part.y + part.height) >> 1; cy += 1) {
    for (let cx = part.x >> 1; cx < (part.x + part.width) >> 1; cx += 1) {
      const k = (2 * cy * width + 2 * cx) * 3;
      const left = cx > 0 ? k - 3 : k;
      const right = 2 * cx + 1 < width ? k + 3 : k;
      const red = 0.125 * (sumAt(left) + 2 * sumAt(k) + sumAt(right));
      const green = 0.125 * (sumAt(left + 1) + 2 * sumAt(k + 1) + sumAt(right + 1));
      const blue = 0.125 * (sumAt(left + 2) + 2 * sumAt(k + 2) + sumAt(right + 2));
      u[cy * cw + cx] = 128.5 - 0.1006 * red - 0.3386 * green + 0.4392 * blue;
      v[cy * cw + cx] = 128.5 + 0.4392 * red - 0.3989 * green - 0.0403 * blue;
    }
  }
}

/** The whole raster as planes. */
export function toPlanes(r: Raster): Planes {
  const { width, height } = r;
  const planes = newPlanes(width, height);
  planesInto(planes, r, { x: 0, y: 0, width, height });
  return planes;
}
