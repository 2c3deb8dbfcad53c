import { gaussian, seededRandom } from './random.ts';

/** A standard normal number for a place in a seeded, endless row of them. */
function drawAt(seed: number, channel: string, index: number): number {
  let h = (seed * 2654435761) >>> 0;
  for (const c of `${channel}:${index}`) h = Math.imul(h ^ c.charCodeAt(0), 16777619) >>> 0;
  return gaussian(seededRandom(h));
}

/** A smooth random course through draws at whole numbers, about unit variance. */
function course(seed: number, channel: string, at: number): number {
  const i = Math.floor(at);
  const f = at - i;
  const s = f * f * (3 - 2 * f);
  const mixed = (1 - s) * drawAt(seed, channel, i) + s * drawAt(seed, channel, i + 1);
  return mixed / Math.sqrt((1 - s) ** 2 + s ** 2);
}

/**
 * How a human strays from stroke to stroke: partly anew with each, partly slowly over some seven, never periodic.
 * @param strokes strokes so far
 * @returns a number of unit variance
 */
export const wander = (seed: number, channel: string, strokes: number): number =>
  0.85 * course(seed, channel, strokes) + 0.53 * course(seed, `${channel}~`, strokes / 7);
