import { describe, expect, it } from 'vitest';
import { SIDE_LANDMARKS } from '../../core/landmarks/landmarks.ts';
import type { Room } from '../../sim/render/rooms.ts';
import { HARD } from '../accuracy/hardFilms.ts';
import { compareWithTruth } from '../accuracy/measure.ts';
import { followed, judgeNames, judgeWheels, namedOn, rendered, surveyed } from './pipeline.ts';
import { randomFilm } from './randomFilms.ts';

/** The whole way, from the picture over the proposal to the angles, without a word from anybody. */
describe('films as rooms and phones make them', () => {
  const films: readonly [name: RegExp, frames: number, mostLost: number, also: Room][] = [
    // Where the foot is fastest its sticker is smeared over more than its own size.
    [/shutter 1\/60/, 42, 0.1, {}],
    // Pictures that are written twice on top of it change nothing.
    [/flicker/, 72, 0.02, { doubledEvery: 11 }],
  ];
  it.each(films)('%s: named, followed and read', (name, frames, mostLost, also) => {
    const of = HARD.find((h) => name.test(h.name))!;
    const film = { ...of, frames, room: { ...of.room, ...also } };
    const r = rendered(film);
    const found = surveyed(r);
    expect(judgeNames(film, found.named)).toMatchObject({ wrong: [], unsure: [], facingRight: true });
    expect(found.named!.leastSeen).toBe(1);
    const wheels = judgeWheels(film, found.wheels);
    expect(wheels.hubPx).toBeLessThan(1);
    expect(wheels.tyrePx).toBeLessThan(2);
    const a = compareWithTruth(film.member, followed(r, found.named!), film.room);
    for (const key of SIDE_LANDMARKS) {
      expect(a.landmarks[key].lostFrames, key).toBeLessThanOrEqual(mostLost * frames);
      expect(a.landmarks[key].worstPx, key).toBeLessThan(1.5);
    }
    for (const [key, rms] of Object.entries(a.angleRmsDeg)) expect(rms, key).toBeLessThan(0.5);
  });
  it('a random one is the same each time', () => {
    expect(randomFilm(4)).toEqual(randomFilm(4));
    expect(randomFilm(5)).not.toEqual(randomFilm(4));
  });
  it.each([
    [64, 7, 1, 'dots of the stickers’ look stand all over the picture'],
    // On one of the 35 pictures of a turn a sticker is not seen.
    [75, 7, 34 / 35, 'the ankle’s path begins on another thing'],
  ])('random film %i, %i names or more, %d seen: %s; none is false', (seed, least, seen) => {
    const film = randomFilm(seed);
    const { names, found } = namedOn(film);
    expect(names.wrong).toEqual([]);
    expect(names.right.length).toBeGreaterThanOrEqual(least);
    expect(names.facingRight).toBe(true);
    expect(found.named!.leastSeen).toBeCloseTo(seen, 6);
  });
});
