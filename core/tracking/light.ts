import { bisectLeft, bisectRight } from 'd3';
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
const LIGHT_GRID = { columns: 20, rows: 12 };
const REPEAT_GRID = { columns: 48, rows: 27 };
/** Darker than this the grain is larger than the light's change; brighter, it may be burnt out. */
const TELLS = { from: 45, to: 215 };
/** With fewer places in sight the light is taken to be what it was. */
const LEAST_PLACES = 30;
/** A picture that differs from the one before by less than this share of what pictures usually differ by is the same one. */
const REPEAT_SHARE = 0.25;

/** A colour in a light so many times as bright. */
export function inLight([y, u, v]: Readonly<Yuv>, gain: number): Yuv {
  return [BLACK + (y - BLACK) * gain, GREY + (u - GREY) * gain, GREY + (v - GREY) * gain];
}

/** Places spread evenly over a picture: the columns and rows of a grid, px. */
interface Grid {
  xs: Int32Array;
  ys: Int32Array;
}

function gridOver(
  { width, height }: PlanarFrame,
  { columns, rows }: { columns: number; rows: number },
): Grid {
  const spread = (many: number, over: number): Int32Array =>
    Int32Array.from({ length: many }, (_, k) => Math.floor(((k + 0.5) / many) * over));
  return { xs: spread(columns, width), ys: spread(rows, height) };
}

/** Columns or rows of a grid, up to but not with `to`. */
interface Stretch {
  from: number;
  to: number;
}

/** The columns and rows of a grid at which a picture is filled. */
interface Span {
  column: Stretch;
  row: Stretch;
}

function spanOf(f: PlanarFrame, { xs, ys }: Grid): Span {
  const { left, top, right, bottom } = bounds(f);
  const between = (places: Int32Array, first: number, last: number): Stretch => ({
    from: bisectRight(places, first),
    to: bisectLeft(places, last),
  });
  return { column: between(xs, left, right), row: between(ys, top, bottom) };
}

/** Where both are filled. */
function overlap(a: Span, b: Span): Span {
  const both = (p: Stretch, q: Stretch): Stretch => ({
    from: Math.max(p.from, q.from),
    to: Math.min(p.to, q.to),
  });
  return { column: both(a.column, b.column), row: both(a.row, b.row) };
}

/** Luma at each place of a grid within a span, each at its own place of a list. */
function lumasAt(f: PlanarFrame, { xs, ys }: Grid, { column, row }: Span, into: Uint8Array): void {
  for (let j = row.from; j < row.to; j += 1) {
    const line = ys[j] * f.yStride;
    const at = j * xs.length;
    for (let i = column.from; i < column.to; i += 1) into[at + i] = f.y[line + xs[i]];
  }
}

/** How much two lists of a grid's lumas differ within a span: the root of the mean square, grey levels; null where the span is small. */
function difference(a: Uint8Array, b: Uint8Array, { column, row }: Span, columns: number): number | null {
  const n = Math.max(0, column.to - column.from) * Math.max(0, row.to - row.from);
  if (n < LEAST_PLACES) return null;
  let sum = 0;
  for (let j = row.from; j < row.to; j += 1)
    for (let k = j * columns + column.from; k < j * columns + column.to; k += 1) sum += (a[k] - b[k]) ** 2;
  return Math.sqrt(sum / n);
}

/**
 * Measures the light by a grid of places: most of them stand still, so the median of their ratios to the reference is the light's own
 * change, whatever moves before them.
 */
export function lightMeter(reference: PlanarFrame): LightMeter {
  const sparse = gridOver(reference, LIGHT_GRID);
  const lumas = Float64Array.from({ length: LIGHT_GRID.columns * LIGHT_GRID.rows }, (_, k) =>
    around(reference, sparse.xs[k % LIGHT_GRID.columns], sparse.ys[Math.floor(k / LIGHT_GRID.columns)]),
  );
  const ratios = new Float64Array(lumas.length);
  let gain = 1;
  const dense = gridOver(reference, REPEAT_GRID);
  const { columns } = REPEAT_GRID;
  let [now, before] = [
    new Uint8Array(columns * REPEAT_GRID.rows),
    new Uint8Array(columns * REPEAT_GRID.rows),
  ];
  let filledBefore: Span | null = null;
  let usual = 0;
  let repeats = 0;
  return {
    gainOn(f) {
      const { column, row } = spanOf(f, sparse);
      let n = 0;
      for (let j = row.from; j < row.to; j += 1)
        for (let i = column.from; i < column.to; i += 1) {
          const was = lumas[j * LIGHT_GRID.columns + i];
          if (was < TELLS.from || was > TELLS.to) continue;
          const luma = around(f, sparse.xs[i], sparse.ys[j]);
          if (luma >= TELLS.to) continue;
          ratios[n] = (luma - BLACK) / (was - BLACK);
          n += 1;
        }
      if (n >= LEAST_PLACES) gain = ratios.subarray(0, n).sort()[n >> 1];
      return gain;
    },
    isRepeat(f) {
      [now, before] = [before, now];
      const filled = spanOf(f, dense);
      lumasAt(f, dense, filled, now);
      const both = filledBefore && overlap(filled, filledBefore);
      filledBefore = filled;
      const differs = both && difference(now, before, both, columns);
      if (differs === null) return false;
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
