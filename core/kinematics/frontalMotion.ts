import { DEG_PER_RAD, RAD_PER_DEG } from '../math/angles.ts';
import type { ImagePoint, PlanePoint } from '../math/vec.ts';
import { type FrontalLandmark } from '../landmarks/landmarks.ts';
import { bringToPlane, type Paths } from './paths.ts';
import { type Tracks } from '../tracking/tracks.ts';
import { phaseFromFeet } from './pedalPhase.ts';
import { LEAST_FRAMES, type FrontalOptions } from './frontalReading.ts';
/** How far the camera stands where nothing tells it. */
const USUAL_DISTANCE_MM = 4000;
/**
 * How far ahead of the bottom bracket a landmark is, mm: its mean where its sticker sits from the front and from the rear, and how
 * it goes with the sine and cosine of its crank arm, in crank lengths (fitted to the virtual riders). What is nearer the camera
 * looks larger, by about 3 % a 120 mm at 4 m.
 */
export const AHEAD: Record<string, { front: number; rear: number; sine: number; cosine: number }> = {
  toe: { front: 24, rear: -42, sine: 0.95, cosine: 0 },
  ankle: { front: -56, rear: -131, sine: 0.84, cosine: 0.03 },
  knee: { front: 160, rear: 60, sine: 0.21, cosine: 0.58 },
  hip: { front: -190, rear: -190, sine: 0, cosine: 0 },
  asis: { front: -130, rear: -130, sine: 0, cosine: 0 },
  psis: { front: -290, rear: -290, sine: 0, cosine: 0 },
  shoulder: { front: 170, rear: 170, sine: 0, cosine: 0 },
};
/** Half the knee's way to and fro, in crank lengths. */
export const KNEE_FORE_AFT = Math.hypot(AHEAD.knee.sine, AHEAD.knee.cosine);
/**
 * What stands for the spindle is not it: from behind, the pedal's rear edge some 46 mm back, which a foot that ankles by 11 to 12° raises
 * and lowers by the arm's cosine and sine, mm (fitted to the virtual riders). Half of it is the scatter between riders.
 */
const PEDAL_EDGE = { front: { cosine: 0, sine: 0 }, rear: { cosine: 1, sine: -9 } };
const boneOf = (key: string): string => key.slice(0, -1);

/** The landmarks in the rider's plane over the crank's turn, as far as a picture from ahead or behind can tell. */
export interface FrontalMotion {
  keys: FrontalLandmark[];
  paths: Paths<FrontalLandmark>;
  /** The right crank arm's angle at each frame, degrees. */
  thetaDeg: Float64Array;
  mmPerPx: number;
  crankMm: number;
  /** Crank as the width's scale measures it against the true one; null where one of them is open. */
  crankRatio: number | null;
  distanceMm: number | null;
  usedDistanceMm: number;
}

/** Pixels about the picture's middle, the rider's right to the right, y up, upright. */
function uprightMap({ view, width, centrePx }: FrontalOptions): (p: ImagePoint) => PlanePoint {
  const side = view === 'rear' ? 1 : -1;
  const tilt = (width?.tiltDeg ?? 0) * RAD_PER_DEG;
  return (p) => {
    const [x, y] = [p.x - centrePx.x, -(p.y - centrePx.y)];
    return {
      x: side * (x * Math.cos(tilt) - y * Math.sin(tilt)),
      y: x * Math.sin(tilt) + y * Math.cos(tilt),
    };
  };
}

/**
 * The crank's phase from the feet's rise and fall, and every landmark brought to one depth by it.
 * @returns why not, where the film is too short or the feet do not turn
 */
export function frontalMotion(
  tracks: Tracks,
  keys: FrontalLandmark[],
  options: FrontalOptions,
): { ok: true; motion: FrontalMotion } | { ok: false; frames: number | null } {
  const { width } = options;
  const paths = bringToPlane(tracks, keys, uprightMap(options));
  if (paths.tS.length < LEAST_FRAMES) return { ok: false, frames: paths.tS.length };
  const heights = (key: FrontalLandmark): number[] => paths.raw[key].map((p) => p.y);
  let phase = phaseFromFeet(heights('toeR'), heights('toeL'), paths.tS);
  if (!phase) return { ok: false, frames: null };
  const crankMm = options.crankMm ?? (options.width ? phase.amplitude * options.width.mmPerPx : 0);
  const edge = PEDAL_EDGE[options.view];
  /** Half the feet's rise, mm. */
  const riseMm = Math.hypot(crankMm + edge.cosine, edge.sine);
  const crankScale = riseMm / phase.amplitude;
  const distanceMm = distanceOf(options, crankScale);
  const usedDistance = distanceMm ?? USUAL_DISTANCE_MM;
  const towards = options.view === 'front' ? 1 : -1;
  // What is nearer the camera is drawn smaller again, about the picture's middle: first for the feet, whose heights tell the phase.
  const nearer = (key: FrontalLandmark, thetaDeg: Float64Array): PlanePoint[] => {
    const ahead = AHEAD[boneOf(key)];
    const turn = key.endsWith('R') ? 0 : 180;
    return paths.raw[key].map((p, i) => {
      const arm = (thetaDeg[i] + turn) * RAD_PER_DEG;
      const swing = ahead.sine * Math.sin(arm) + ahead.cosine * Math.cos(arm);
      const z = towards * (ahead[options.view] + crankMm * (Number.isFinite(swing) ? swing : 0));
      const k = 1 - z / usedDistance;
      return { x: p.x * k, y: p.y * k };
    });
  };
  for (let round = 0; round < 3; round += 1) {
    const { thetaDeg } = phase;
    const feet = (key: FrontalLandmark): number[] => nearer(key, thetaDeg).map((p) => p.y);
    phase = phaseFromFeet(feet('toeR'), feet('toeL'), paths.tS) ?? phase;
  }
  const lagDeg = Math.atan2(-edge.sine, crankMm + edge.cosine) * DEG_PER_RAD;
  const thetaDeg = phase.thetaDeg.map((t) => t - lagDeg);
  const mmPerPx = options.crankMm ? riseMm / phase.amplitude : options.width!.mmPerPx;
  const mm = { ...paths, raw: {} as typeof paths.raw };
  for (const key of keys)
    mm.raw[key] = nearer(key, thetaDeg).map((p) => ({ x: p.x * mmPerPx, y: p.y * mmPerPx }));
  return {
    ok: true,
    motion: {
      keys,
      paths: mm,
      thetaDeg,
      mmPerPx,
      crankMm,
      crankRatio: options.crankMm && width ? (phase.amplitude * width.mmPerPx) / riseMm : null,
      distanceMm,
      usedDistanceMm: usedDistance,
    },
  };
}

/** Lens to bottom bracket from how much larger a width ahead of it looks than the crank; null where they lie too close to tell. */
function distanceOf(options: FrontalOptions, crankScale: number): number | null {
  const { width } = options;
  if (!width || !options.crankMm) return null;
  const z = (options.view === 'front' ? 1 : -1) * width.aheadMm;
  if (Math.abs(z) < 200) return null;
  const ratio = crankScale / width.mmPerPx;
  const distance = (z * ratio) / (ratio - 1);
  return distance > 1500 && distance < 12_000 ? distance : null;
}
