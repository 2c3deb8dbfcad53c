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

/** Two-sided 95 % point of Student's t for 1…10 degrees of freedom (tables). */
const T95 = [12.706, 4.303, 3.182, 2.776, 2.571, 2.447, 2.365, 2.306, 2.262, 2.228];

/** Two-sided 95 % point of Student's t; beyond ten degrees of freedom 1.96 + 2.4/df, right to a hundredth. */
export const studentT95 = (degreesOfFreedom: number): number =>
  T95[Math.max(1, Math.round(degreesOfFreedom)) - 1] ??
  1.96 + 2.4 / degreesOfFreedom + 3 / degreesOfFreedom ** 2;
