import { median, standardDeviation } from '../math/statistics.ts';
import { lightMeter, type LightMeter } from '../tracking/light.ts';
import type { PlanarFrame } from '../tracking/frame.ts';
import type { CameraPath } from '../tracking/steadied.ts';
import { watchSteadiness, type Shift } from './steadiness.ts';

/** What a film's pictures tell of camera and light. */
export interface FilmFacts {
  frames: number;
  seconds: number;
  framesPerS: number;
  /** Pictures that are the one before again, and moments at which pictures are missing. */
  repeats: number;
  missing: number;
  /** When another scene begins, s. */
  cutsS: number[];
  /** When the camera was pushed, and by how much, px; the steady tremble's SD, px. */
  knocks: { atS: number; byPx: number }[];
  tremblePx: number;
  /** Where the picture stood all along; null where it stood still. */
  cameraPath: CameraPath | null;
  /** Flicker from picture to picture, SD as a share; the brightest against the darkest stretch. */
  flicker: number;
  drift: number;
  /** Share of the first picture that is burnt out, and that is drowned. */
  white: number;
  black: number;
}

export interface FactsCollector {
  /** Every picture of the film, in order. */
  see: (f: PlanarFrame, tS: number) => void;
  facts: () => FilmFacts;
}

/** The light is smoothed over so many pictures to tell flicker from drift. */
const SMOOTH = 15;
/** A camera that stands this far from where it stood is knocked, px; what comes back within a moment as well. */
const KNOCK_PX = 2.5;
const KNOCK_TIMES = 4.5;
const ONE_KNOCK_S = 0.8;
/** A steady tremble above this is worth taking out, SD, px. */
export const TREMBLE_TELLS_PX = 0.4;
/** So many pictures that can't be laid over the first are another scene. */
const CUT_FRAMES = 5;

const middleOf = (list: readonly number[], i: number): number =>
  median(list.slice(Math.max(0, i - SMOOTH), i + SMOOTH + 1));

/** Video keeps luma between 16 and 235: what lies at the very ends is burnt out or drowned. */
export function exposureOf(f: PlanarFrame): { white: number; black: number } {
  let [white, black, n] = [0, 0, 0];
  for (let y = 0; y < f.height; y += 2) {
    for (let x = 0; x < f.width; x += 2) {
      const v = f.y[y * f.yStride + x];
      if (v >= 234) white += 1;
      else if (v <= 17) black += 1;
      n += 1;
    }
  }
  return { white: white / n, black: black / n };
}

/** Gathers what a film's pictures tell of camera and light, in one pass over them. */
export function collectFacts(): FactsCollector {
  const stamps: number[] = [];
  const gains: number[] = [];
  const shifts: Shift[] = [];
  let repeats = 0;
  let exposure = { white: 0, black: 0 };
  let meter: LightMeter | null = null;
  let steady: ((f: PlanarFrame) => Shift) | null = null;
  return {
    see(f, tS) {
      if (!meter || !steady) {
        meter = lightMeter(f);
        steady = watchSteadiness(f);
        exposure = exposureOf(f);
      }
      if (meter.isRepeat(f)) repeats += 1;
      stamps.push(tS);
      gains.push(meter.gainOn(f));
      // Every other picture will do: a knock lasts longer.
      shifts.push(shifts.length % 2 === 0 || shifts.at(-1) === null ? steady(f) : (shifts.at(-1) ?? null));
    },
    facts() {
      const steps = stamps.slice(1).map((t, i) => t - stamps[i]);
      const step = steps.length > 0 ? median(steps) : 0;
      const slow = gains.map((_, i) => middleOf(gains, i));
      return {
        frames: stamps.length,
        seconds: stamps.length > 1 ? stamps[stamps.length - 1] - stamps[0] + step : 0,
        framesPerS: step > 0 ? 1 / step : 0,
        repeats,
        missing: steps.reduce((n, s) => n + (step > 0 ? Math.max(0, Math.round(s / step) - 1) : 0), 0),
        ...cameraOf(shifts, stamps),
        flicker: gains.length > 2 ? standardDeviation(gains.map((g, i) => g / slow[i])) : 0,
        drift: slow.length > 0 ? Math.max(...slow) / Math.max(1e-3, Math.min(...slow)) - 1 : 0,
        ...exposure,
      };
    },
  };
}

/** Cuts, knocks and tremble from where each picture stands. */
function cameraOf(
  shifts: readonly Shift[],
  stamps: readonly number[],
): Pick<FilmFacts, 'cutsS' | 'knocks' | 'tremblePx' | 'cameraPath'> {
  const cutsS: number[] = [];
  const knocks: FilmFacts['knocks'] = [];
  let lost = 0;
  let rest = { x: 0, y: 0 };
  const off: { x: number; y: number; atS: number }[] = [];
  shifts.forEach((s, i) => {
    if (!s) {
      lost += 1;
      if (lost === CUT_FRAMES) cutsS.push(stamps[i - CUT_FRAMES + 1]);
      return;
    }
    lost = 0;
    off.push({ x: s.x - rest.x, y: s.y - rest.y, atS: stamps[i] });
    // Where the picture stays is its new place.
    rest = { x: rest.x + 0.1 * (s.x - rest.x), y: rest.y + 0.1 * (s.y - rest.y) };
  });
  // Half of a tremble's places lie within 1.18 of its SD: a knock stands out of it.
  const usualPx = off.length > 0 ? median(off.map((o) => Math.hypot(o.x, o.y))) / 1.18 : 0;
  const knockPx = Math.max(KNOCK_PX, KNOCK_TIMES * usualPx);
  const about: number[] = [];
  for (const { x, y, atS } of off) {
    const byPx = Math.hypot(x, y);
    const last = knocks.at(-1);
    if (byPx <= knockPx) about.push(x, y);
    else if (last && atS - last.atS < ONE_KNOCK_S) last.byPx = Math.max(last.byPx, byPx);
    else knocks.push({ atS, byPx });
  }
  const tremblePx = about.length > 4 ? standardDeviation(about) : 0;
  const moved = cutsS.length === 0 && (knocks.length > 0 || tremblePx >= TREMBLE_TELLS_PX);
  return { cutsS, knocks, tremblePx, cameraPath: moved ? pathOf(shifts, stamps) : null };
}

const hundredths = (v: number): number => Math.round(100 * v) / 100;

/** The shifts of the pictures that were measured themselves: every other one. */
function pathOf(shifts: readonly Shift[], stamps: readonly number[]): CameraPath {
  const path: CameraPath = { tS: [], xPx: [], yPx: [] };
  shifts.forEach((s, i) => {
    if (!s || s === shifts[i - 1]) return;
    path.tS.push(stamps[i]);
    path.xPx.push(hundredths(s.x));
    path.yPx.push(hundredths(s.y));
  });
  return path;
}
