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
