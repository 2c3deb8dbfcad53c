import { median } from '../math/statistics.ts';
import { bounds, type PlanarFrame, type Yuv } from './frame.ts';

/** The light of a film against that of one of its frames, and whether a frame shows the same picture as the one before. */
export interface LightMeter {
  /** How bright this frame is, 1 for as bright as the first. */
  gainOn: (f: PlanarFrame) => number;
  /** Whether the whole picture is the one before again: written twice. Asked once for each frame, in order. */
  isRepeat: (f: PlanarFrame) => boolean;
}

/** Luma of black in video of limited range, and chroma of grey. */
const BLACK = 16;
const GREY = 128;
/** Places looked at, across and down. */
const COLUMNS = 48;
const ROWS = 30;
/** Darker than this the grain is larger than the light's change; brighter, it may be burnt out. */
const TELLS = { from: 45, to: 215 };
/** With fewer places in sight the light is taken to be what it was. */
const LEAST_PLACES = 30;
/** A picture that differs from the one before by less than this share of what pictures usually differ by is the same one. */
const REPEAT_SHARE = 0.3;

/** A colour in a light so many times as bright. */
export function inLight([y, u, v]: Readonly<Yuv>, gain: number): Yuv {
  return [BLACK + (y - BLACK) * gain, GREY + (u - GREY) * gain, GREY + (v - GREY) * gain];
}

/**
 * Measures the light by a grid of places: most of them stand still, so the median of their ratios to the reference is the light's own
 * change, whatever moves before them.
 */
export function lightMeter(reference: PlanarFrame): LightMeter {
  const places: { x: number; y: number; luma: number }[] = [];
  for (let j = 0; j < ROWS; j += 1)
    for (let i = 0; i < COLUMNS; i += 1) {
      const x = Math.floor(((i + 0.5) / COLUMNS) * reference.width);
      const y = Math.floor(((j + 0.5) / ROWS) * reference.height);
      places.push({ x, y, luma: around(reference, x, y) });
    }
  let gain = 1;
  let before: Float32Array<ArrayBufferLike> | null = null;
  let now: Float32Array<ArrayBufferLike> = new Float32Array(places.length);
  let usual = 0;
  let repeats = 0;
  return {
    gainOn(f) {
      const { left, top, right, bottom } = bounds(f);
      const ratios: number[] = [];
      for (const p of places) {
        if (p.luma < TELLS.from || p.luma > TELLS.to) continue;
        if (p.x <= left || p.x >= right || p.y <= top || p.y >= bottom) continue;
        const luma = around(f, p.x, p.y);
        if (luma < TELLS.to) ratios.push((luma - BLACK) / (p.luma - BLACK));
      }
      if (ratios.length >= LEAST_PLACES) gain = median(ratios);
      return gain;
    },
    isRepeat(f) {
      const { left, top, right, bottom } = bounds(f);
      places.forEach((p, k) => {
        const inside = p.x > left && p.x < right && p.y > top && p.y < bottom;
        now[k] = inside ? f.y[p.y * f.yStride + p.x] : NaN;
      });
      const was = before;
      before = now;
      now = was ?? new Float32Array(places.length);
      if (!was) return false;
      let [sum, n] = [0, 0];
      for (let k = 0; k < places.length; k += 1) {
        const d = before[k] - was[k];
        if (Number.isNaN(d)) continue;
        sum += d * d;
        n += 1;
      }
      if (n < LEAST_PLACES) return false;
      const differs = Math.sqrt(sum / n);
      const repeat = usual > 0.5 && differs < REPEAT_SHARE * usual && repeats < 2;
      repeats = repeat ? repeats + 1 : 0;
      if (!repeat) usual = usual === 0 ? differs : usual + 0.15 * (differs - usual);
      return repeat;
    },
  };
}

/** Mean luma of five pixels: less grain. */
function around(f: PlanarFrame, x: number, y: number): number {
  const k = y * f.yStride + x;
  return (f.y[k] + f.y[k - 1] + f.y[k + 1] + f.y[k - f.yStride] + f.y[k + f.yStride]) / 5;
}
