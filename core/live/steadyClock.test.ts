import { expect, it } from 'vitest';
import { steadyClock } from './steadyClock.ts';

it('goes forward whatever the camera counts, keeps its pace, and leaves out what came too late', () => {
  const clock = steadyClock();
  const stamps = [10, 10.1, 10.05, 10.2, 40, 3, 3.1, 3.2, 0.5, 0.6];
  const times = stamps.map(clock);
  expect(times[2]).toBeNull();
  expect(times.filter((t) => t !== null)).toEqual(
    [10, 10.1, 10.2, 40, 40.02, 40.12, 40.22, 40.24, 40.34].map((t) => expect.closeTo(t, 6) as number),
  );
});
