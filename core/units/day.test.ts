import { expect, it } from 'vitest';
import { dayMeant, isDay } from './day.ts';

it('only days of the calendar are days', () => {
  for (const good of ['2027-02-28', '2028-02-29', '2027-12-31', '2000-02-29'])
    expect(isDay(good), good).toBe(true);
  for (const bad of [
    '2027-02-29',
    '2027-02-31',
    '2027-13-01',
    '2027-00-10',
    '2027-04-31',
    '2027-1-1',
    '',
    'NaN',
    '1900-02-29',
  ])
    expect(isDay(bad), bad).toBe(false);
});

it('a day past its month’s end was meant as the last of it, and what is a day stays', () => {
  expect(dayMeant('2027-02-31')).toBe('2027-02-28');
  expect(dayMeant('2028-02-31')).toBe('2028-02-29');
  expect(dayMeant('2027-99-00')).toBe('2027-12-01');
  expect(dayMeant('tomorrow')).toBeNull();
  for (let k = 0; k < 800; k += 1) {
    const day = new Date(Date.UTC(2027, 0, 1 + k)).toISOString().slice(0, 10);
    expect(isDay(day)).toBe(true);
    expect(dayMeant(day)).toBe(day);
  }
});
