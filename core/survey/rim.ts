import { solveSymmetric } from '../math/solveSymmetric.ts';
import { median } from '../math/statistics.ts';
import type { ImagePoint } from '../math/vec.ts';
import type { PlanarFrame } from '../tracking/frame.ts';

/** Directions in which the tyre's edge is looked for. */
const RAYS = 180;

/** Luma between pixels. */
function lumaAt(f: PlanarFrame, x: number, y: number): number {
  if (x < 0 || y < 0 || x >= f.width - 1 || y >= f.height - 1) return NaN;
  const [i, j] = [Math.floor(x), Math.floor(y)];
  const [a, b] = [x - i, y - j];
  const k = j * f.yStride + i;
  return (
    (1 - b) * ((1 - a) * f.y[k] + a * f.y[k + 1]) +
    b * ((1 - a) * f.y[k + f.yStride] + a * f.y[k + f.yStride + 1])
  );
}

/** Where along each ray the luma rises most outwards (dark tyre, bright room), or falls most; the radius of each, NaN without. */
export function edges(
  f: PlanarFrame,
  c: ImagePoint,
  { from, to, sign }: { from: number; to: number; sign: 1 | -1 },
): Float64Array {
  const out = new Float64Array(RAYS).fill(NaN);
  const STEP = 0.5;
  for (let k = 0; k < RAYS; k += 1) {
    const a = (k / RAYS) * 2 * Math.PI;
    const [ux, uy] = [Math.cos(a), Math.sin(a)];
    const n = Math.floor((to - from) / STEP);
    const slopes = new Float64Array(n);
    let best = 0;
    for (let i = 0; i < n; i += 1) {
      const r = from + i * STEP;
      const outer = lumaAt(f, c.x + (r + 1.5) * ux, c.y + (r + 1.5) * uy);
      const inner = lumaAt(f, c.x + (r - 1.5) * ux, c.y + (r - 1.5) * uy);
      slopes[i] = sign * (outer - inner);
      if (slopes[i] > slopes[best] || Number.isNaN(slopes[best])) best = i;
    }
    const s = slopes[best];
    if (!(s > 14) || best === 0 || best === n - 1) continue;
    // The peak between samples, by the parabola through it.
    const [p, q] = [slopes[best - 1], slopes[best + 1]];
    const bend = p - 2 * s + q;
    out[k] = from + (best + (bend < 0 ? (0.5 * (p - q)) / bend : 0)) * STEP;
  }
  return out;
}

/**
 * Fits an upright ellipse to radii about a centre, without those that lie off it: dx, dy and the two half axes, by weighted least squares
 * of r(a) = r + e·cos 2a + dx·cos a + dy·sin a, which is the ellipse's radius to first order.
 */
export function fitEllipse(
  radii: Float64Array,
): { dx: number; dy: number; r: number; e: number; share: number } | null {
  let p = [median(radii), 0, 0, 0];
  if (!Number.isFinite(p[0])) return null;
  const basis = (k: number): [number, number, number, number] => {
    const a = (k / RAYS) * 2 * Math.PI;
    return [1, Math.cos(2 * a), Math.cos(a), Math.sin(a)];
  };
  const missOf = (k: number): number => radii[k] - basis(k).reduce((s, b, i) => s + b * p[i], 0);
  let spread = Infinity;
  for (let round = 0; round < 12; round += 1) {
    const misses = Array.from(radii, (r, k) => (Number.isFinite(r) ? Math.abs(missOf(k)) : NaN)).filter(
      Number.isFinite,
    );
    spread = Math.max(0.6, 1.5 * median(misses));
    const weights = radii.map((r, k) =>
      Number.isFinite(r) ? Math.max(0, 1 - (missOf(k) / (3 * spread)) ** 2) ** 2 : 0,
    );
    const A = Array.from({ length: 4 }, () => [0, 0, 0, 0]);
    const y = [0, 0, 0, 0];
    for (let k = 0; k < RAYS; k += 1) {
      if (weights[k] === 0) continue;
      const b = basis(k);
      for (let i = 0; i < 4; i += 1) {
        y[i] += weights[k] * b[i] * radii[k];
        for (let j = 0; j < 4; j += 1) A[i][j] += weights[k] * b[i] * b[j];
      }
    }
    for (let i = 0; i < 4; i += 1) A[i][i] += 1e-9;
    const solved = solveSymmetric(A, y);
    if (!solved) return null;
    p = solved;
  }
  const near = Array.from(radii).filter(
    (r, k) => Number.isFinite(r) && Math.abs(missOf(k)) < Math.max(1.5, 2 * spread),
  ).length;
  return { dx: p[2], dy: p[3], r: p[0], e: p[1], share: near / RAYS };
}
