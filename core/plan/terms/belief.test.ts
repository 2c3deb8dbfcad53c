import { describe, expect, it } from 'vitest';
import { gaussian, seededRandom } from '../../../sim/random.ts';
import { believe, probabilityWords, WELL_SHARE, type Spread } from './belief.ts';

const SPREAD: Spread = { wellSdMm: 6.5, offMm: 21, offSdMm: 8, fromMm: 9.5 };
const sign = (byMm: number, sdMm = 8) => ({ byMm, sdMm, text: '' });

describe('what is believed of a setting', () => {
  it('is even-handed: as far over as under, as likely', () => {
    for (const by of [4, 12, 25]) {
      const [a, b] = [believe(SPREAD, [sign(by)]), believe(SPREAD, [sign(-by)])];
      expect(a.over).toBeCloseTo(b.under, 6);
      expect(a.meanMm).toBeCloseTo(-b.meanMm, 6);
    }
    const none = believe(SPREAD, []);
    expect(none.over).toBeCloseTo(none.under, 6);
    expect(none.over + none.under).toBeLessThan(0.5);
  });
  it('grows with the figure, with its sharpness and with a second sign of the same', () => {
    const over = (...signs: ReturnType<typeof sign>[]): number => believe(SPREAD, signs).over;
    expect(over(sign(20))).toBeGreaterThan(over(sign(12)));
    expect(over(sign(20, 5))).toBeGreaterThan(over(sign(20, 14)));
    expect(over(sign(18, 12), sign(18, 12))).toBeGreaterThan(over(sign(18, 12)));
    expect(over(sign(18, 12), sign(-4, 12))).toBeLessThan(over(sign(18, 12)));
  });
  it('a hint moves the odds by what it says, whichever way', () => {
    const b = believe(SPREAD, [sign(10)], [{ under: 1, over: 3, text: '' }]);
    const plain = believe(SPREAD, [sign(10)]);
    expect(b.over).toBeGreaterThan(plain.over);
    expect(believe(SPREAD, [sign(10)], [{ under: 1, over: 0.3, text: '' }]).over).toBeLessThan(plain.over);
  });
  it('says what is true as often as it says so', () => {
    const random = seededRandom(4);
    const bins = Array.from({ length: 5 }, () => ({ claimed: 0, so: 0, n: 0 }));
    for (let k = 0; k < 6000; k += 1) {
      const way = random() < 0.5 ? -1 : 1;
      const at =
        random() < WELL_SHARE
          ? SPREAD.wellSdMm * gaussian(random)
          : way * SPREAD.offMm + SPREAD.offSdMm * gaussian(random);
      const b = believe(SPREAD, [sign(at + 9 * gaussian(random), 9)]);
      const bin = bins[Math.min(4, Math.floor(5 * b.over))];
      bin.n += 1;
      bin.claimed += b.over;
      bin.so += Number(at > SPREAD.fromMm);
    }
    for (const b of bins.filter((q) => q.n > 100))
      expect(Math.abs(b.claimed - b.so) / b.n).toBeLessThan(0.06);
  });
  it('a sign that nothing explains is no crash and no doubt', () => {
    const b = believe(SPREAD, [sign(900, 2)]);
    expect(b.over).toBe(1);
    expect(
      Object.values(b)
        .flat()
        .every((v) => typeof v !== 'number' || Number.isFinite(v)),
    ).toBe(true);
  });
  it('is told in tenths', () => {
    expect(probabilityWords(0.72, 'too low')).toBe('likely too low, 7 in 10');
    expect(probabilityWords(0.98, 'too high')).toBe('almost surely too high, over 9 in 10');
    expect(probabilityWords(0.5, 'too low')).toBe('perhaps too low, 5 in 10');
  });
});
