import { resolveBike } from '../bike/resolve.ts';
import { complaintName, type Complaint } from '../intake/intake.ts';
import { lastSetup } from '../visit/setups.ts';
import type { FitSession } from '../records/types.ts';
import { coordinatesApart, coordinatesOf, type Coordinate } from './position.ts';

/** A complaint at the last visit and at this one. */
export interface ThenNow {
  name: string;
  then: number | null;
  /** 0 where it is gone. */
  now: number | null;
  words: string;
}

const severityOf = (c: Complaint): number => (c.goneIso === null ? c.severity : 0);

/** How each complaint of the visit before stands now, and what is new. Complaints keep their id from visit to visit. */
export function complaintsThenNow(then: readonly Complaint[], now: readonly Complaint[]): ThenNow[] {
  const before = then.filter((c) => c.goneIso === null);
  const known = before.map((c): ThenNow => {
    const here =
      now.find((n) => n.id === c.id) ?? now.find((n) => n.region === c.region && n.side === c.side) ?? null;
    const after = here ? severityOf(here) : null;
    return {
      name: complaintName(c),
      then: c.severity,
      now: after,
      words:
        after === null
          ? 'not asked yet'
          : after === 0
            ? 'gone'
            : after < c.severity
              ? 'better'
              : after > c.severity
                ? 'worse'
                : 'the same',
    };
  });
  const fresh = now
    .filter(
      (n) =>
        n.goneIso === null &&
        !before.some((c) => c.id === n.id || (c.region === n.region && c.side === n.side)),
    )
    .map((n): ThenNow => ({ name: complaintName(n), then: null, now: n.severity, words: 'new' }));
  return [...known, ...fresh];
}

/** A visit on a rider's timeline. */
export interface HistoryEntry {
  sessionId: string;
  startedIso: string;
  bikeId: string;
  bikeName: string;
  rounds: number;
  /** Complaints as they stood then, the worst first; 0 is gone. */
  complaints: { name: string; severity: number }[];
  /** The position that the bike left with. */
  coordinates: Coordinate[];
  handedOver: boolean;
  /** Against the visit before on the same bike, or as found where it is the first. */
  moved: ReturnType<typeof coordinatesApart>;
}

/** A rider's visits in the order they came, each with its position and what it changed. */
export function historyOf(sessions: readonly FitSession[]): HistoryEntry[] {
  const inOrder = [...sessions].sort((a, b) => (a.startedIso < b.startedIso ? -1 : 1));
  return inOrder.map((s) => {
    const setup = lastSetup(s);
    const coordinates = coordinatesOf(setup, resolveBike(setup));
    const found = coordinatesOf(s.asFound, resolveBike(s.asFound));
    return {
      sessionId: s.id,
      startedIso: s.startedIso,
      bikeId: s.bikeId,
      bikeName: setup.name,
      rounds: Math.max(0, ...s.takes.map((t) => t.round)),
      complaints: s.intake.complaints
        .map((c) => ({ name: complaintName(c), severity: severityOf(c) }))
        .sort((a, b) => b.severity - a.severity),
      coordinates,
      handedOver: s.final !== null,
      moved: coordinatesApart(found, coordinates),
    };
  });
}
