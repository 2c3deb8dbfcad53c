/** Middle value of the finite entries; NaN when there are none. */
export function median(values: ArrayLike<number>): number {
  const s = Array.from(values)
    .filter(Number.isFinite)
    .sort((a, b) => a - b);
  if (s.length === 0) return NaN;
  const m = s.length >> 1;
  return s.length % 2 ? s[m] : (s[m - 1] + s[m]) / 2;
}

/** Mean; NaN when empty. */
export function mean(values: readonly number[]): number {
  return values.length ? values.reduce((s, v) => s + v, 0) / values.length : NaN;
}

/** Sample standard deviation (n − 1); 0 for fewer than two. */
export function standardDeviation(values: readonly number[]): number {
  if (values.length < 2) return 0;
  const m = mean(values);
  return Math.sqrt(values.reduce((s, v) => s + (v - m) ** 2, 0) / (values.length - 1));
}

/** Two-sided 95 % point of Student's t for 1…10 degrees of freedom (tables). */
const T95 = [12.706, 4.303, 3.182, 2.776, 2.571, 2.447, 2.365, 2.306, 2.262, 2.228];

/** Two-sided 95 % point of Student's t; beyond ten degrees of freedom 1.96 + 2.4/df, right to a hundredth. */
export const studentT95 = (degreesOfFreedom: number): number =>
  T95[Math.max(1, Math.round(degreesOfFreedom)) - 1] ??
  1.96 + 2.4 / degreesOfFreedom + 3 / degreesOfFreedom ** 2;
