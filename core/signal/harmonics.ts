import { RAD_PER_DEG } from '../geometry/angles.ts';

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

/** Solves a symmetric positive definite system in place (Cholesky); null where it is singular. */
export function solveSymmetric(a: number[][], b: number[]): number[] | null {
  const n = b.length;
  const l = a.map((row) => [...row]);
  for (let j = 0; j < n; j += 1) {
    let d = l[j][j];
    for (let k = 0; k < j; k += 1) d -= l[j][k] ** 2;
    if (!(d > 1e-10 * Math.max(1, a[j][j]))) return null;
    l[j][j] = Math.sqrt(d);
    for (let i = j + 1; i < n; i += 1) {
      let s = l[i][j];
      for (let k = 0; k < j; k += 1) s -= l[i][k] * l[j][k];
      l[i][j] = s / l[j][j];
    }
  }
  const y = [...b];
  for (let i = 0; i < n; i += 1) {
    for (let k = 0; k < i; k += 1) y[i] -= l[i][k] * y[k];
    y[i] /= l[i][i];
  }
  for (let i = n - 1; i >= 0; i -= 1) {
    for (let k = i + 1; k < n; k += 1) y[i] -= l[k][i] * y[k];
    y[i] /= l[i][i];
  }
  return y;
}

interface Normal {
  a: number[][];
  b: number[];
}

function basisRow(thetaDeg: number, order: number): number[] {
  const row = [1];
  for (let k = 1; k <= order; k += 1) {
    row.push(Math.cos(k * thetaDeg * RAD_PER_DEG), Math.sin(k * thetaDeg * RAD_PER_DEG));
  }
  return row;
}

function accumulate(
  rows: readonly number[][],
  values: readonly number[],
  which: (i: number) => boolean,
): Normal {
  const n = rows[0].length;
  const a = Array.from({ length: n }, () => new Array<number>(n).fill(0));
  const b = new Array<number>(n).fill(0);
  rows.forEach((row, i) => {
    if (!which(i)) return;
    for (let p = 0; p < n; p += 1) {
      b[p] += row[p] * values[i];
      for (let q = 0; q <= p; q += 1) a[p][q] += row[p] * row[q];
    }
  });
  for (let p = 0; p < n; p += 1) for (let q = p + 1; q < n; q += 1) a[p][q] = a[q][p];
  return { a, b };
}

const solveOrder = (n: Normal, order: number): number[] | null => {
  const size = 1 + 2 * order;
  return solveSymmetric(
    n.a.slice(0, size).map((row) => row.slice(0, size)),
    n.b.slice(0, size),
  );
};

/**
 * Harmonic regression of samples on the crank angle, its order by cross-validation over whole strokes (at most 8): a stroke
 * left out must be foretold by the others, so that the noise of one stroke is not taken for shape.
 * @param thetaDeg crank angle of each sample  @param values the samples, finite  @param strokeOf stroke number of each sample
 * @returns the curve and its order, or null with too few samples to fix even one harmonic
 */
export function fitHarmonics(
  thetaDeg: readonly number[],
  values: readonly number[],
  strokeOf: readonly number[],
): { curve: HarmonicCurve; order: number } | null {
  if (values.length < 8) return null;
  const highest = Math.min(HIGHEST_ORDER, Math.floor((values.length - 1) / 4));
  const rows = thetaDeg.map((t) => basisRow(t, highest));
  const all = accumulate(rows, values, () => true);
  const strokes = [...new Set(strokeOf)];
  // With one or two strokes, folds of every fourth sample stand in for left-out strokes.
  const folds =
    strokes.length >= 3
      ? strokes.map((s) => (i: number) => strokeOf[i] === s)
      : [0, 1, 2, 3].map((f) => (i: number) => i % 4 === f);
  const error = new Array<number>(highest + 1).fill(0);
  for (const inFold of folds) {
    const part = accumulate(rows, values, inFold);
    const rest: Normal = {
      a: all.a.map((row, p) => row.map((v, q) => v - part.a[p][q])),
      b: all.b.map((v, p) => v - part.b[p]),
    };
    for (let order = 1; order <= highest; order += 1) {
      const c = solveOrder(rest, order);
      if (!c) {
        error[order] = Infinity;
        continue;
      }
      rows.forEach((row, i) => {
        if (!inFold(i)) return;
        let v = 0;
        for (let k = 0; k < c.length; k += 1) v += c[k] * row[k];
        error[order] += (values[i] - v) ** 2;
      });
    }
  }
  let order = 1;
  for (let k = 2; k <= highest; k += 1) if (error[k] < error[order] * 0.999) order = k;
  const c = solveOrder(all, order);
  if (!c) return null;
  return {
    curve: {
      mean: c[0],
      cos: Array.from({ length: order }, (_, k) => c[1 + 2 * k]),
      sin: Array.from({ length: order }, (_, k) => c[2 + 2 * k]),
    },
    order,
  };
}

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
      const v = sign * evaluateCurve(c, t);
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
