/**
 * Values on an even grid from samples at uneven times: a cubic through four neighbours (Lagrange), linear at the ends.
 * Where a neighbour is unseen (NaN) the result is NaN.
 * @param tS times, s, strictly growing  @param values samples  @param gridS wanted times, s, growing
 */
export function resample(
  tS: ArrayLike<number>,
  values: ArrayLike<number>,
  gridS: ArrayLike<number>,
): Float64Array {
  const out = new Float64Array(gridS.length).fill(NaN);
  const n = tS.length;
  let k = 0;
  for (let g = 0; g < gridS.length; g += 1) {
    const t = gridS[g];
    if (n < 2 || t < tS[0] - 1e-9 || t > tS[n - 1] + 1e-9) continue;
    while (k < n - 2 && tS[k + 1] < t) k += 1;
    if (Math.abs(t - tS[k]) < 1e-9) {
      out[g] = values[k];
      continue;
    }
    const from = k > 0 && k < n - 2 ? k - 1 : k;
    const to = k > 0 && k < n - 2 ? k + 2 : k + 1;
    let sum = 0;
    for (let i = from; i <= to; i += 1) {
      let over = values[i];
      let under = 1;
      for (let j = from; j <= to; j += 1) {
        if (j === i) continue;
        over *= t - tS[j];
        under *= tS[i] - tS[j];
      }
      sum += over / under;
    }
    out[g] = sum;
  }
  return out;
}
