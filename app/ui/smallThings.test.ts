import { describe, expect, it, vi } from 'vitest';
import { CATALOGUE } from '../demo/catalogue.ts';
import { bytesText } from './words/bytesText.ts';
import { dueText } from './words/dueText.ts';
import { takeText } from './words/takeWords.ts';

describe('a follow-up’s day', () => {
  const words = (due: string, today = '2026-11-25'): string => dueText(due, today).words;
  it('is told in days up to two weeks, then in weeks', () => {
    expect(words('2026-11-25')).toBe('today');
    expect(words('2026-11-26')).toBe('in 1 day');
    expect(words('2026-12-08')).toBe('in 13 days');
    expect(words('2026-12-09')).toBe('in 2 weeks');
    expect(words('2027-10-06')).toBe('in 45 weeks');
    expect(words('2026-11-24')).toBe('1 day overdue');
    expect(words('2026-10-01')).toBe('8 weeks overdue');
    expect(dueText('2026-11-24', '2026-11-25').late).toBe(true);
    expect(dueText('2026-11-25', '2026-11-25').late).toBe(false);
  });
  it('counts days of the calendar, over the nights on which clocks are changed too', () => {
    for (const tz of ['UTC', 'Europe/Berlin', 'America/New_York', 'Australia/Lord_Howe']) {
      vi.stubEnv('TZ', tz);
      for (const [from, to] of [
        ['2026-03-28', '2026-03-30'],
        ['2026-10-24', '2026-10-26'],
        ['2026-03-07', '2026-03-09'],
        ['2026-10-31', '2026-11-02'],
        ['2026-04-04', '2026-04-06'],
      ])
        expect(words(to, from), `${tz} ${from}`).toBe('in 2 days');
    }
    vi.unstubAllEnvs();
  });
});

describe('a take in words', () => {
  const [take] = CATALOGUE.sessions.find((s) => s.id === 'maren-1')!.takes;
  const bare = { ...take, position: null, effort: null, effortW: null, cadenceRpm: null };
  it('says what is known and nothing else', () => {
    expect(takeText({ ...bare, view: 'nonDrive' })).toBe('non-drive side');
    expect(
      takeText({ ...bare, view: 'drive', position: 'hoods', effort: 'easy', effortW: 95, cadenceRpm: 88 }),
    ).toBe('drive side, hoods, easy, 95 W, 88 rpm');
    expect(takeText({ ...bare, view: 'rear', effortW: 0 })).toBe('rear, 0 W');
  });
});

describe('sizes', () => {
  it('are never nothing, and change to gigabytes at a thousand', () => {
    expect(bytesText(0)).toBe('0.1 MB');
    expect(bytesText(2_340_000)).toBe('2.3 MB');
    expect(bytesText(999_000_000)).toBe('999.0 MB');
    expect(bytesText(1_500_000_000)).toBe('1.5 GB');
  });
});
