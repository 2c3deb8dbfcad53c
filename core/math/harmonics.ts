import { RAD_PER_DEG } from './angles.ts';

/** A periodic curve of the crank angle: mean + Σ cos[k]·cos((k+1)θ) + sin[k]·sin((k+1)θ). */
export interface HarmonicCurve {
  mean: number;
  cos: number[];
  sin: number[];
}

/** The curve's value at a crank angle, degrees. */
export function evaluateCurve(c: HarmonicCurve, thetaDeg: number): number {
  let v = c.mean;
  for (let k = 0; k < c.cos.length; k += 1) {
    const a = (k + 1) * thetaDeg * RAD_PER_DEG;
    v += c.cos[k] * Math.cos(a) + c.sin[k] * Math.sin(a);
  }
  return v;
}

/** Cosines and sines of the multiples of a fixed set of crank angles, for evaluating many curves on the same grid. */
export interface HarmonicTable {
  cos: Float64Array[];
  sin: Float64Array[];
}

export function harmonicTable(thetaDeg: readonly number[], highest: number): HarmonicTable {
  const rows = (f: (a: number) => number): Float64Array[] =>
    Array.from({ length: highest }, (_, k) =>
      Float64Array.from(thetaDeg, (t) => f((k + 1) * t * RAD_PER_DEG)),
    );
  return { cos: rows(Math.cos), sin: rows(Math.sin) };
}

/** A curve's value at the i-th angle of a table; its order must not exceed the table's. */
export function tableValue(c: HarmonicCurve, table: HarmonicTable, i: number): number {
  let v = c.mean;
  for (let k = 0; k < c.cos.length; k += 1) v += c.cos[k] * table.cos[k][i] + c.sin[k] * table.sin[k][i];
  return v;
}

/** No curve has more harmonics than this (handbook: measuring). */
export const HIGHEST_ORDER = 8;

/**
 * What a regression needs of the samples' crank angles alone: made once and used for every quantity sampled with them.
 * Cholesky factors of a lower order are the leading part of a higher one's, so one of each fold serves all orders.
 */
export interface HarmonicBasis {
  samples: number;
  highest: number;
  /** Row by row: 1, cos θ, sin θ, cos 2θ, … */
  rows: Float64Array;
  width: number;
  foldOf: Int32Array;
  folds: number;
  /** Lower triangles of all samples, then of each fold left out; up to the first size that is singular. */
  factors: { l: Float64Array; size: number }[];
  /**
   * Row by row, as `rows`, each solved forward through the factor without its own fold: times the others' solved sums, term by term,
   * it gives what they say of that sample, a higher order adding its own terms.
   */
  foldWeights: Float64Array;
}

/** Cholesky factor of a symmetric matrix, row by row, and the size up to which it is positive definite. */
function factor(a: Float64Array, n: number): { l: Float64Array; size: number } {
  const l = a.slice();
  for (let j = 0; j < n; j += 1) {
    let d = l[j * n + j];
    for (let k = 0; k < j; k += 1) d -= l[j * n + k] ** 2;
    if (!(d > 1e-10 * Math.max(1, a[j * n + j]))) return { l, size: j };
    l[j * n + j] = Math.sqrt(d);
    for (let i = j + 1; i < n; i += 1) {
      let v = l[i * n + j];
      for (let k = 0; k < j; k += 1) v -= l[i * n + k] * l[j * n + k];
      l[i * n + j] = v / l[j * n + j];
    }
  }
  return { l, size: n };
}

/**
 * Prepares a regression on the crank angle.
 * @param thetaDeg crank angle of each sample  @param strokeOf stroke number of each sample
 * @returns null with too few samples to fix even one harmonic
 */
export function harmonicBasis(
  thetaDeg: readonly number[],
  strokeOf: readonly number[],
): HarmonicBasis | null {
  const samples = thetaDeg.length;
  if (samples < 8) return null;
  const highest = Math.min(HIGHEST_ORDER, Math.floor((samples - 1) / 4));
  const width = 1 + 2 * highest;
  const rows = new Float64Array(samples * width);
  for (let i = 0; i < samples; i += 1) {
    const at = i * width;
    const cos = Math.cos(thetaDeg[i] * RAD_PER_DEG);
    const sin = Math.sin(thetaDeg[i] * RAD_PER_DEG);
    rows[at] = 1;
    rows[at + 1] = cos;
    rows[at + 2] = sin;
    // Each multiple of the angle from the one before.
    for (let k = at + 3; k < at + width; k += 2) {
      rows[k] = rows[k - 2] * cos - rows[k - 1] * sin;
      rows[k + 1] = rows[k - 1] * cos + rows[k - 2] * sin;
    }
  }
  const strokes = [...new Set(strokeOf)];
  // With one or two strokes, folds of every fourth sample stand in for left-out strokes.
  const byStroke = strokes.length >= 3;
  const folds = byStroke ? strokes.length : 4;
  const foldOf = Int32Array.from(strokeOf, (s, i) => (byStroke ? strokes.indexOf(s) : i % 4));
  const cell = width * width;
  const parts = new Float64Array(folds * cell);
  for (let i = 0; i < samples; i += 1) {
    const at = i * width;
    const to = foldOf[i] * cell;
    for (let p = 0; p < width; p += 1)
      for (let q = 0; q <= p; q += 1) parts[to + p * width + q] += rows[at + p] * rows[at + q];
  }
  const all = new Float64Array(cell);
  for (let f = 0; f < folds; f += 1) for (let k = 0; k < cell; k += 1) all[k] += parts[f * cell + k];
  const factors = [factor(all, width)];
  for (let f = 0; f < folds; f += 1)
    factors.push(
      factor(
        all.map((v, k) => v - parts[f * cell + k]),
        width,
      ),
    );
  const foldWeights = rows.slice();
  for (let i = 0; i < samples; i += 1) {
    const at = i * width;
    solveForward(factors[foldOf[i] + 1], foldWeights.subarray(at, at + width), width);
  }
  return { samples, highest, rows, width, foldOf, folds, factors, foldWeights };
}

/** Forward substitution, in place: what it gives for one order is the beginning of what it gives for the next. */
function solveForward({ l, size }: { l: Float64Array; size: number }, b: Float64Array, n: number): void {
  for (let i = 0; i < size; i += 1) {
    let v = b[i];
    for (let k = 0; k < i; k += 1) v -= l[i * n + k] * b[k];
    b[i] = v / l[i * n + i];
  }
}

/** Coefficients of an order from the forward substitution. */
function backward(l: Float64Array, y: Float64Array, size: number, n: number): Float64Array {
  const c = y.slice(0, size);
  for (let i = size - 1; i >= 0; i -= 1) {
    for (let k = i + 1; k < size; k += 1) c[i] -= l[k * n + i] * c[k];
    c[i] /= l[i * n + i];
  }
  return c;
}

/**
 * Harmonic regression of samples on the crank angle, its order by cross-validation over whole strokes (at most 8): a stroke
 * left out must be predicted by the others, so that the noise of one stroke is not taken for shape.
 * @param values the samples, finite, in the basis's order
 * @returns the curve and its order, or null where even one harmonic can’t be known
 */
export function fitOnBasis(
  basis: HarmonicBasis,
  values: readonly number[],
): { curve: HarmonicCurve; order: number } | null {
  const { rows, width: n, samples, highest, foldOf, folds, factors, foldWeights } = basis;
  // First of all folds, then of each.
  const sums = new Float64Array((folds + 1) * n);
  for (let i = 0; i < samples; i += 1) {
    const to = (foldOf[i] + 1) * n;
    for (let p = 0; p < n; p += 1) sums[to + p] += rows[i * n + p] * values[i];
  }
  for (let f = 1; f <= folds; f += 1) for (let p = 0; p < n; p += 1) sums[p] += sums[f * n + p];
  // Of each fold, what is left without it, solved.
  for (let f = 1; f <= folds; f += 1) {
    for (let p = 0; p < n; p += 1) sums[f * n + p] = sums[p] - sums[f * n + p];
    solveForward(factors[f], sums.subarray(f * n, f * n + n), n);
  }
  const error = new Float64Array(highest + 1);
  for (let i = 0; i < samples; i += 1) {
    const of = (foldOf[i] + 1) * n;
    const at = i * n;
    const { size } = factors[foldOf[i] + 1];
    let miss = values[i] - foldWeights[at] * sums[of];
    for (let order = 1; order <= highest; order += 1) {
      const k = 2 * order;
      miss -= foldWeights[at + k - 1] * sums[of + k - 1] + foldWeights[at + k] * sums[of + k];
      error[order] += k < size ? miss * miss : Infinity;
    }
  }
  let order = 1;
  for (let k = 2; k <= highest; k += 1) if (error[k] < error[order] * 0.999) order = k;
  const size = 1 + 2 * order;
  if (size > factors[0].size) return null;
  const y = sums.slice(0, n);
  solveForward(factors[0], y, n);
  const c = backward(factors[0].l, y, size, n);
  return {
    curve: {
      mean: c[0],
      cos: Array.from({ length: order }, (_, k) => c[1 + 2 * k]),
      sin: Array.from({ length: order }, (_, k) => c[2 + 2 * k]),
    },
    order,
  };
}

/** The same for a single quantity. */
export function fitHarmonics(
  thetaDeg: readonly number[],
  values: readonly number[],
  strokeOf: readonly number[],
): { curve: HarmonicCurve; order: number } | null {
  const basis = harmonicBasis(thetaDeg, strokeOf);
  return basis && fitOnBasis(basis, values);
}

const EVERY_DEGREE = harmonicTable(
  Array.from({ length: 360 }, (_, t) => t),
  HIGHEST_ORDER,
);

/** Lowest and highest value of a curve over a turn, with the crank angles where they fall (to 0.05 degrees). */
export function curveExtremes(c: HarmonicCurve): {
  min: number;
  minAtDeg: number;
  max: number;
  maxAtDeg: number;
} {
  const refine = (sign: 1 | -1): { value: number; at: number } => {
    let at = 0;
    let best = -Infinity;
    for (let t = 0; t < 360; t += 1) {
      const v = sign * tableValue(c, EVERY_DEGREE, t);
      if (v > best) {
        best = v;
        at = t;
      }
    }
    for (let d = 0.5; d > 0.02; d /= 2) {
      for (const t of [at - d, at + d]) {
        const v = sign * evaluateCurve(c, t);
        if (v > best) {
          best = v;
          at = t;
        }
      }
    }
    return { value: sign * best, at: ((at % 360) + 360) % 360 };
  };
  const low = refine(-1);
  const high = refine(1);
  return { min: low.value, minAtDeg: low.at, max: high.value, maxAtDeg: high.at };
}
