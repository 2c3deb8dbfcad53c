import { describe, expect, it } from 'vitest';
import { seededRandom } from '../../sim/random.ts';
import { lengthText, lengthWithUnit, parseLength, type LengthUnit } from './length.ts';
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
