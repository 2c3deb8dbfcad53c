import { afterEach, expect, it } from 'vitest';
import { DAY_FORMATS } from '../../../core/records/types.ts';
import { dayText, momentText, writeDaysAs } from './dates';

afterEach(() => writeDaysAs('month-name'));

it('a day is written everywhere as the studio has it', () => {
  const written = DAY_FORMATS.map((format) => {
    writeDaysAs(format);
    return dayText('2027-11-02');
  });
  expect(written).toEqual(['2 Nov 2027', '02/11/2027', '11/02/2027', '2027-11-02']);
  writeDaysAs('iso');
  expect(momentText('2027-11-02T09:05:00')).toBe('2027-11-02, 09:05');
});
