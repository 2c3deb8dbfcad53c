import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { NOT_MOVED } from '../../sim/practice.ts';
import { liveStore } from './live';
import { meetRider, moveBike, practiceStore } from './practice';

const off = liveStore.getState();
const changes = () => practiceStore.getState().changes;

describe('moving a made-up rider’s bike', () => {
  beforeEach(() => meetRider(1));
  afterEach(() => liveStore.setState(off, true));

  it('is one change until it is measured, with the first guess and where it began', () => {
    expect(moveBike('saddleUpMm', 3, -1.2)).toBeNull();
    moveBike('saddleUpMm', 3);
    expect(changes()).toHaveLength(1);
    expect(changes()[0]).toMatchObject({ before: NOT_MOVED, after: { saddleUpMm: 6 }, guessDeg: -1.2 });
    expect(liveStore.getState().marks).toHaveLength(1);
    const { id } = changes()[0];
    const state = {
      ...{ state: 'measured' as const, figures: [], turnsBefore: 9, turnsAfter: 9 },
      ...{ settledS: 20, satAnew: false },
    };
    liveStore.setState({ measured: { [id]: state } });
    moveBike('saddleUpMm', -3);
    expect(changes()).toHaveLength(2);
    expect(changes()[1]).toMatchObject({
      before: { saddleUpMm: 6 },
      after: { saddleUpMm: 3 },
      guessDeg: null,
    });
  });

  it('knows what it truly does: three up is a straighter knee, and back again nothing', () => {
    moveBike('saddleUpMm', 3);
    expect(changes()[0].truly.kneeFlexionMinDeg).toBeLessThan(-0.3);
    moveBike('saddleUpMm', -3);
    expect(changes()[0].truly.kneeFlexionMinDeg).toBe(0);
    expect(changes()[0].word).toBe('same');
  });

  it('refuses what the bike does not give, and leaves it where it was', () => {
    for (let k = 0; k < 9; k += 1) expect(moveBike('handsUpMm', -5)).toBeNull();
    expect(moveBike('handsUpMm', -5)).toContain('Further the bike does not go');
    expect(practiceStore.getState().moved.handsUpMm).toBe(-45);
  });

  it('that had no turns before it is over: the next one has', () => {
    moveBike('saddleUpMm', 3);
    const { id } = changes()[0];
    liveStore.setState({ measured: { [id]: { state: 'no-before', turns: 1, wanted: 6 } } });
    moveBike('saddleUpMm', 3);
    expect(changes()).toHaveLength(2);
    expect(changes()[1].before.saddleUpMm).toBe(3);
  });

  it('begins anew after a stop: what was not measured by then is over', () => {
    moveBike('saddleUpMm', 3);
    // A start forgets the marks.
    liveStore.setState({ ...off });
    moveBike('saddleUpMm', 3);
    expect(changes()).toHaveLength(2);
  });
});
