import { expect, it } from 'vitest';
import { SIDE_LANDMARKS } from '../landmarks/landmarks.ts';
import { drawnDiscs } from '../tracking/drawnDisc.fixture.ts';
import { findStickers } from '../tracking/findStickers.ts';
import type { Yuv } from '../tracking/frame.ts';
import { learnSticker } from '../tracking/learn.ts';
import { isLegAmong, sureTogether } from './nameFilm.ts';

it('where fewer than four names of a body are sure none of them is; the places stay', () => {
  const named = (sure: number) =>
    Object.fromEntries(
      SIDE_LANDMARKS.map((key, k) => [key, { x: k, y: 2 * k, sure: k < sure ? 0.99 : 0.3 }]),
    );
  expect(sureTogether(named(4))).toEqual(named(4));
  const held = sureTogether(named(3));
  expect(Object.values(held).map((p) => p.sure)).toEqual([0.5, 0.5, 0.5, 0.3, 0.3, 0.3, 0.3, 0.3]);
  expect(Object.values(held).map((p) => [p.x, p.y])).toEqual(Object.values(named(3)).map((p) => [p.x, p.y]));
});

it('among spots that fill a picture a leg is told by three that go on smoothly; a wall’s stand still', () => {
  const colour: Yuv = [170, 90, 180];
  const wall = [0, 1, 2, 3, 4, 5].map((k) => ({ x: 20 + 40 * k, y: 20 }));
  const tS = Array.from({ length: 12 }, (_, i) => i / 60);
  const film = (turning: number) => ({
    tS,
    frames: tS.map((t) => {
      const foot = (k: number) => ({
        x: 60 + 60 * k + 22 * Math.cos(9 * t + k),
        y: 95 + 22 * Math.sin(9 * t + k),
      });
      const leg = Array.from({ length: turning }, (_, k) => foot(k));
      const discs = [...wall, ...leg].map((at) => ({ at, radiusPx: 6, colour }));
      return drawnDiscs(discs, { width: 256, height: 140 });
    }),
  });
  const amongIts = (turning: number, picture: number): boolean => {
    const of = film(turning);
    const look = learnSticker(of.frames[0], wall[0])!.sticker;
    const spots = findStickers(of.frames[picture], look);
    expect(spots).toHaveLength(wall.length + turning);
    return isLegAmong(of, picture, spots, look);
  };
  expect(amongIts(3, 0)).toBe(true);
  expect(amongIts(3, 11)).toBe(true);
  expect(amongIts(2, 0)).toBe(false);
  expect(amongIts(0, 0)).toBe(false);
});
