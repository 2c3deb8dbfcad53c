import { describe, expect, it } from 'vitest';
import { jointsOfPose, pulledTo, reanchored, type PosePoint } from './poseJoints.ts';

const points: PosePoint[] = Array.from({ length: 33 }, (_, k) => ({ x: 10 * k, y: 5 * k, sure: 0.9 }));

describe('jointsOfPose', () => {
  it('takes the near side: right on the chain’s side, left on the other', () => {
    expect(jointsOfPose(points, 'drive').knee).toEqual(points[26]);
    expect(jointsOfPose(points, 'nonDrive').knee).toEqual(points[25]);
    expect(jointsOfPose(points, 'drive').toe!.x).toBeCloseTo(300 + 0.72 * 20, 9);
  });
  it('knows both legs from the front, and leaves open what was not seen', () => {
    const hidden = points.map((p, k) => (k === 23 ? { ...p, sure: 0.1 } : p));
    const front = jointsOfPose(hidden, 'front');
    expect(front.kneeR).toEqual(points[26]);
    expect(front.hipR).toEqual(points[24]);
    expect(front.hipL).toBeUndefined();
    expect(jointsOfPose(hidden, 'nonDrive').hip).toBeUndefined();
  });
});

describe('pulledTo', () => {
  it('gives every sticker to one point, the nearest pairs first, and none from afar', () => {
    const pulled = pulledTo(
      { ankle: { x: 0, y: 0, sure: 1 }, heel: { x: 10, y: 0, sure: 1 }, hip: { x: 500, y: 0, sure: 0.5 } },
      [
        { x: 12, y: 1 },
        { x: 4, y: 2 },
      ],
      40,
    );
    expect(pulled.heel).toMatchObject({ x: 12, y: 1, onSticker: true });
    expect(pulled.ankle).toMatchObject({ x: 4, y: 2, onSticker: true });
    expect(pulled.hip).toMatchObject({ x: 500, onSticker: false, sure: 0.5 });
  });
});

describe('reanchored', () => {
  const n = 121;
  const truth = (i: number) => ({ x: 300 + 2 * i, y: 200 + 30 * Math.sin(i / 9) });
  /** What a patch leaves that slides off by half a pixel a frame. */
  const drifting = {
    xPx: Float64Array.from({ length: n }, (_, i) => truth(i).x + 0.5 * i),
    yPx: Float64Array.from({ length: n }, (_, i) => truth(i).y),
  };
  const anchors = Array.from({ length: 9 }, (_, k) => {
    const p = truth(15 * k);
    return { frame: 15 * k, p: { x: p.x + 12, y: p.y - 7, sure: 0.9 } };
  });
  it('takes a drift out down to what the model itself strays', () => {
    const held = reanchored(drifting, anchors, 0);
    expect(drifting.xPx[120] - truth(120).x).toBeCloseTo(60, 6);
    expect(Math.abs(held.xPx[120] - truth(120).x)).toBeLessThan(15);
    expect(held.movedPx).toBeGreaterThan(40);
  });
  it('leaves a path alone that does not drift, whatever the model’s own bias', () => {
    const good = {
      xPx: Float64Array.from({ length: n }, (_, i) => truth(i).x),
      yPx: Float64Array.from({ length: n }, (_, i) => truth(i).y),
    };
    expect(reanchored(good, anchors, 0).movedPx).toBe(0);
    expect(reanchored(drifting, [{ frame: 0, p: null }, ...anchors.slice(1)], 0).movedPx).toBe(0);
  });
});
