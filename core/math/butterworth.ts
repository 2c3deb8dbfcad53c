/**
 * Fourth-order zero-lag low-pass: a second-order Butterworth run forwards and backwards, its cut-off raised so that the
 * double pass is 3 dB down at the frequency asked for (Winter, Biomechanics and Motor Control of Human Movement, ch. 2).
 * The ends are padded by point reflection, so that a path does not bend where the film begins.
 * @param values evenly spaced samples without gaps  @param cutoffHz wanted cut-off of the result  @param rateHz samples a second
 */
export function zeroLagLowPass(values: ArrayLike<number>, cutoffHz: number, rateHz: number): Float64Array {
  const n = values.length;
  if (n < 4 || cutoffHz >= 0.4 * rateHz) return Float64Array.from(values);
  const corrected = Math.tan((Math.PI * cutoffHz) / rateHz) / (Math.SQRT2 - 1) ** 0.25;
  const k1 = Math.SQRT2 * corrected;
  const k2 = corrected * corrected;
  const a0 = k2 / (1 + k1 + k2);
  const a1 = 2 * a0;
  const b1 = (2 * a0) / k2 - 2 * a0;
  const b2 = 1 - (4 * a0 + b1);
  const pad = Math.min(n - 1, Math.ceil((2 * rateHz) / cutoffHz));
  const x = new Float64Array(n + 2 * pad);
  for (let i = 0; i < n; i += 1) x[pad + i] = values[i];
  for (let i = 0; i < pad; i += 1) {
    x[pad - 1 - i] = 2 * values[0] - values[i + 1];
    x[pad + n + i] = 2 * values[n - 1] - values[n - 2 - i];
  }
  const pass = (): void => {
    let x1 = x[0];
    let x2 = x[0];
    let y1 = x[0];
    let y2 = x[0];
    for (let i = 0; i < x.length; i += 1) {
      const now = x[i];
      const y = a0 * now + a1 * x1 + a0 * x2 + b1 * y1 + b2 * y2;
      x2 = x1;
      x1 = now;
      y2 = y1;
      y1 = y;
      x[i] = y;
    }
    x.reverse();
  };
  pass();
  pass();
  return x.slice(pad, pad + n);
}
