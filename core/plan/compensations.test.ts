import { describe, expect, it } from 'vitest';
import { ridden } from '../../sim/answer.ts';
import { demoCase, riderOf, caseFor } from '../../scripts/plans/cases.ts';
import { DOSSIERS } from '../../scripts/demo/dossiers.ts';
import { lineOf } from './blankCase.fixture.ts';
import { otherCompensations, unmasked } from './compensations.ts';
import type { Moves, Stage } from './controls.ts';
import type { OnBike } from '../suspects/onBike.ts';
import type { PlanCase, PlanLine } from './plan.ts';
import { prescribe } from './prescribe.ts';
import { protocolById } from '../protocol/protocols.ts';

const maren = demoCase('maren');
const line = (key: string, moves: Moves, stage: Stage = 'cockpit', rejected = false): PlanLine =>
  lineOf(key, moves, stage, rejected);
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
  const nearer = line('front', { stemLength: -30 });
  const higher = line('front', { spacers: 15 });
  const lower = line('front', { spacers: -15 });
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
  it('a line that moves the other way, or that was turned down, takes nothing away', () => {
    const stays: [OnBike, PlanLine][] = [
      [{ slides: 'yes' }, line('saddleUp', { saddleUp: 6 }, 'saddle')],
      [{ slides: 'yes' }, line('saddleTilt', { saddleTilt: -2 }, 'saddle')],
      [{ slides: 'yes' }, lower],
      [{ slides: 'yes' }, line('front', { stemLength: -30 }, 'cockpit', true)],
      [{ heelRises: 'yes' }, line('saddleBack', { saddleBack: -8 }, 'saddle')],
      [{ arms: 'locked' }, line('front', { barRotation: 1 })],
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

describe('a foot that points for a saddle too high', () => {
  const juno = riderOf('juno');
  /** Her saddle raised under her, and the foot takes nearly all of it. */
  const raised = (mm: number, kappa = 0.95): PlanCase => {
    const still = { sitMm: { x: 0, y: mm }, handMm: { x: 0, y: mm }, crankMm: 0, cleatBackMm: 0, stackMm: 0 };
    const right = ridden(juno, still, { kappa, rho: 0 });
    if (!right) throw new Error('out of reach');
    return caseFor({ right }, DOSSIERS.juno, protocolById('time-trial'));
  };
  it('within the band nothing is hidden', () => {
    const c = raised(0);
    expect(unmasked(c)).toEqual({ sides: c.sides.map((s) => ({ ...s })), seen: [], hides: false });
  });
  it('beyond it the knee is judged as it would be without, and the plan lowers the saddle', () => {
    const c = raised(22);
    const { sides, seen } = unmasked(c);
    expect(seen[0]).toContain('hides a saddle that is too high');
    const knee = (list: PlanCase['measures']): number =>
      list.find((m) => m.key === 'kneeFlexionMinDeg')!.value;
    expect(knee(sides[0].measures)).toBeLessThan(knee(c.measures) - 0.5);
    expect(sides[0].measures.some((m) => m.key === 'footPitch180Deg')).toBe(false);
    const plan = prescribe(c);
    const height = plan.lines.find((l) => l.key === 'saddleUp');
    expect(height!.moves.saddleUp).toBeLessThan(0);
    expect(height!.vanishes).toContain('toe pointing at the bottom');
    expect(plan.seenThrough[0]).toContain('expected to go with it');
  });
  it('where the knee would be in its band all the same, it is called a habit and hidden nothing', () => {
    const c = raised(10, 0.9);
    const pitch = c.measures.find((m) => m.key === 'footPitch180Deg')!;
    expect(pitch.verdict).toBe('high');
    const { sides, seen, hides } = unmasked(c);
    expect(hides).toBe(false);
    expect(seen).toHaveLength(1);
    expect(seen[0]).toContain('a habit of the foot');
    expect(sides[0].measures).toBe(c.sides[0].measures);
  });
});
