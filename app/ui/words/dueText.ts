import { many } from './many.ts';
import dayjs from 'dayjs';
import { dayText } from './dates';

/** A follow-up's day in words, and whether it has passed. */
export function dueText(due: string, today: string): { day: string; words: string; late: boolean } {
  const days = dayjs(due).diff(dayjs(today), 'day');
  const far = (n: number): string => (n < 14 ? many(n, 'day') : many(Math.round(n / 7), 'week'));
  const words = days === 0 ? 'today' : days < 0 ? `${far(-days)} overdue` : `in ${far(days)}`;
  return { day: dayText(due), words, late: days < 0 };
}
