import { openComplaints } from '../intake/intake.ts';
import { NO_HAND_OVER } from '../records/handOver.ts';
import { NO_PLANNING } from '../plan/terms/planning.ts';
import { lastSetup } from './setups.ts';
import type { FitSession, Take } from '../records/types.ts';

/** How long what was deleted lies in the trash, days. */
export const TRASH_DAYS = 30;

/** What a visit holds of films, moves and papers before there are any. */
export const NOTHING_DONE = {
  current: null,
  final: null,
  changes: [],
  plan: null,
  earlierPlans: [],
  followUps: [],
  takes: [],
  removedTakes: [],
  takeId: null,
  planning: NO_PLANNING,
  handOver: NO_HAND_OVER,
} satisfies Partial<FitSession>;

/**
 * The start of the next visit: rider, bike, protocol, intake and body as they stood, the bike's set-up as it was left, and the
 * complaints that are still open; no film, nothing moved or planned, and consent to be asked anew.
 */
export function nextVisit(last: FitSession, id: string, nowIso: string): FitSession {
  return {
    ...structuredCopy(last),
    id,
    startedIso: nowIso,
    deletedIso: null,
    intake: {
      ...structuredCopy(last.intake),
      complaints: openComplaints(structuredCopy(last.intake.complaints)).map((c) => ({
        ...c,
        carried: true,
      })),
      redFlags: [],
      flagsAskedIso: null,
      filmConsent: null,
    },
    followsId: last.id,
    asFound: structuredCopy(lastSetup(last)),
    ...NOTHING_DONE,
  };
}

/** Every take of a visit, those that lie in the trash among them. */
export const everyTake = (s: Pick<FitSession, 'takes' | 'removedTakes'>): Take[] => [
  ...s.takes,
  ...s.removedTakes.map((r) => r.take),
];

/** Records are plain JSON: a copy that shares nothing with the old visit. */
const structuredCopy = <T>(value: T): T => JSON.parse(JSON.stringify(value)) as T;

/** Whether something deleted then has lain its time in the trash. */
export function isDue(deletedIso: string | null, nowIso: string): boolean {
  return deletedIso !== null && Date.parse(nowIso) - Date.parse(deletedIso) > TRASH_DAYS * 86_400_000;
}
