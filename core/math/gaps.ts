/** What bridging did to one series. */
export interface Bridged {
  values: Float64Array;
  /** 1 where the value was put in by bridging. */
  filled: Uint8Array;
}

/**
 * Bridges short gaps with a cubic that keeps the speed on both sides (Hermite); longer gaps, and gaps at the ends, stay.
 * @param tS times, s, growing  @param values the series, NaN where unseen  @param longestS the longest gap bridged, s,
 * from the last seen to the next seen sample
 */
export function bridgeGaps(tS: ArrayLike<number>, values: ArrayLike<number>, longestS: number): Bridged {
  const out = Float64Array.from(values);
  const filled = new Uint8Array(out.length);
  let i = 0;
  while (i < out.length) {
    if (Number.isFinite(out[i])) {
      i += 1;
      continue;
    }
    let end = i;
    while (end < out.length && !Number.isFinite(out[end])) end += 1;
    const a = i - 1;
    if (a >= 0 && end < out.length && tS[end] - tS[a] <= longestS + 1e-9) {
      const span = tS[end] - tS[a];
      const before =
        a > 0 && Number.isFinite(values[a - 1]) ? (out[a] - out[a - 1]) / (tS[a] - tS[a - 1]) : null;
      const after =
        end + 1 < out.length && Number.isFinite(values[end + 1])
          ? (values[end + 1] - values[end]) / (tS[end + 1] - tS[end])
          : null;
      const chord = (out[end] - out[a]) / span;
      const v0 = (before ?? chord) * span;
      const v1 = (after ?? chord) * span;
      for (let k = i; k < end; k += 1) {
        const u = (tS[k] - tS[a]) / span;
        const u2 = u * u;
        const u3 = u2 * u;
        out[k] =
          (2 * u3 - 3 * u2 + 1) * out[a] +
          (u3 - 2 * u2 + u) * v0 +
          (3 * u2 - 2 * u3) * out[end] +
          (u3 - u2) * v1;
        filled[k] = 1;
      }
    }
    i = end;
  }
  return { values: out, filled };
}
