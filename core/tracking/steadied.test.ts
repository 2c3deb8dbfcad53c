import { describe, expect, it } from 'vitest';
import { CAST } from '../../sim/cast.ts';
import { FILMED_MM_PER_PX, filmed } from '../../sim/filmed.ts';
import { readTracks, type Reading } from '../kinematics/read.ts';
import { standsAt, steadied, type CameraPath } from './steadied.ts';
import type { Tracks } from './tracks.ts';

const rider = CAST[0].scene.rider;
const still = filmed({ rider, seconds: 6, noisePx: 0.2 });
/** A tripod pushed at 2.2 s within a tenth of a second, and trembling on. */
const shiftOf = (t: number): { x: number; y: number } => {
  const pushed = Math.min(1, Math.max(0, (t - 2.2) / 0.1));
  return { x: 9 * pushed + Math.sin(40 * t), y: -4 * pushed };
};
const path: CameraPath = {
  tS: [...still.tS],
  xPx: Array.from(still.tS, (t) => shiftOf(t).x),
  yPx: Array.from(still.tS, (t) => shiftOf(t).y),
};
/** The same rider before the camera that moves, marked on the first frame. */
const moved: Tracks = {
  ...still,
  landmarks: Object.fromEntries(
    Object.entries(still.landmarks).map(([key, t]) => [
      key,
      {
        ...t,
        xPx: t.xPx.map((x, i) => x + shiftOf(still.tS[i]).x),
        yPx: t.yPx.map((y, i) => y + shiftOf(still.tS[i]).y),
      },
    ]),
  ),
};
const read = (tracks: Tracks): Reading => {
  const r = readTracks(tracks, { mmPerPx: FILMED_MM_PER_PX, crankMm: rider.crankMm });
  if (!r.ok) throw new Error(r.detail);
  return r;
};

describe('a camera that was moved', () => {
  it('stands evenly between the times that are known, and as at the ends beyond them', () => {
    const p: CameraPath = { tS: [1, 2], xPx: [0, 8], yPx: [4, 0] };
    expect(standsAt(p, 1.25)).toEqual({ x: 2, y: 3 });
    expect(standsAt(p, 0)).toEqual({ x: 0, y: 4 });
    expect(standsAt(p, 9)).toEqual({ x: 8, y: 0 });
    expect(standsAt({ tS: [], xPx: [], yPx: [] }, 3)).toEqual({ x: 0, y: 0 });
  });
  it('is taken out of the tracks, against the frame on which they were marked', () => {
    for (const frame of [0, 300]) {
      const back = steadied(moved, path, frame);
      const rest = shiftOf(still.tS[frame]);
      for (const [key, t] of Object.entries(still.landmarks)) {
        t.xPx.forEach((x, i) => expect(back.landmarks[key].xPx[i]).toBeCloseTo(x + rest.x, 6));
        t.yPx.forEach((y, i) => expect(back.landmarks[key].yPx[i]).toBeCloseTo(y + rest.y, 6));
      }
    }
    expect(steadied(moved, null, 0)).toBe(moved);
  });
  it('no longer moves the crank’s centre under the saddle', () => {
    const [truth, told, untold] = [read(still), read(steadied(moved, path, 0)), read(moved)];
    const off = (r: Reading): number =>
      Math.hypot(r.crank.centrePx.x - truth.crank.centrePx.x, r.crank.centrePx.y - truth.crank.centrePx.y);
    expect(off(told)).toBeLessThan(0.05);
    expect(off(untold)).toBeGreaterThan(2);
    expect(told.crank.residualPx).toBeLessThan(untold.crank.residualPx / 2);
  });
});
