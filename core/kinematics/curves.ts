import { wrap360 } from '../math/angles.ts';
import {
  curveExtremes,
  evaluateCurve,
  fitOnBasis,
  harmonicBasis,
  harmonicTable,
  HIGHEST_ORDER,
  tableValue,
  type HarmonicBasis,
  type HarmonicCurve,
} from '../math/harmonics.ts';
import { resample } from '../math/resample.ts';
import { columnDeviations, mean, standardDeviation, studentT95 } from '../math/statistics.ts';
import type { Stroke } from './strokes.ts';

/** Crank angles of the drawn curve: every 2.5 degrees. */
const GRID_STEP_DEG = 2.5;
export const GRID_DEG: readonly number[] = Array.from(
  { length: 360 / GRID_STEP_DEG },
  (_, k) => GRID_STEP_DEG * k,
);

const ON_GRID = harmonicTable(GRID_DEG, HIGHEST_ORDER);

/** One quantity on one stroke. */
export interface StrokeValues {
  /** Which of the used strokes. */
  stroke: number;
  min: number;
  max: number;
  mean: number;
  at0: number;
  at90: number;
  at180: number;
  at270: number;
}

/** One quantity on the crank's turn, from all used strokes. Unit: the quantity's own (degrees or mm). */
export interface CurveReading {
  curve: HarmonicCurve;
  /** On GRID_DEG: the mean curve, and the SD between strokes. */
  meanOnGrid: number[];
  sdOnGrid: number[];
  /** On GRID_DEG: 95 % half-width of the mean curve, from the strokes' spread (Student's t); 0 with a single stroke. */
  ciOnGrid: number[];
  min: number;
  max: number;
  minAtThetaDeg: number;
  maxAtThetaDeg: number;
  at: Record<'0' | '90' | '180' | '270', number>;
  /** Root mean square over the turn of the SD between strokes; 0 with a single stroke. */
  strokeSdDeg: number;
  /** Every whole stroke's own lowest, highest and mean value, and those at the crank's four positions. */
  perStroke: StrokeValues[];
  /** Mean over strokes of highest less lowest. */
  meanSwing: number;
}

/**
 * Mean curve and spread of a quantity over the used strokes.
 * The mean is a harmonic regression on the unsmoothed values (no filter flattens its peaks); what single strokes say comes from
 * the smoothed ones.
 * @param bases kept between quantities on the same crank angles: what depends on those alone is worked out once
 * @param strokeOf index into `used` for every frame; beyond its end a piece of a stroke, which counts for the mean curve alone; −1 outside
 */
// eslint-disable-next-line max-lines-per-function -- one curve with everything that is reported of it
export function curveOverStrokes({
  thetaDeg,
  strokeOf,
  raw,
  smooth,
  used,
  bases = new Map<string, HarmonicBasis | null>(),
}: {
  thetaDeg: ArrayLike<number>;
  strokeOf: ArrayLike<number>;
  raw: ArrayLike<number>;
  smooth: ArrayLike<number>;
  used: readonly Stroke[];
  bases?: Map<string, HarmonicBasis | null>;
}): CurveReading {
  const th: number[] = [];
  const values: number[] = [];
  const which: number[] = [];
  const left: number[] = [];
  for (let i = 0; i < raw.length; i += 1) {
    if (strokeOf[i] < 0) continue;
    if (!Number.isFinite(raw[i]) || !Number.isFinite(thetaDeg[i])) {
      left.push(i);
      continue;
    }
    th.push(thetaDeg[i]);
    values.push(raw[i]);
    which.push(strokeOf[i]);
  }
  const key = left.join();
  if (!bases.has(key)) bases.set(key, harmonicBasis(th, which));
  const basis = bases.get(key);
  const fitted = basis && fitOnBasis(basis, values);
  const curve = fitted?.curve ?? { mean: mean(values), cos: [], sin: [] };
  const whole = used
    .map((s, stroke) => ({ stroke, row: strokeOnGrid(thetaDeg, smooth, s) }))
    .filter(({ row }) => row.every(Number.isFinite));
  const rows = whole.map(({ row }) => row);
  const sdOnGrid = columnDeviations(rows, GRID_DEG.length);
  const ends = curveExtremes(curve);
  const perStroke = whole.map(({ stroke, row }) => ({
    stroke,
    min: Math.min(...row),
    max: Math.max(...row),
    mean: mean(row),
    at0: row[0],
    at90: row[36],
    at180: row[72],
    at270: row[108],
  }));
  return {
    curve,
    meanOnGrid: GRID_DEG.map((_, i) => tableValue(curve, ON_GRID, i)),
    sdOnGrid,
    ciOnGrid: sdOnGrid.map((sd) =>
      rows.length > 1 ? (studentT95(rows.length - 1) * sd) / Math.sqrt(rows.length) : 0,
    ),
    min: ends.min,
    max: ends.max,
    minAtThetaDeg: ends.minAtDeg,
    maxAtThetaDeg: ends.maxAtDeg,
    at: {
      '0': evaluateCurve(curve, 0),
      '90': evaluateCurve(curve, 90),
      '180': evaluateCurve(curve, 180),
      '270': evaluateCurve(curve, 270),
    },
    strokeSdDeg: Math.sqrt(mean(sdOnGrid.map((s) => s * s))),
    perStroke,
    meanSwing: perStroke.length ? mean(perStroke.map((s) => s.max - s.min)) : ends.max - ends.min,
  };
}

/** SD between strokes of highest less lowest. */
export const swingSd = (c: CurveReading): number => standardDeviation(c.perStroke.map((s) => s.max - s.min));

/** One stroke's values on the grid; NaN where the crank or the value is unknown. */
function strokeOnGrid(thetaDeg: ArrayLike<number>, values: ArrayLike<number>, stroke: Stroke): number[] {
  const th: number[] = [];
  const v: number[] = [];
  for (let i = 0; i < thetaDeg.length; i += 1) {
    const t = thetaDeg[i] - stroke.startDeg;
    // Some frames on either side, so that the cubic is whole at the turn's ends; the crank must be going forward there.
    if (!(t > -60 && t < 420) || (th.length && t <= th[th.length - 1])) continue;
    th.push(t);
    v.push(values[i]);
  }
  // A stroke that does not begin at the top: its grid is turned, and turned back.
  const first = Math.round(wrap360(stroke.startDeg) / GRID_STEP_DEG);
  const on = resample(th, v, GRID_DEG);
  return GRID_DEG.map((_, k) => on[(k - first + GRID_DEG.length) % GRID_DEG.length]);
}
