import { createEvents, type EventAttributes } from 'ics';
import type { FollowUp } from '../records/followUp.ts';

/**
 * The open follow-ups of a rider as a calendar file (RFC 5545), an all-day event each with a reminder the day before. Written anew with the
 * same ids, so that a calendar replaces what it has.
 * @throws Error where the calendar package refuses an event: days and ids are checked where they are stored
 */
export function writeCalendar(
  followUps: readonly FollowUp[],
  about: { riderName: string; studioName: string; fitter: string; contact: string },
): string {
  const events = followUps
    .filter((f) => f.doneIso === null)
    .map((f): EventAttributes => {
      const [year, month, day] = f.due.split('-').map(Number);
      const who = [about.studioName, about.fitter, about.contact].filter(Boolean).join('\n');
      return {
        uid: `${f.id}@deep-angle`,
        title: `${f.why || 'Bike fit follow-up'}: ${about.riderName}`,
        description: who,
        start: [year, month, day],
        duration: { days: 1 },
        status: 'CONFIRMED',
        busyStatus: 'FREE',
        productId: 'deep-angle',
        calName: about.studioName || 'Deep Angle',
        alarms: [
          {
            action: 'display',
            description: f.why || 'Bike fit follow-up',
            trigger: { before: true, days: 1 },
          },
        ],
      };
    });
  const { error, value } = createEvents(events);
  if (error || !value) throw error ?? new Error('The calendar could not be written.');
  return value;
}
