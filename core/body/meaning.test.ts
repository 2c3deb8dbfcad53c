import { describe, expect, it } from 'vitest';
import { tested } from '../plan/blankCase.fixture.ts';
import { bodySummary, meaningOf } from './meaning.ts';
import {
  BODY_TESTS,
  finding,
  NOT_TESTED,
  pair,
  single,
  worse,
  type TestKey,
  type TestResult,
} from './bodyTests.ts';

const means = (key: TestKey, result: Partial<TestResult>): string | null =>
  meaningOf(key, tested({ [key]: result }));

/** What is found, and what it means on the bike; null where it means nothing in particular. */
const MEANS: [TestKey, Partial<TestResult>, RegExp | null][] = [
  ['straightLegRaise', { left: 59, right: 75 }, /^Tight hamstrings.*Right larger by 16/],
  ['straightLegRaise', { left: 60, right: 62 }, null],
  ['straightLegRaise', { left: 88, right: 90 }, /^Free/],
  ['hipFlexion', { left: 109, right: 112 }, /shorter crank/],
  ['hipFlexion', { left: 110, right: 112 }, null],
  ['dorsiflexion', { left: 19, right: 21 }, /toes point more without the saddle being high/],
  ['dorsiflexion', { left: 25, right: 25 }, null],
  ['hinge', { both: 'round' }, /limit for the bar/],
  ['hinge', { both: 'flat' }, null],
  ['fingertips', { both: 151 }, /higher bar/],
  ['fingertips', { both: -20 }, null],
  ['oneLegBend', { left: 'drops', right: 'drops' }, /foot support first/],
  ['oneLegBend', { left: 'steady', right: 'wobbles' }, /^The sides differ/],
  ['iliotibial', { left: 'tight', right: 'free' }, /outside of the knee.*sides differ/],
  ['arch', { left: 'low', right: 'low' }, /under the arch before anything is done to the cleat/],
  ['arch', { left: 'high', right: 'high' }, null],
  ['forefootTilt', { left: 4, right: 3 }, /^Common\./],
  ['forefootTilt', { left: 9, right: 3 }, /Left larger by 6/],
  ['pelvis', { both: 'left-low' }, /leg lengths/],
  ['pelvis', { both: 'level' }, null],
  ['malleoliTraction', { both: 1 }, /No difference/],
  ['malleoliTraction', { both: 8 }, /sitting up/],
  ['shoulderRange', { left: 'painful', right: 'free' }, /clinician/],
  ['coreHold', { both: 20 }, /Keep the bar up/],
  ['coreHold', { both: 60 }, null],
  ['hipInternal', { left: 20, right: 31 }, /^Right larger by 11/],
  ['hipInternal', { left: 20, right: 29 }, null],
  ['standOpen', { left: 9, right: 5 }, /Left larger by 4/],
  ['height', { both: 1780 }, null],
];

describe('what a finding means on the bike', () => {
  for (const [key, result, words] of MEANS)
    it(`${key} ${JSON.stringify(result)}: ${words ? words.source : 'nothing in particular'}`, () => {
      if (words) expect(means(key, result)).toMatch(words);
      else expect(means(key, result)).toBeNull();
    });
  it('what was not done, or left out with a reason, means nothing', () => {
    for (const { key } of BODY_TESTS) {
      expect(meaningOf(key, tested({})), key).toBeNull();
    }
    expect(means('straightLegRaise', { skipped: 'cast on the leg' })).toBeNull();
    // One side alone is enough for a limit, not for a difference.
    expect(means('straightLegRaise', { left: 50 })).toMatch(/^Tight hamstrings[^W]*$/);
  });
});

describe('the card that leaves the station', () => {
  it('counts every limit once and every difference worth watching', () => {
    const card = bodySummary(
      tested({
        straightLegRaise: { left: 50, right: 52 },
        hinge: { both: 'round' },
        hipFlexion: { left: 100, right: 101 },
        dorsiflexion: { left: 12, right: 25 },
        footLengthLoaded: { left: 262, right: 268 },
      }),
    );
    expect(card.limits).toHaveLength(4);
    expect(card.watch).toEqual([
      'Foot length, standing: right larger by 6.',
      'Ankle dorsiflexion: right larger by 13.',
    ]);
  });
  it('names a true leg-length difference and when it has to be referred', () => {
    const legs = (mm: number, sitting: number): string[] =>
      bodySummary(tested({ malleoliTraction: { both: mm }, malleoliSitUp: { both: sitting } })).watch;
    expect(legs(-5, -5)).toEqual(['Left leg 5 mm longer.']);
    expect(legs(9, 9)).toEqual(['Right leg 9 mm longer: refer before treating.']);
    expect(legs(9, 0)).toEqual([]);
  });
});

describe('results', () => {
  it('are numbers or words, each asked for as what it is', () => {
    const b = tested({
      inseam: { both: 860 },
      hinge: { both: 'round' },
      straightLegRaise: { left: 50, right: null },
      arch: { left: 'low', right: 'high' },
    });
    expect(single(b, 'inseam')).toBe(860);
    expect(single(b, 'hinge')).toBeNull();
    expect(finding(b, 'hinge')).toBe('round');
    expect(finding(b, 'inseam')).toBeNull();
    expect(pair(b, 'straightLegRaise')).toEqual({ left: 50, right: null });
    expect(pair(b, 'arch')).toEqual({ left: null, right: null });
    expect(worse(b, 'straightLegRaise', 'least')).toBe(50);
    expect(worse(b, 'straightLegRaise', 'most')).toBe(50);
    expect(worse(b, 'hipFlexion', 'least')).toBeNull();
    expect(tested({}).results).toEqual({});
    expect(NOT_TESTED.skipped).toBeNull();
  });
});
