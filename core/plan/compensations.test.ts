import { describe, expect, it } from 'vitest';
import { demoCase } from '../../scripts/plans/cases.ts';
import { lineOf } from './blankCase.fixture.ts';
import { otherCompensations } from './compensations.ts';
import type { Moves } from './controls/controls.ts';
import type { Stage } from './controls/controlTable.ts';
import type { OnBike } from '../suspects/onBike.ts';
import type { PlanCase, PlanLine } from './terms/plan.ts';

const maren = demoCase('maren');
const line = (key: string, moves: Moves, stage: Stage = 'cockpit'): PlanLine => lineOf(key, moves, stage);
/** A bike that hides nothing, so that only what is named shows. */
const plain: PlanCase = {
  ...maren,
  bike: {
    ...maren.bike,
    saddle: { ...maren.bike.saddle, tiltDeg: 0 },
    bar: { ...maren.bike.bar, rotationDeg: 0 },
  },
};
const seenOn = (onBike: OnBike, lines: readonly PlanLine[] = []): string[] =>
  otherCompensations({ ...plain, onBike }, lines);

describe('compensations seen on the bike', () => {
  const nearer = line('hands', { stemLength: -30 });
  const higher = line('hands', { spacers: 15 });
  const lower = line('hands', { spacers: -15 });
  it('nothing found, nothing said', () => {
    expect(seenOn({})).toEqual([]);
    expect(seenOn({ slides: 'no', arms: 'soft', back: 'long', heelRises: 'no' }, [nearer])).toEqual([]);
  });
  it('each goes with the line that takes its cause away', () => {
    const goes: [OnBike, PlanLine, string][] = [
      [{ slides: 'yes' }, line('saddleUp', { saddleUp: -6 }, 'saddle'), 'the saddle comes down'],
      [{ slides: 'yes' }, line('saddleTilt', { saddleTilt: 4 }, 'saddle'), 'its nose comes up'],
      [{ slides: 'yes' }, nearer, 'the hands come nearer or higher'],
      [{ heelRises: 'yes' }, line('saddleBack', { saddleBack: 8 }, 'saddle'), 'the saddle goes back'],
      [{ arms: 'locked' }, nearer, 'the hands come to another place'],
      [{ back: 'round' }, higher, 'the hands come higher'],
    ];
    for (const [onBike, l, why] of goes) {
      const [words, ...more] = seenOn(onBike, [l]);
      expect(more).toEqual([]);
      expect(words).toContain(`expected to go, since ${why}`);
    }
  });
  it('a line that moves the other way takes nothing away', () => {
    const stays: [OnBike, PlanLine][] = [
      [{ slides: 'yes' }, line('saddleUp', { saddleUp: 6 }, 'saddle')],
      [{ slides: 'yes' }, line('saddleTilt', { saddleTilt: -2 }, 'saddle')],
      [{ slides: 'yes' }, lower],
      [{ heelRises: 'yes' }, line('saddleBack', { saddleBack: -8 }, 'saddle')],
      [{ arms: 'locked' }, line('hands', { barRotation: 1 })],
      [{ back: 'round' }, nearer],
      [{ back: 'round' }, lower],
    ];
    for (const [onBike, l] of stays)
      expect(seenOn(onBike, [l])[0], JSON.stringify(l.moves)).toContain('nothing here takes its cause away');
  });
  it('several causes are named together', () => {
    expect(seenOn({ slides: 'yes' }, [line('saddleUp', { saddleUp: -6 }, 'saddle'), higher])[0]).toBe(
      'The rider slides forward: expected to go, since the saddle comes down, the hands come nearer or higher.',
    );
  });
  it('a nose-down saddle and a rolled bar tell of a front that is too far', () => {
    const bent = (tiltDeg: number, rotationDeg: number, lines: readonly PlanLine[]): string =>
      otherCompensations(
        {
          ...plain,
          bike: {
            ...plain.bike,
            saddle: { ...plain.bike.saddle, tiltDeg },
            bar: { ...plain.bike.bar, rotationDeg },
          },
        },
        lines,
      ).join(' ');
    expect(bent(-5, 0, [nearer])).toContain('nose-down: no longer needed, since');
    expect(bent(-5, 0, [])).toContain('ask why it was tilted');
    expect(bent(-3, 0, [])).toBe('');
    expect(bent(0, 10, [higher])).toContain('rolled up: no longer needed, since');
    expect(bent(0, 10, [])).toContain('turned back after those');
  });
});
