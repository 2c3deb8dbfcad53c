/** A calendar day as records have it: year, month, day. */
const DAY = /^(\d{4})-(\d{2})-(\d{2})$/;

const lastOfMonth = (year: number, month: number): number => new Date(Date.UTC(year, month, 0)).getUTCDate();

/** Whether a text is a day that is in the calendar: the 31st of February is not. */
export function isDay(text: string): boolean {
  const [, y, m, d] = (DAY.exec(text) ?? []).map(Number);
  return y >= 1 && m >= 1 && m <= 12 && d >= 1 && d <= lastOfMonth(y, m);
}

/** The day that a text of a day’s shape means: past its month’s end it is the month’s last. Any other text is null. */
export function dayMeant(text: string): string | null {
  const [, y, m, d] = (DAY.exec(text) ?? []).map(Number);
  if (!(y >= 1)) return null;
  const month = Math.min(12, Math.max(1, m));
  const day = Math.min(lastOfMonth(y, month), Math.max(1, d));
  return [String(y).padStart(4, '0'), String(month).padStart(2, '0'), String(day).padStart(2, '0')].join('-');
}
