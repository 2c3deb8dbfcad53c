import { ascending } from 'd3';
import type { StudioIndex, VisitSummary } from './summaries.ts';
import type { Rider } from '../records/types.ts';

/** A follow-up that is due: whose, when, what for. */
export interface DueLine {
  rider: Rider;
  visitId: string;
  followUpId: string;
  due: string;
  why: string;
}

/** A visit that was begun and not handed over, with the station it stopped at. */
export interface UnfinishedLine {
  rider: Rider;
  visit: VisitSummary;
  station: string;
  path: string;
}

/** What lies on the studio's desk on a day. */
export interface StudioDesk {
  /** Overdue and today's, then those of the days ahead; the earliest first. */
  due: DueLine[];
  /** The newest first. */
  unfinished: UnfinishedLine[];
}

const plusDays = (day: string, n: number): string =>
  new Date(Date.parse(`${day}T00:00:00Z`) + 86_400_000 * n).toISOString().slice(0, 10);

/** Follow-ups so many days ahead are reported already. */
const AHEAD_DAYS = 7;

/** @param today ISO day */
export function studioDesk({ riders, visits }: StudioIndex, today: string): StudioDesk {
  const known = new Map(riders.filter((r) => r.deletedIso === null).map((r) => [r.id, r]));
  const until = plusDays(today, AHEAD_DAYS);
  const due: DueLine[] = [];
  const unfinished: UnfinishedLine[] = [];
  for (const visit of visits) {
    const rider = known.get(visit.riderId);
    if (!rider || visit.deletedIso !== null) continue;
    for (const f of visit.dues)
      if (f.due <= until) due.push({ rider, visitId: visit.id, followUpId: f.id, due: f.due, why: f.why });
    if (visit.next) unfinished.push({ rider, visit, station: visit.next, path: visit.nextPath! });
  }
  return {
    due: due.sort((a, b) => ascending(a.due, b.due)),
    unfinished: unfinished.sort((a, b) => (a.visit.startedIso < b.visit.startedIso ? 1 : -1)),
  };
}

/** A backup is old after so many days, or as soon as there was none and there is work to lose. */
const BACKUP_DAYS = 14;

/** A nudge to save the studio, in words; null while the last backup is young. */
export function backupNudge(lastIso: string | null, nowIso: string): string | null {
  if (lastIso === null) return 'The studio was never saved as a file.';
  const days = Math.floor((Date.parse(nowIso) - Date.parse(lastIso)) / 86_400_000);
  return days < BACKUP_DAYS ? null : `The last backup is ${days} days old.`;
}
