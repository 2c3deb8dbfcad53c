import { complaintName, openComplaints } from '../intake/intake.ts';
import { protocolUsed } from '../protocol/shelf.ts';
import { setupNow } from './setups.ts';
import { stationsOf } from './stations.ts';
import type { FitSession, Rider, Take } from '../records/types.ts';
import { nextDue } from '../records/followUp.ts';

/** What lists show of a film. */
export interface FilmSummary {
  id: string;
  revision: number;
  clipName: string;
  clipBytes: number;
}

const filmOf = ({ id, tracking, clipName, clipBytes }: Take): FilmSummary => ({
  id,
  revision: tracking.revision,
  clipName,
  clipBytes,
});

/** What lists show of a visit, so that none has to be read whole for it. */
export interface VisitSummary {
  id: string;
  riderId: string;
  startedIso: string;
  deletedIso: string | null;
  protocolName: string;
  bikeId: string;
  bikeName: string;
  /** How far each station has got, in working order, and the first that still waits. */
  ready: boolean[];
  next: string | null;
  nextPath: string | null;
  /** What still hurts, the worst first. */
  complaints: { name: string; severity: number }[];
  nextDue: string | null;
  /** Follow-ups that are still open. */
  dues: { id: string; due: string; why: string }[];
  takes: FilmSummary[];
  /** Films in the trash. */
  removed: (FilmSummary & { removedIso: string })[];
}

/** Everything lists need of the studio, flat. */
export interface StudioIndex {
  riders: Rider[];
  visits: VisitSummary[];
}

/** A rider with all visits, the newest first. */
export interface RiderSummary {
  rider: Rider;
  visits: VisitSummary[];
}

export function summaryOfVisit(s: FitSession): VisitSummary {
  const stations = stationsOf(s);
  // A bike that was handed over is done, whatever was left out on the way.
  const waits = s.final === null ? stations.find((station) => !station.ready) : undefined;
  return {
    id: s.id,
    riderId: s.riderId,
    startedIso: s.startedIso,
    deletedIso: s.deletedIso,
    protocolName: protocolUsed(s).name,
    bikeId: s.bikeId,
    bikeName: setupNow(s).name,
    ready: stations.map((station) => station.ready),
    next: waits?.name ?? null,
    nextPath: waits?.path ?? null,
    complaints: openComplaints(s.intake.complaints)
      .sort((a, b) => b.severity - a.severity)
      .map((c) => ({ name: complaintName(c), severity: c.severity })),
    nextDue: nextDue(s.followUps),
    dues: s.followUps.filter((f) => f.doneIso === null).map(({ id, due, why }) => ({ id, due, why })),
    takes: s.takes.map(filmOf),
    removed: s.removedTakes.map(({ take, removedIso }) => ({ ...filmOf(take), removedIso })),
  };
}

/**
 * The index with some records read anew.
 * @param riders by id; null for one that is gone  @param sessions the same for visits
 */
export function withRecords(
  index: StudioIndex,
  riders: ReadonlyMap<string, Rider | null>,
  sessions: ReadonlyMap<string, FitSession | null>,
): StudioIndex {
  const present = <T>(v: T | null): v is T => v !== null;
  return {
    riders: [...index.riders.filter((r) => !riders.has(r.id)), ...[...riders.values()].filter(present)],
    visits: [
      ...index.visits.filter((v) => !sessions.has(v.id)),
      ...[...sessions.values()].filter(present).map(summaryOfVisit),
    ],
  };
}

/** All riders with their visits. Visits of a rider that is not there are left out: they show once their rider is back. */
export function byRider({ riders, visits }: StudioIndex): RiderSummary[] {
  const of = new Map<string, VisitSummary[]>(riders.map((r) => [r.id, []]));
  for (const v of visits) of.get(v.riderId)?.push(v);
  return riders.map((rider) => ({
    rider,
    visits: of.get(rider.id)!.sort((a, b) => (a.startedIso < b.startedIso ? 1 : -1)),
  }));
}

/** A line of the riders' list. */
export interface RiderRow {
  rider: Rider;
  /** The newest visit that is not in the trash. */
  visit: VisitSummary | null;
  lastSeenIso: string;
  /** The earliest day still open over all visits. */
  nextDue: string | null;
  /** Lower-case text that a search looks in. */
  text: string;
}

/** The lines of riders that are not in the trash. */
export function rowsOf(studio: readonly RiderSummary[]): RiderRow[] {
  return studio.flatMap(({ rider, visits }) => {
    if (rider.deletedIso !== null) return [];
    const there = visits.filter((v) => v.deletedIso === null);
    const visit = there[0] ?? null;
    const due = there.flatMap((v) => (v.nextDue ? [v.nextDue] : [])).sort();
    const words = [rider.name, rider.note, ...(visit?.complaints.map((c) => c.name) ?? []), visit?.bikeName];
    return [
      {
        rider,
        visit,
        lastSeenIso: visit?.startedIso ?? rider.createdIso,
        nextDue: due[0] ?? null,
        text: words.join(' ').toLowerCase(),
      },
    ];
  });
}

export type RiderOrder = 'visit' | 'name' | 'due' | 'complaints';

const worst = (r: RiderRow): number => r.visit?.complaints[0]?.severity ?? -1;
/** Made when the first two names are compared: it takes longer than the rest of a page's start. */
let collator: Intl.Collator | null = null;
const byName = (a: string, b: string): number => (collator ??= new Intl.Collator('en')).compare(a, b);

const ORDERS: Record<RiderOrder, (a: RiderRow, b: RiderRow) => number> = {
  visit: (a, b) => (a.lastSeenIso < b.lastSeenIso ? 1 : a.lastSeenIso > b.lastSeenIso ? -1 : 0),
  name: () => 0,
  // Those who are due first; nobody due comes last.
  due: (a, b) => {
    const [x, y] = [a.nextDue ?? '9999', b.nextDue ?? '9999'];
    return x < y ? -1 : x > y ? 1 : 0;
  },
  complaints: (a, b) => worst(b) - worst(a),
};

/** The rows in an order; ties by name. */
export const inOrder = (rows: readonly RiderRow[], order: RiderOrder): RiderRow[] =>
  [...rows].sort((a, b) => ORDERS[order](a, b) || byName(a.rider.name, b.rider.name));

/** The rows with every word of a search in their rider's name, note, bike or complaints. */
export function findRiders(rows: readonly RiderRow[], search: string): RiderRow[] {
  const words = search.toLowerCase().split(/\s+/).filter(Boolean);
  return words.length ? rows.filter((r) => words.every((w) => r.text.includes(w))) : [...rows];
}
