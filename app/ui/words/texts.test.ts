import { describe, expect, it } from 'vitest';
import { seededRandom } from '../../../sim/random.ts';
import { judge } from '../../../core/protocol/judge.ts';
import { CONTROL_KEYS, CONTROLS } from '../../../core/plan/controls/controlTable.ts';
import type { Moves } from '../../../core/plan/controls/controls.ts';
import { CATALOGUE } from '../../demo/catalogue.ts';
import { conventionWord, degrees, hasConvention, quoted } from './angleText.ts';
import { quotedBand, quotedVerdict } from '../../../core/protocol/convention.ts';
import { bandText } from './bandText.ts';
import { isComplete, nextOpen, samePoints, type BoardItem, type BoardPoints } from '../film/boardPoints.ts';
import { byText, fromToText, lineTitle, movesText } from './moveText.ts';

const bike = CATALOGUE.sessions.find((s) => s.id === 'pilar-1')!.asFound;

describe('the two ways of quoting a joint', () => {
  it('judge alike: value and band turn round together, and back', () => {
    const random = seededRandom(12);
    const swap = {
      in: 'in',
      low: 'high',
      high: 'low',
      'edge-low': 'edge-high',
      'edge-high': 'edge-low',
      'likely-low': 'likely-high',
      'likely-high': 'likely-low',
    } as const;
    for (let k = 0; k < 200; k += 1) {
      const low = 20 + 20 * random();
      const band = { low: random() < 0.2 ? null : low, high: low + 5 + 20 * random() };
      const value = 10 + 60 * random();
      const bend = judge(value, 2, band);
      const inside = judge(quoted('knee', value, 'inside'), 2, quotedBand('knee', band, 'inside'));
      expect(inside).toBe(swap[bend]);
      expect(quotedVerdict('knee', bend, 'inside')).toBe(inside);
      expect(quotedBand('knee', quotedBand('knee', band, 'inside'), 'inside').high).toBeCloseTo(band.high, 9);
      expect(quoted('knee', quoted('knee', value, 'inside'), 'inside')).toBeCloseTo(value, 9);
    }
  });
  it('are known to knee and elbow alone, and never to a distance', () => {
    expect(['kneeFlexionMinDeg', 'elbowFlexionDeg', 'hipAngleMinDeg'].map(hasConvention)).toEqual([
      true,
      true,
      false,
    ]);
    expect(quoted('kneeOverSpindleMm', 12, 'inside')).toBe(12);
    expect(quotedBand('kneeOverSpindleMm', { low: -20, high: 0 }, 'inside')).toEqual({ low: -20, high: 0 });
    expect(conventionWord('kneePathWidthMm', 'inside')).toBe('');
    expect(conventionWord('elbowFlexionDeg', 'inside')).toBe('inside');
  });
  it('are written with a true minus, and a dash for what is not there', () => {
    expect(degrees(-3.25)).toBe('−3.3°');
    expect(degrees(NaN)).toBe('–');
    expect(bandText({ low: -5, high: 20 }, 'mm')).toBe('−5 to 20 mm');
    expect(bandText({ low: null, high: 115 }, '°')).toBe('at most 115°');
    expect(bandText({ low: 60, high: null }, '°')).toBe('at least 60°');
  });
});

describe('moves in words', () => {
  it('name every control with its direction, in either unit, and never twice the same for up and down', () => {
    for (const key of CONTROL_KEYS) {
      const { step, unit } = CONTROLS[key];
      const [up, down] = [byText(key, step, 'mm'), byText(key, -step, 'mm')];
      expect(up).not.toBe(down);
      expect(up).not.toMatch(/[-−]/);
      if (unit === 'mm') expect(byText(key, step, 'in')).toMatch(/ in /);
    }
    expect(byText('stemFlip', 1, 'mm')).toBe('turned over');
    expect(movesText({}, 'mm')).toBe('as it is');
    expect(movesText({ saddleUp: -6, saddleBack: 5 }, 'mm')).toBe(
      'saddle height 6 mm down, setback 5 mm back',
    );
  });
  it('say from where to where only where it was measured', () => {
    const from = bike.saddle.heightMm!;
    expect(fromToText(bike, 'saddleUp', 9, 'mm')).toBe(`${from} mm → ${from + 9} mm`);
    const unmeasured = { ...bike, saddle: { ...bike.saddle, heightMm: null, heightToSpindleMm: null } };
    expect(fromToText(unmeasured, 'saddleUp', 9, 'mm')).toBeNull();
    expect(fromToText(bike, 'stemFlip', bike.stem.flipped ? -1 : 1, 'mm')).toBe(
      bike.stem.flipped ? 'the right way up' : 'turned over',
    );
  });
  it('head a line with what a fitter would call across the room', () => {
    const cases: [string, Moves, string][] = [
      ['saddleUp', { saddleUp: -6 }, 'Lower the saddle 6 mm'],
      ['saddleBack', { saddleBack: -8 }, 'Saddle forward 8 mm'],
      ['saddleTilt', { saddleTilt: 2.5 }, 'Saddle’s nose 2.5° up'],
      ['crank', { crank: -7.5 }, 'Cranks 7.5 mm shorter'],
      ['cleatBack', { 'cleatBack.left': 6, 'cleatBack.right': 6 }, 'Both cleats 6 mm back'],
      ['cleatBack', { 'cleatBack.right': 3 }, 'Cleats: right 3 mm back'],
      ['stance', { 'cleatOut.left': -4, 'cleatOut.right': -4 }, 'Wider stance'],
      ['stance', { 'cleatOut.right': -4 }, 'Wider stance'],
      ['stance', { 'cleatOut.left': 1, 'washers.left': 1, 'washers.right': 1 }, 'Wider stance'],
      ['front', { stemLength: -30, stemFlip: 1 }, 'Stem length 30 mm shorter, stem turned over'],
      ['stance', { 'cleatOut.left': 3, 'cleatOut.right': 3 }, 'Narrower stance'],
      ['shim', { 'shim.left': 3 }, 'A shim of 3 mm'],
      ['something', { leverReach: -4 }, 'Lever reach 4 mm nearer'],
      ['saddleUp', {}, 'Nothing'],
    ];
    for (const [key, moves, title] of cases) expect(lineTitle(key, moves, 'mm')).toBe(title);
    expect(lineTitle('saddleUp', { saddleUp: 25.4 }, 'in')).toBe('Raise the saddle 1 in');
  });
});

describe('points on the board', () => {
  const items: BoardItem[] = [
    { key: 'hip', name: 'hip', plain: 'hip', place: '' },
    { key: 'rim', name: 'rim', plain: 'rim', place: '', optional: true },
    { key: 'head', name: 'head', plain: 'head', place: '', optional: true, onRequest: true },
  ];
  const at = (x: number): BoardPoints[string] => ({ x, y: 2, onSticker: true });
  it('are asked for in turn, those on request never by themselves', () => {
    expect(nextOpen(items, {})).toBe('hip');
    expect(nextOpen(items, { hip: at(1) })).toBe('rim');
    expect(nextOpen(items, { hip: at(1), rim: at(2) })).toBeNull();
    expect([isComplete(items, {}), isComplete(items, { hip: at(1) })]).toEqual([false, true]);
  });
  it('are the same in whatever order they were put, and not when one moved a quarter pixel', () => {
    const a = { hip: at(1), rim: at(2) };
    expect(samePoints(a, { rim: at(2), hip: at(1) })).toBe(true);
    expect(samePoints(a, { rim: at(2), hip: at(1.25) })).toBe(false);
    expect(samePoints(a, { hip: at(1) })).toBe(false);
    expect(samePoints(a, { ...a, hip: { x: 1, y: 2, onSticker: false } })).toBe(false);
  });
});
