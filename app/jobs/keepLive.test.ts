import { expect, it } from 'vitest';
import { tracksOnFilm } from './keepLive.ts';

it('what was followed goes to the film’s own pictures by their time: one that was not written has none, one that was not followed neither', () => {
  const tS = Float64Array.from([10, 10.0167, 10.0333, 10.05, 10.0667]);
  const knee = {
    xPx: Float64Array.from([1, 2, 3, 4, 5]),
    yPx: Float64Array.from([11, 12, 13, 14, 15]),
    confidence: Float32Array.from([1, 1, 0.5, 1, 1]),
  };
  // The film began a picture later and lacks the fourth; its stamps are whole milliseconds.
  const on = tracksOnFilm({ tS, landmarks: { knee } }, 10.0167, [0, 0.017, 0.05, 0.083]);
  expect([...on.tS]).toEqual([0, 0.017, 0.05, 0.083]);
  expect([...on.landmarks.knee.xPx]).toEqual([2, 3, 5, NaN]);
  expect([...on.landmarks.knee.yPx]).toEqual([12, 13, 15, NaN]);
  expect([...on.landmarks.knee.confidence]).toEqual([1, 0.5, 1, 0]);
});
