import { describe, expect, it } from 'vitest';
import { DOSSIERS } from '../../scripts/demo/dossiers.ts';
import { applyMoves, type Moves } from '../plan/controls/controls.ts';
import { CONTROL_KEYS, CONTROLS } from '../plan/controls/controlTable.ts';
import { MEASURE_KEYS } from '../protocol/protocols.ts';
import type { Finding } from '../protocol/finding.ts';
import { changeInPlainWords, findingInPlainWords, PLAIN } from './plainWords.ts';
import { reasonsFor } from './reasons.ts';

const bike = DOSSIERS.maren.asFound;
const why = (moves: Moves): string[] => reasonsFor(bike, applyMoves(bike, moves));

describe('why something was moved, as the rider is told', () => {
  it('depends on the way it went', () => {
    const expected: [Moves, RegExp][] = [
      [{ saddleUp: 8 }, /can straighten further/],
      [{ saddleUp: -8 }, /no longer has to reach for the pedal/],
      [{ saddleBack: 8 }, /weight rests over the saddle/],
      [{ saddleBack: -8 }, /further over the pedals/],
      [{ saddleTilt: 4 }, /no longer slide forward/],
      [{ saddleTilt: -2 }, /nose presses less/],
      [{ crank: -5 }, /more room at the top/],
      [{ 'cleatBack.left': 4 }, /ball of your foot is spared/],
      [{ 'cleatOut.left': -2 }, /rests as it wants to/],
      [{ barWidth: -20 }, /wide as your shoulders/],
      [{ leverReach: -4 }, /two fingers reach/],
      [{ stemLength: -20 }, /without leaning on it|where your arms want them/],
      [{ spacers: 10 }, /without leaning on it/],
      [{ spacers: -10 }, /where your arms want them|longer and lower/],
    ];
    for (const [moves, words] of expected) {
      const got = why(moves);
      expect(got, JSON.stringify(moves)).toHaveLength(1);
      expect(got[0]).toMatch(words);
    }
  });
  it('a saddle that only goes up is given one reason, though its setback grows with it', () => {
    expect(why({ saddleUp: 17 })).toEqual(['so that your knee can straighten further with every turn']);
  });
  it('both feet, or several parts of the front, are told once; nothing moved needs no reason', () => {
    expect(why({ 'cleatBack.left': 4, 'cleatBack.right': 4 })).toHaveLength(1);
    expect(why({ spacers: 10, stemLength: -10, barRotation: 2 })).toHaveLength(1);
    expect(why({})).toEqual([]);
    expect(why({ spacers: 0.2 })).toEqual([]);
    expect(why({ crank: 5 })).toEqual([]);
  });
  it('no control is without words where it takes something away from the rider', () => {
    for (const key of CONTROL_KEYS) {
      const { least, most } = CONTROLS[key];
      const both = [...why({ [key]: Math.max(least, -4) }), ...why({ [key]: Math.min(most, 4) })];
      // Pedals’ stack and what this bike does not have change nothing that is felt by itself.
      if (/^(pedalStack|pad|washers|shim|hoods|stemFlip)/.test(key)) continue;
      expect(both.length, key).toBeGreaterThan(0);
    }
  });
});

describe('findings in plain words', () => {
  const knee = (value: number, verdict: Finding['verdict']): Finding => ({
    key: 'kneeFlexionMinDeg',
    value,
    uncertainty: 3,
    unit: '°',
    band: { low: 33, high: 42 },
    verdict,
  });
  it('every measure from the side that a rider can feel has them, in both ways', () => {
    for (const key of MEASURE_KEYS) {
      if (key === 'shoulderAboveMidBackMm' || key === 'headAboveBackMm') continue;
      const { low, high, what } = PLAIN[key]!;
      expect(new Set([low, high, what]).size, key).toBe(3);
    }
  });
  it('say the band as it is, open ends too', () => {
    expect(findingInPlainWords(knee(48, 'high'))).toBe(
      'How far your knee is bent at the bottom of the stroke: 48° (33 to 42° is usual); it stays more bent than suits it.',
    );
    expect(findingInPlainWords({ ...knee(60, 'in'), band: { low: 55, high: null } })).toContain(
      '(55° or more is usual)',
    );
    expect(findingInPlainWords({ ...knee(60, 'in'), band: { low: null, high: 115 } })).toContain(
      '(up to 115° is usual)',
    );
    expect(findingInPlainWords({ ...knee(60, 'in'), band: { low: null, high: null } })).not.toContain(
      'usual',
    );
    expect(findingInPlainWords(knee(43, 'edge-high'))).toContain('just at the edge of it');
    expect(
      findingInPlainWords({
        ...knee(-12.4, 'in'),
        key: 'kneeOverSpindleMm',
        unit: 'mm',
        band: { low: -25, high: 5 },
      }),
    ).toContain('−12 mm (−25 to 5 mm is usual)');
  });
  it('tell nearer from further off, from either side', () => {
    const became = (from: number, to: number, verdict: Finding['verdict']): string =>
      changeInPlainWords(knee(from, from > 42 ? 'high' : 'low'), knee(to, verdict))!;
    expect(became(52, 47, 'high')).toContain('nearer, and not there yet');
    expect(became(48, 52, 'high')).toContain('further off than before');
    expect(became(24, 28, 'low')).toContain('nearer, and not there yet');
    expect(became(28, 24, 'low')).toContain('further off than before');
    // From one side to further off on the other.
    expect(became(45, 24, 'low')).toContain('further off than before');
    expect(became(48, 40, 'in')).toContain('now where it belongs');
    expect(became(48, 43, 'edge-high')).toContain('at the edge of where it belongs');
    expect(became(48.2, 48.4, 'high')).toContain('as it was');
  });
});
