import dayjs from 'dayjs';
import type { DayFormat } from '../../../core/records/types.ts';

const PATTERNS: Record<DayFormat, string> = {
  'month-name': 'D MMM YYYY',
  'day-first': 'DD/MM/YYYY',
  'month-first': 'MM/DD/YYYY',
  iso: 'YYYY-MM-DD',
};

let pattern = PATTERNS['month-name'];

/** From now on days are written as the studio has it; called where its settings are read, before anything is drawn. */
export function writeDaysAs(format: DayFormat): void {
  pattern = PATTERNS[format];
}

/** How the date picker writes a day. */
export const dayPattern = (): string => pattern;

/** A day as the studio writes it. @param iso a day or a moment */
export const dayText = (iso: string): string => dayjs(iso).format(pattern);

/** A moment as the studio writes it, to the minute. */
export const momentText = (iso: string): string => dayjs(iso).format(`${pattern}, HH:mm`);
