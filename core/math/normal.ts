/** Abramowitz and Stegun 7.1.26: the error function to 1.5·10⁻⁷. */
function erf(x: number): number {
  const t = 1 / (1 + 0.3275911 * Math.abs(x));
  const y =
    ((((1.061405429 * t - 1.453152027) * t + 1.421413741) * t - 0.284496736) * t + 0.254829592) *
    t *
    Math.exp(-x * x);
  return x >= 0 ? 1 - y : y - 1;
}

/** Share of a normal distribution below z standard deviations. */
export const normalCdf = (z: number): number => 0.5 * (1 + erf(z / Math.SQRT2));

/** Density of a normal distribution. */
export const normalPdf = (x: number, mean: number, sd: number): number =>
  Math.exp(-0.5 * ((x - mean) / sd) ** 2) / (sd * Math.sqrt(2 * Math.PI));
