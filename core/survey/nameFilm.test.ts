import { expect, it } from 'vitest';
import { SIDE_LANDMARKS } from '../landmarks/landmarks.ts';
import { sureTogether } from './nameFilm.ts';

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
