import { describe, expect, it } from 'vitest';
import { gaussian, seededRandom } from '../../sim/random.ts';
import { measureText, quotedBand, quotedVerdict, VERDICT_WORDS, verdictWords } from './convention.ts';
import { judge, outOfBand, type Verdict } from './judge.ts';
import { callsForChange, MEASURE_KEYS } from './protocols.ts';

const BAND = { low: 33, high: 42 };

describe('a finding is a probability', () => {
  it('that the true value lies outside the band, as often as it says', () => {
    const random = seededRandom(9);
    for (const value of [30, 34, 41, 43, 46]) {
      let [low, high] = [0, 0];
      const n = 20_000;
      for (let k = 0; k < n; k += 1) {
        const truth = value + 3 * gaussian(random);
        low += Number(truth < BAND.low);
        high += Number(truth > BAND.high);
      }
      const p = outOfBand(value, 1.96 * 3, BAND);
      expect(p.low).toBeCloseTo(low / n, 1);
      expect(p.high).toBeCloseTo(high / n, 1);
    }
  });
  it('is out from 0.8, likely from 0.5, at the edge from 0.2, else in', () => {
    const at = (v: number): Verdict => judge(v, 1.96 * 3, BAND);
    expect([37, 40, 42.1, 44, 46].map(at)).toEqual(['in', 'edge-high', 'likely-high', 'likely-high', 'high']);
    expect([35, 33.5, 32, 30].map(at)).toEqual(['edge-low', 'edge-low', 'likely-low', 'low']);
  });
  it('an open end is never passed', () => {
    expect(judge(500, 1, { low: 10, high: null })).toBe('in');
    expect(judge(-500, 1, { low: null, high: null })).toBe('in');
  });
  it('is quoted on the side on which its figure stands', () => {
    expect(verdictWords('elbowFlexionDeg', 'high', 'bend')).toBe('above the band');
    expect(verdictWords('elbowFlexionDeg', 'high', 'inside')).toBe('below the band');
    expect(verdictWords('backAngleDeg', 'high', 'inside')).toBe('above the band');
    for (const v of Object.keys(VERDICT_WORDS) as Verdict[])
      expect(
        quotedVerdict('kneeFlexionMinDeg', quotedVerdict('kneeFlexionMinDeg', v, 'inside'), 'inside'),
      ).toBe(v);
    expect(quotedBand('kneeFlexionMinDeg', BAND, 'inside')).toEqual({ low: 138, high: 147 });
    expect(measureText({ key: 'elbowFlexionDeg', value: 53, band: { low: 15, high: 30 } }, 'inside')).toBe(
      'elbow, inside 127°, 150 to 165° wanted',
    );
  });
  it('habits, what is only reported and what is compared with oneself call for no change', () => {
    expect(MEASURE_KEYS.filter((k) => !callsForChange(k))).toEqual([
      'kneeFlexionMaxDeg',
      'footPitch90Deg',
      'footPitch180Deg',
      'ankleRangeDeg',
      'hipVerticalTravelMm',
      'effectiveSeatAngleDeg',
    ]);
  });
});
