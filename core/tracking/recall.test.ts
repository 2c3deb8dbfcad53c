import { describe, expect, it } from 'vitest';
import { CAST } from '../../sim/cast.ts';
import { filmed } from '../../sim/filmed.ts';
import { SIDE_LANDMARKS } from '../landmarks/landmarks.ts';
import { distance, type ImagePoint } from '../math/vec.ts';
import { strokeMemory, type StrokeMemory } from './recall.ts';
import { pointAt, type Tracks } from './tracks.ts';

const rider = CAST[0].scene.rider;
const KNEE = SIDE_LANDMARKS.indexOf('knee');
const ANKLE = SIDE_LANDMARKS.indexOf('ankle');
const standOf = (tracks: Tracks, i: number): ImagePoint[] =>
  SIDE_LANDMARKS.map((key) => pointAt(tracks, key, i));
const without = (stand: readonly ImagePoint[], ...lost: number[]): (ImagePoint | null)[] =>
  stand.map((p, k) => (lost.includes(k) ? null : p));
/** A memory of so many frames of a film. */
function remembering(tracks: Tracks, frames: number): StrokeMemory {
  const memory = strokeMemory(SIDE_LANDMARKS.length);
  for (let i = 0; i < frames; i += 1) memory.note(standOf(tracks, i));
  return memory;
}

describe('where a lost joint must be', () => {
  // 90 rpm: a turn takes 40 frames.
  const tracks = filmed({ rider, seconds: 5, noisePx: 0.3, rate: 60, theta: (t) => 540 * t });
  it('is told by the others once a turn has been seen, as well as it says itself', () => {
    const memory = remembering(tracks, 60);
    for (let i = 80; i < 160; i += 3) {
      for (const which of [KNEE, ANKLE]) {
        const told = memory.recall(which, without(standOf(tracks, i), which))!;
        expect(distance(told, standOf(tracks, i)[which])).toBeLessThan(2 * told.spreadPx);
        expect(told.spreadPx).toBeLessThan(5);
      }
    }
  });
  it('is told at another cadence, and with time running backwards', () => {
    const slower = filmed({ rider, seconds: 3, noisePx: 0.3, rate: 60, theta: (t) => 200 + 380 * t });
    const memory = remembering(tracks, 60);
    for (let i = 100; i > 20; i -= 7) {
      const told = memory.recall(KNEE, without(standOf(slower, i), KNEE))!;
      expect(distance(told, standOf(slower, i)[KNEE])).toBeLessThan(3.5);
    }
  });
  it('is not made up: before the turn was seen, of a body that sits elsewhere, or with too few in sight', () => {
    // Half a turn: the other half is another stand.
    expect(remembering(tracks, 16).recall(KNEE, without(standOf(tracks, 28), KNEE))).toBeNull();
    const memory = remembering(tracks, 60);
    const slid = standOf(tracks, 90).map((p) => ({ x: p.x + 8, y: p.y }));
    expect(memory.recall(KNEE, without(slid, KNEE))).toBeNull();
    const [a, b] = [0, SIDE_LANDMARKS.length - 1];
    const two = standOf(tracks, 90).map((p, k) => (k === a || k === b ? p : null));
    expect(memory.recall(KNEE, two)).toBeNull();
    const never = strokeMemory(SIDE_LANDMARKS.length);
    for (let i = 0; i < 60; i += 1) never.note(without(standOf(tracks, i), KNEE));
    expect(never.recall(KNEE, without(standOf(tracks, 90), KNEE))).toBeNull();
  });
  it('forgets what is long past', () => {
    const memory = remembering(tracks, 60);
    const elsewhere = standOf(tracks, 0).map((p) => ({ x: p.x + 200, y: p.y }));
    for (let i = 0; i < 256; i += 1) memory.note(elsewhere);
    expect(memory.recall(KNEE, without(standOf(tracks, 90), KNEE))).toBeNull();
  });
});
