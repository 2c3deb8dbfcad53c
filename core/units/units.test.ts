import { describe, expect, it } from 'vitest';
import { seededRandom } from '../../sim/random.ts';
import { lengthText, lengthWithUnit, parseLength, sentenceIn, wordsIn, type LengthUnit } from './length.ts';
import { CURRENCIES, moneyText } from './money.ts';
import { massText, parseMass } from './mass.ts';

const mm = (text: string, unit: LengthUnit = 'mm'): number => {
  const p = parseLength(text, unit);
  if (!p.ok) throw new Error(p.message);
  return p.value;
};

describe('lengths as they are typed', () => {
  it.each([
    ['803', 803],
    ['80cm', 800],
    ['80,3 cm', 803],
    ['31 1/2 in', 800.1],
    ['31 1/2"', 800.1],
    ['5/8 in', 15.875],
    ['5′ 8″', 1727.2],
    ["5' 8", 1727.2],
    ['1.72 m', 1720],
    ['-12', -12],
    ['−12 mm', -12],
    ['-1 1/2 in', -38.1],
    ['.5 in', 12.7],
  ])('%s', (text, expected) => expect(mm(text)).toBeCloseTo(expected, 9));
  it('takes the studio’s unit where none is named', () => {
    expect(mm('31 1/2', 'in')).toBeCloseTo(800.1, 9);
    expect(mm('80.3', 'cm')).toBeCloseTo(803, 9);
    expect(mm('803 mm', 'in')).toBe(803);
  });
  it.each(['', 'long', '80 parsec', '1/0', '12 12', '3 in 4 ft', '8″ -5 mm', '<b>5</b>', '1e400', '12 cm;'])(
    'refuses “%s” and says what to type',
    (text) => {
      const p = parseLength(text, 'mm');
      expect(p).toMatchObject({ ok: false });
      if (!p.ok) expect(p.message).toContain('Type a length');
    },
  );
  it('shows what was stored so that typing it again gives the same', () => {
    const random = seededRandom(7);
    for (let k = 0; k < 500; k += 1) {
      const stored = Math.round((random() * 2400 - 400) * 10) / 10;
      for (const unit of ['mm', 'cm', 'in'] as const) {
        expect(Math.abs(mm(lengthText(stored, unit), unit) - stored)).toBeLessThan(
          unit === 'in' ? 0.13 : 0.051,
        );
        expect(Math.abs(mm(lengthWithUnit(stored, unit)) - stored)).toBeLessThan(0.13);
      }
    }
    expect(lengthText(-0.01, 'mm')).toBe('0');
    expect(lengthText(1000, 'mm')).toBe('1000');
  });
});

describe('masses', () => {
  it('reads kilograms, pounds and stones, and shows them again', () => {
    expect(parseMass('72,5', 'kg')).toEqual({ ok: true, value: 72.5 });
    expect(parseMass('11 st 6 lb', 'kg')).toMatchObject({ ok: true, value: expect.closeTo(72.57, 2) });
    expect(parseMass('160', 'lb')).toMatchObject({ ok: true, value: expect.closeTo(72.57, 2) });
    expect(massText(72.5748, 'lb')).toBe('160');
  });
  it.each(['', 'heavy', '72 ounces', '-3 kg', '7o'])('refuses “%s”', (text) =>
    expect(parseMass(text, 'kg')).toMatchObject({ ok: false }),
  );
});

describe('lengths in what is said', () => {
  it.each([
    ['3 mm down a step', '0.12 in down a step'],
    ['2–3 mm back, to 10 mm or more', '0.08–0.12 in back, to 0.39 in or more'],
    ['0 to 8 mm ± 3.5 mm', '0 to 0.31 in ± 0.14 in'],
    ['a crank of 172.5 mm; hip travel 47 mm', 'a crank of 6.79 in; hip travel 1.85 in'],
    ['between −5 and +12 mm', 'between −0.2 and +0.47 in'],
    ['knee 34° ± 2°, 3 of 12 strokes, 90 rpm', 'knee 34° ± 2°, 3 of 12 strokes, 90 rpm'],
    ['kPa 12 mmHg', 'kPa 12 mmHg'],
  ])('%s', (text, inches) => {
    expect(sentenceIn(text, 'in')).toBe(inches);
    expect(sentenceIn(text, 'mm')).toBe(text);
    expect(sentenceIn(text, 'cm')).not.toContain(' mm ');
  });
  it('through a whole value: texts alone, figures, functions and other things as they are', () => {
    const date = new Date(0);
    const value = {
      why: ['saddle 10 mm low'],
      moves: { saddleUp: 10 },
      at: date,
      none: null,
      deep: [{ t: '25.4 mm' }],
    };
    expect(wordsIn(value, 'in')).toEqual({
      ...value,
      why: ['saddle 0.39 in low'],
      deep: [{ t: '1 in' }],
    });
    expect(wordsIn(value, 'in').at).toBe(date);
    expect(wordsIn(value, 'mm')).toBe(value);
  });
});

describe('money', () => {
  it('as a bill has it, each currency by its own sign and its own decimals', () => {
    expect(moneyText(38, 'EUR')).toBe('€38.00');
    expect(moneyText(1234.5, 'GBP')).toBe('£1,234.50');
    expect(moneyText(3800, 'JPY')).toBe('¥3,800');
    for (const code of CURRENCIES) expect(moneyText(1, code)).toMatch(/1/);
  });
});
