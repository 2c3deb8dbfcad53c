import { quickselect, type Primitive } from 'd3';
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
/** Places at which the light is measured, across and down; and those at which two pictures are compared, where few of them move. */
const LIGHT_GRID = { columns: 36, rows: 22 };
const REPEAT_GRID = { columns: 80, rows: 45 };
/** Darker than this the grain is larger than the light's change; brighter, it may be burnt out. */
const TELLS = { from: 45, to: 215 };
/** With fewer places in sight the light is taken to be what it was. */
const LEAST_PLACES = 30;
/** A picture that differs from the one before by less than this share of what pictures usually differ by is the same one. */
const REPEAT_SHARE = 0.25;

const byValue = (a?: Primitive, b?: Primitive): number => Number(a) - Number(b);

/** A colour in a light so many times as bright. */
export function inLight([y, u, v]: Readonly<Yuv>, gain: number): Yuv {
  return [BLACK + (y - BLACK) * gain, GREY + (u - GREY) * gain, GREY + (v - GREY) * gain];
}

/** Places spread evenly over a picture. */
function placesOf(
  { width, height }: PlanarFrame,
  { columns, rows }: { columns: number; rows: number },
): { xs: Int32Array; ys: Int32Array } {
  const many = { length: columns * rows };
  return {
    xs: Int32Array.from(many, (_, k) => Math.floor((((k % columns) + 0.5) / columns) * width)),
    ys: Int32Array.from(many, (_, k) => Math.floor(((Math.floor(k / columns) + 0.5) / rows) * height)),
  };
}

/**
 * Measures the light by a grid of places: most of them stand still, so the median of their ratios to the reference is the light's own
 * change, whatever moves before them.
 */
export function lightMeter(reference: PlanarFrame): LightMeter {
  const { xs, ys } = placesOf(reference, LIGHT_GRID);
  const dense = placesOf(reference, REPEAT_GRID);
  const lumas = Float64Array.from(xs, (x, k) => around(reference, x, ys[k]));
  const ratios = new Float64Array(xs.length);
  let gain = 1;
  let before: Float32Array<ArrayBufferLike> | null = null;
  let now: Float32Array<ArrayBufferLike> = new Float32Array(dense.xs.length);
  let usual = 0;
  let repeats = 0;
  return {
    gainOn(f) {
      const { left, top, right, bottom } = bounds(f);
      let n = 0;
      for (let k = 0; k < xs.length; k += 1) {
        const [x, y, was] = [xs[k], ys[k], lumas[k]];
        if (was < TELLS.from || was > TELLS.to) continue;
        if (x <= left || x >= right || y <= top || y >= bottom) continue;
        const luma = around(f, x, y);
        if (luma >= TELLS.to) continue;
        ratios[n] = (luma - BLACK) / (was - BLACK);
        n += 1;
      }
      if (n >= LEAST_PLACES) gain = quickselect(ratios, n >> 1, 0, n - 1, byValue)[n >> 1];
      return gain;
    },
    isRepeat(f) {
      const { left, top, right, bottom } = bounds(f);
      for (let k = 0; k < now.length; k += 1) {
        const [x, y] = [dense.xs[k], dense.ys[k]];
        const inside = x > left && x < right && y > top && y < bottom;
        now[k] = inside ? f.y[y * f.yStride + x] : NaN;
      }
      const was = before;
      before = now;
      now = was ?? new Float32Array(now.length);
      if (!was) return false;
      let [sum, n] = [0, 0];
      for (let k = 0; k < was.length; k += 1) {
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
