import { describe, expect, it } from 'vitest';
import { bikeWith } from '../plan/blankCase.fixture.ts';
import { applyMoves, type Moves } from '../plan/controls/controls.ts';
import { CONTROL_KEYS, CONTROLS } from '../plan/controls/controlTable.ts';
import { movesInRiderWords } from './riderMoves.ts';

const mm = (v: number): string => `${v} mm`;
const bike = bikeWith({
  saddle: { heightMm: 700, setback80Mm: 100, tiltDeg: -1, widthMm: 143, model: 'broad' },
  stem: { lengthMm: 100, spacersMm: 20, angleDeg: -6 },
  crank: { lengthMm: 172.5 },
  feet: {
    left: { cleatBehindMm: 0, cleatOutwardMm: 0, heelOutDeg: 0 },
    right: { cleatBehindMm: 0, cleatOutwardMm: 0, heelOutDeg: 0 },
  },
});
const words = (moves: Moves): string[] => movesInRiderWords(bike, applyMoves(bike, moves), mm);

describe('what was moved, to a rider', () => {
  it.each([
    [{ saddleUp: 18 }, ['saddle 18 mm higher']],
    [{ saddleUp: -7 }, ['saddle 7 mm lower']],
    [{ saddleBack: -5 }, ['saddle 5 mm further forward']],
    [{ 'cleatBack.left': 4 }, ['left cleat 4 mm further back']],
    [{ 'heelOut.right': -2 }, ['right cleat turned, the heel 2° further in']],
    [{ crank: -7.5 }, ['cranks 7.5 mm shorter']],
    [{ stemFlip: 1 }, ['stem turned over']],
  ] as [Moves, string[]][])('%j', (moves, expected) => expect(words(moves)).toEqual(expected));

  it('an untouched bike has nothing to tell', () => expect(words({})).toEqual([]));

  it('a part that was exchanged is named, one that stayed or lost its name is not', () => {
    const other = { ...bike, saddle: { ...bike.saddle, model: 'narrow' } };
    expect(movesInRiderWords(bike, other, mm)).toEqual(['another saddle: narrow']);
    expect(movesInRiderWords(bike, { ...bike, saddle: { ...bike.saddle, model: '' } }, mm)).toEqual([]);
  });

  it('every control that was moved is told once, less and more by different words', () => {
    for (const key of CONTROL_KEYS) {
      const { least, most, step } = CONTROLS[key];
      const tell = (by: number): string[] => {
        const to = applyMoves(bike, { [key]: by });
        return movesInRiderWords(bike, to, mm);
      };
      const [up, down] = [tell(Math.min(step, most)), tell(Math.max(-step, least))];
      expect(up.length, key).toBeLessThanOrEqual(1);
      if (up.length && down.length && most > 0 && least < 0) expect(up, key).not.toEqual(down);
    }
  });
});
