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
