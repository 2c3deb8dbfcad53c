import { expect, it } from 'vitest';
import { CAST } from '../cast.ts';
import { newPlanes, openFilm, planesInto, toPlanes } from './film.ts';

it('a part of a picture is that part of the whole one, up to the edges', () => {
  const [{ scene, film }] = CAST;
  const [whole, inPart] = [openFilm(scene, film), openFilm(scene, film)];
  const { widthPx: width, heightPx: height } = scene.camera;
  inPart.shoot(0);
  for (const [i, part] of [
    { x: 420, y: 260, width: 300, height: 200 },
    { x: 0, y: 0, width: 240, height: 130 },
    { x: width - 200, y: height - 120, width: 200, height: 120 },
  ].entries()) {
    const all = toPlanes(whole.shoot(i + 4));
    const some = newPlanes(width, height);
    planesInto(some, inPart.shoot(i + 4, part), part);
    const rowsOf = (plane: Uint8Array, step: 1 | 2): Buffer =>
      Buffer.concat(
        Array.from({ length: part.height / step }, (_, k) => {
          const from = ((part.y / step + k) * width + part.x) / step;
          return plane.subarray(from, from + part.width / step);
        }),
      );
    for (const [key, step] of [['y', 1] as const, ['u', 2] as const, ['v', 2] as const])
      expect(rowsOf(some[key], step).equals(rowsOf(all[key], step)), `${i} ${key}`).toBe(true);
  }
});
