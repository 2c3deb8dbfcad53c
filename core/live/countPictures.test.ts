import { expect, it } from 'vitest';
import { countPictures } from './countPictures.ts';

/** Pictures of a camera of sixty a second. @param comes whether one of them arrives */
function counted(pictures: number, comes: (i: number) => boolean) {
  const counts = countPictures();
  for (let i = 0; i < pictures; i += 1) if (comes(i)) counts.count(i / 60 + (i % 3) / 2000, true);
  return counts;
}

it('what did not come is counted, whatever the stamps stray by; a camera that slept has dropped nothing', () => {
  expect(counted(600, () => true).now()).toMatchObject({ handled: 600, dropped: 0 });
  const some = counted(600, (i) => i % 10 !== 7);
  expect(some.now()).toMatchObject({ handled: 540, dropped: 60 });
  expect(some.now().framesPerS).toBeCloseTo(60, -1);
  expect(some.isBusy()).toBe(false);
  expect(counted(900, (i) => i < 300 || i > 600).now().dropped).toBe(0);
});

it('a computer that loses a picture in three does not keep up; one that did for a moment does', () => {
  expect(counted(600, (i) => i % 3 !== 1).isBusy()).toBe(true);
  expect(counted(600, (i) => i > 200 || i % 3 !== 1).isBusy()).toBe(false);
  expect(counted(60, (i) => i % 3 !== 1).isBusy()).toBe(false);
});
