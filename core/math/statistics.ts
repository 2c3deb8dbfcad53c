import { deviation, mean as meanOf, quantileSorted } from 'd3';

/** Middle value of the finite entries; NaN when there are none. */
export function median(values: ArrayLike<number>): number {
  const finite = new Float64Array(values.length);
  let n = 0;
  for (let i = 0; i < values.length; i += 1) if (Number.isFinite(values[i])) finite[n++] = values[i];
  // Any list with places does; the types of d3 ask for an array.
  return quantileSorted(finite.subarray(0, n).sort() as ArrayLike<number> as number[], 0.5) ?? NaN;
}

/** Mean; NaN when empty, or where one of them is. */
export const mean = (values: readonly number[]): number =>
  values.some(Number.isNaN) ? NaN : (meanOf(values) ?? NaN);

/** Sample standard deviation (n − 1); 0 for fewer than two. */
export const standardDeviation = (values: readonly number[]): number => deviation(values) ?? 0;

/** The same of each column of a table, as many as its rows are long. */
export const columnDeviations = (rows: readonly (readonly number[])[], columns: number): number[] =>
  Array.from({ length: columns }, (_, k) => deviation(rows, (row) => row[k]) ?? 0);

/** The value that so large a share of sorted ones does not pass: one of them, none in between. */
export const atShare = (sorted: readonly number[], share: number): number =>
  sorted[Math.floor(share * (sorted.length - 1))];

/** From nearly the least to nearly the most: without the outer twentieths. */
export function rangeOf(values: readonly number[]): number {
  const sorted = [...values].sort((a, b) => a - b);
  return atShare(sorted, 0.95) - atShare(sorted, 0.05);
}

/** Two-sided 95 % point of Student's t for 1…10 degrees of freedom (tables). */
const T95 = [12.706, 4.303, 3.182, 2.776, 2.571, 2.447, 2.365, 2.306, 2.262, 2.228];

/** Two-sided 95 % point of Student's t; beyond ten degrees of freedom 1.96 + 2.4/df, right to a hundredth. */
export const studentT95 = (degreesOfFreedom: number): number =>
  T95[Math.max(1, Math.round(degreesOfFreedom)) - 1] ??
  1.96 + 2.4 / degreesOfFreedom + 3 / degreesOfFreedom ** 2;
