import { describe, expect, it } from 'vitest';
import { CAST_ON_BONE as CAST } from '../../sim/cast.ts';
import { filmed } from '../../sim/filmed.ts';
import type { SideLandmark } from '../landmarks/landmarks.ts';
import { mendTrack, swapTracks } from '../tracking/mend.ts';
import { doubtsOf, withoutHidden } from './review.ts';
import type { LandmarkTrack, Tracks } from '../tracking/tracks.ts';

const clean = (seed = 3): Tracks => filmed({ rider: CAST[0].scene.rider, noisePx: 0.2, seed });
const shift = (t: LandmarkTrack, from: number, to: number, dx: number, dy: number): void => {
  for (let i = from; i <= to; i += 1) {
    t.xPx[i] += dx;
    t.yPx[i] += dy;
  }
};

describe('places to look at', () => {
  it('are none in a good film, whoever rides it', () => {
    for (const [k, member] of CAST.entries())
      expect(doubtsOf(filmed({ rider: member.scene.rider, noisePx: 0.25, seed: k }), 0), member.id).toEqual(
        [],
      );
  });
  it('are where a landmark is lost or only half seen, with the worst frame, unless it is said to be hidden', () => {
    const tracks = clean();
    const { hip, wrist } = tracks.landmarks;
    hip.xPx.fill(NaN, 100, 108);
    hip.yPx.fill(NaN, 100, 108);
    hip.confidence.fill(0, 100, 108);
    wrist.confidence.fill(0.3, 200, 203);
    wrist.confidence[201] = 0.1;
    expect(doubtsOf(tracks, 0)).toMatchObject([
      { kind: 'lost', landmark: 'hip', from: 100, to: 107 },
      { kind: 'unsure', landmark: 'wrist', from: 200, to: 202, at: 201 },
    ]);
    const hidden = [{ landmark: 'hip' as const, from: 98, to: 110 }];
    expect(doubtsOf(tracks, 0, hidden).map((d) => d.landmark)).toEqual(['wrist']);
    const seen = withoutHidden(tracks, hidden);
    expect([seen.landmarks.hip.xPx[97], seen.landmarks.hip.xPx[98]].map(Number.isFinite)).toEqual([
      true,
      false,
    ]);
    expect(Number.isFinite(tracks.landmarks.hip.xPx[98])).toBe(true);
  });
  it('are none where the film has one picture twice: nothing at all is seen there', () => {
    const tracks = clean();
    for (const i of [60, 90, 91])
      for (const t of Object.values(tracks.landmarks)) {
        t.xPx[i] = t.yPx[i] = NaN;
        t.confidence[i] = 0;
      }
    // Two in a row are more than a picture shown again.
    expect(new Set(doubtsOf(tracks, 0).map((d) => `${d.from}–${d.to}`))).toEqual(new Set(['90–91']));
  });
  it.each([
    ['ankle', 'wrong', 150, 175, 14],
    ['heel', 'slid', 200, 419, -9],
    ['wrist', 'wrong', 90, 99, 18],
  ] as [SideLandmark, string, number, number, number][])(
    'are where %s is put wrong: cause %s',
    (key, cause, from, to, off) => {
      const tracks = clean();
      shift(tracks.landmarks[key], from, to, off, -off);
      const found = doubtsOf(tracks, 0);
      expect(found).toHaveLength(1);
      expect(found[0]).toMatchObject({ kind: 'length', landmark: key, cause });
      expect(Math.abs(found[0].from - from)).toBeLessThanOrEqual(4);
      expect(Math.abs(found[0].to - to)).toBeLessThanOrEqual(4);
      expect(Math.abs(found[0].change!)).toBeGreaterThan(0.04);
    },
  );
  it('are where a sticker has slid along its limb and stayed there', () => {
    const tracks = clean();
    const { hip, knee } = tracks.landmarks;
    for (let i = 260; i < 420; i += 1) {
      knee.xPx[i] += 0.09 * (hip.xPx[i] - knee.xPx[i]);
      knee.yPx[i] += 0.09 * (hip.yPx[i] - knee.yPx[i]);
    }
    const found = doubtsOf(tracks, 0);
    expect(found[0]).toMatchObject({ kind: 'length', cause: 'slid', to: 419 });
    expect(['hip', 'knee']).toContain(found[0].landmark);
    expect(found[0].change).toBeCloseTo(-0.09, 2);
  });
  it('tells a limb that leaves the plane each turn from one that is wrong once', () => {
    const tracks = clean();
    const { knee } = tracks.landmarks;
    // Each turn the knee swings so far out that thigh and shank look shorter for a while.
    for (let i = 0; i < knee.xPx.length; i += 1) {
      const swing = Math.max(0, Math.sin((2 * Math.PI * 84 * tracks.tS[i]) / 60) - 0.3);
      knee.xPx[i] -= 22 * swing;
      knee.yPx[i] += 6 * swing;
    }
    const found = doubtsOf(tracks, 32).filter((d) => d.kind === 'length');
    expect(found.length).toBeGreaterThanOrEqual(3);
    expect(found.some((d) => d.cause === 'plane')).toBe(true);
    expect(found.every((d) => d.cause !== 'slid')).toBe(true);
  });
});

/** Largest jump from a frame to the next beyond the true one, px. */
function worstJump(t: LandmarkTrack, truth: LandmarkTrack): number {
  let worst = 0;
  for (let i = 1; i < t.xPx.length; i += 1) {
    const dx = t.xPx[i] - truth.xPx[i] - (t.xPx[i - 1] - truth.xPx[i - 1]);
    const dy = t.yPx[i] - truth.yPx[i] - (t.yPx[i - 1] - truth.yPx[i - 1]);
    worst = Math.max(worst, Math.hypot(dx, dy));
  }
  return worst;
}
const error = (t: LandmarkTrack, truth: LandmarkTrack, i: number): number =>
  Math.hypot(t.xPx[i] - truth.xPx[i], t.yPx[i] - truth.yPx[i]);

describe('putting a place right', () => {
  const truth = filmed({ rider: CAST[0].scene.rider }).landmarks.toe;
  const all = { from: 0, to: 419 };
  const wrongFrom = (from: number, to: number): LandmarkTrack => {
    const t = filmed({ rider: CAST[0].scene.rider }).landmarks.toe;
    shift(t, from, to, 40, 25);
    return t;
  };
  it('mends only the wrong stretch: beyond where both agree the old track stays to the bit', () => {
    const old = wrongFrom(100, 180);
    const mended = mendTrack(old, truth, { at: 140, right: [0], range: all });
    for (let i = 0; i < 420; i += 1) expect(error(mended, truth, i), `frame ${i}`).toBeLessThan(1e-9);
    expect(worstJump(mended, truth)).toBeLessThan(1e-9);
    expect(old.xPx[140]).toBeCloseTo(truth.xPx[140] + 40, 9);
    expect(mended.xPx.subarray(0, 90)).toEqual(old.xPx.subarray(0, 90));
  });
  it('stops at frames that are known to be right, and leaves what lies beyond them', () => {
    const old = wrongFrom(100, 300);
    const mended = mendTrack(old, truth, { at: 200, right: [0, 150, 250], range: all });
    expect(error(mended, truth, 200)).toBe(0);
    expect(mended.xPx[120]).toBe(old.xPx[120]);
    expect(mended.xPx[280]).toBe(old.xPx[280]);
  });
  it('never jumps, however far apart old and fresh are: it bends to the known frame', () => {
    const old = filmed({ rider: CAST[0].scene.rider }).landmarks.toe;
    shift(old, 0, 419, 12, 0);
    const mended = mendTrack(old, truth, { at: 200, right: [120], range: all });
    expect(mended.xPx[120]).toBe(old.xPx[120]);
    expect(worstJump(mended, truth)).toBeLessThan(0.2);
    expect(error(mended, truth, 419)).toBe(0);
  });
  it('swaps two that were taken for one another, and swaps them back', () => {
    const { heel, toe } = filmed({ rider: CAST[0].scene.rider }).landmarks;
    const [h, t] = swapTracks(heel, toe, 50, 60);
    expect([h.xPx[55], t.xPx[55], h.xPx[49], h.xPx[61]]).toEqual([
      toe.xPx[55],
      heel.xPx[55],
      heel.xPx[49],
      heel.xPx[61],
    ]);
    expect(swapTracks(h, t, 50, 60)).toEqual([heel, toe]);
  });
});
