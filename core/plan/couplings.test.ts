import { describe, expect, it } from 'vitest';
import { DOSSIERS } from '../../scripts/demo/dossiers.ts';
import { applyMoves, both, effectsOf, type Moves } from './controls/controls.ts';
import { CONTROL_KEYS, CONTROLS } from './controls/controlTable.ts';
import { cleatAsHeightMm, compensation, knockOns } from './couplings.ts';
import { restOf, shareOf, stepsOf } from './controls/limits.ts';

const bike = DOSSIERS.maren.asFound;
const wordsOf = (moves: Moves): string => knockOns({ bike }, moves).join('; ');

describe('what a change carries over', () => {
  it('is said in the fitter’s words, with its direction', () => {
    expect(wordsOf({ 'cleatBack.left': 10, 'cleatBack.right': 10 })).toContain('acts like 4 mm of saddle up');
    expect(wordsOf({ 'cleatBack.left': -6, 'cleatBack.right': -6 })).toContain(
      'acts like 2 mm of saddle down',
    );
    // The handbook's leg: 10 mm act like 3 at 10° of toe-down, like 5 at 20°.
    expect(cleatAsHeightMm(10, 10)).toBeCloseTo(3, 0);
    expect(cleatAsHeightMm(10, 20)).toBeCloseTo(5, 0);
    expect(wordsOf({ pedalStack: 4 })).toContain('acts like a saddle 4 mm lower');
    expect(wordsOf({ 'shim.left': 3 })).toContain('acts like a saddle 3 mm lower for that leg');
    expect(wordsOf({ crank: -5 })).toMatch(/saddle up 5 mm keeps the bottom, and the top gains/);
    expect(wordsOf({ crank: 5 })).toMatch(/saddle down 5 mm keeps the bottom, and the top loses/);
    expect(wordsOf({ saddleBack: 10 })).toContain('further back: reach grows');
    expect(wordsOf({ saddleBack: -10 })).toContain('further forward: reach shrinks');
    expect(wordsOf({ saddleUp: 12 })).toContain('drop to the bar grows');
    expect(wordsOf({ saddleUp: -12 })).toContain('drop to the bar shrinks');
    expect(wordsOf({ stemLength: -20 })).toMatch(/the hands come \d+ mm nearer/);
    expect(wordsOf({ spacers: 10 })).toContain('higher');
  });
  it('nothing is said of what is not felt, or of nothing', () => {
    expect(wordsOf({})).toBe('');
    expect(wordsOf({ saddleUp: 1 })).toBe('');
    expect(wordsOf({ 'heelOut.left': 2 })).toBe('');
  });
  it('toe to tyre is told where the cleat or the crank brings it nearer', () => {
    expect(wordsOf({ 'cleatBack.left': 20, 'cleatBack.right': 20 })).toMatch(
      /toe to front tyre, at its least: \d+ → -?\d+ mm/,
    );
    expect(wordsOf({ saddleUp: 10 })).not.toContain('tyre');
  });
});

describe('the partner change', () => {
  it('takes the effect on the leg’s length off again, to the millimetre', () => {
    expect(compensation({ 'cleatBack.left': 10, 'cleatBack.right': 10 })).toEqual({ saddleUp: -4 });
    expect(compensation({ 'cleatBack.left': 10, 'cleatBack.right': 10 }, 20)).toEqual({ saddleUp: -5 });
    expect(compensation({ pedalStack: 4 })).toEqual({ saddleUp: 4 });
    expect(compensation({ crank: -5 })).toEqual({ saddleUp: 5 });
    expect(compensation({ crank: 2.5, 'cleatBack.left': 3, 'cleatBack.right': 3 })).toEqual({ saddleUp: -4 });
  });
  it('counts what was moved already, and is silent once all is taken up', () => {
    expect(compensation({ crank: -5, saddleUp: 2 })).toEqual({ saddleUp: 3 });
    expect(compensation({ crank: -5, saddleUp: 5 })).toBeNull();
    expect(compensation({ stemLength: -20 })).toBeNull();
    expect(compensation({})).toBeNull();
  });
  it('one shim is for one leg: the saddle does not follow it', () => {
    expect(compensation({ 'shim.left': 4 })).toBeNull();
    expect(compensation({ 'shim.left': 4, 'shim.right': 4 })).toEqual({ saddleUp: 4 });
  });
  it('with it the leg is as long as before, by the effects themselves', () => {
    for (const moves of [{ pedalStack: 6 }, { crank: -7.5 }, { crank: 5 }] as Moves[]) {
      const fx = effectsOf(bike, both(moves, compensation(moves)!));
      // At the bottom of the stroke: saddle up, less stack, plus the pedal that comes up with a shorter crank.
      const along = Math.hypot(fx.sitMm.x, fx.sitMm.y) * Math.sign(fx.sitMm.y);
      const pedal = fx.legs.left.stackMm - fx.crankMm;
      expect(along).toBeCloseTo(pedal, 0);
    }
  });
});

describe('moves on the bike', () => {
  it('what is applied and taken back again is the bike as it was', () => {
    for (const key of CONTROL_KEYS) {
      const by = CONTROLS[key].step;
      const there = applyMoves(bike, { [key]: by });
      expect(applyMoves(there, { [key]: -by }), key).toEqual(bike);
    }
  });
  it('two moves one after the other are their sum, and what cancels is gone', () => {
    expect(both({ saddleUp: 3, spacers: 5 }, { saddleUp: -3, crank: -5 })).toEqual({ spacers: 5, crank: -5 });
  });
});

describe('how a line is done', () => {
  it('in the handbook’s steps, half of them for whom steps are halved, a pair told once', () => {
    expect(stepsOf({ saddleUp: 12 }, false)).toBe('saddle height in steps of 3 mm');
    expect(stepsOf({ saddleUp: 12 }, true)).toBe('saddle height in steps of 1.5 mm');
    expect(stepsOf({ saddleTilt: 4 }, false)).toContain('1°');
    expect(stepsOf({ 'cleatBack.left': 8, 'cleatBack.right': 8 }, false).split(';')).toHaveLength(1);
  });
  it('a part is bought in its length, and one step needs no words', () => {
    expect(stepsOf({ stemLength: -30 }, false)).toBe('');
    expect(stepsOf({ crank: -5 }, false)).toBe('');
    expect(stepsOf({ saddleUp: 3 }, false)).toBe('');
    expect(stepsOf({ stemFlip: 1 }, false)).toBe('');
  });
  it('a round moves each control no further than its limit, half of it for whom steps are halved; the rest waits', () => {
    expect(shareOf({ saddleUp: 24, saddleBack: 20 }, false)).toEqual({ saddleUp: 10, saddleBack: 10 });
    expect(shareOf({ saddleUp: -24 }, true)).toEqual({ saddleUp: -5 });
    expect(shareOf({ 'cleatBack.left': 9, 'heelOut.left': -8, saddleTilt: 4, spacers: -30 }, false)).toEqual({
      'cleatBack.left': 5,
      'heelOut.left': -3,
      saddleTilt: 2,
      spacers: -20,
    });
    // A part has no half.
    expect(shareOf({ crank: -5, stemLength: -30 }, true)).toEqual({ crank: -5, stemLength: -20 });
    expect(restOf({ saddleUp: 24 }, { saddleUp: 10 })).toEqual({ saddleUp: 14 });
    expect(restOf({ saddleUp: 11 }, { saddleUp: 10 })).toEqual({});
  });
});
