import { differences, roundNow, setupNow } from './setups.ts';
import type { BikeSetup } from '../bike/setup.ts';
import type { FitSession, Take } from '../records/types.ts';

type Filmed = Pick<FitSession, 'takes' | 'asFound' | 'current'>;

/** The bike as it stood when a take was filmed; as found where there is no take. */
export const setupOf = (s: Pick<FitSession, 'asFound'>, take: Pick<Take, 'setup'> | null): BikeSetup =>
  take?.setup ?? s.asFound;

/** Takes of one round. */
export const takesOf = (s: Pick<FitSession, 'takes'>, round: number): Take[] =>
  s.takes.filter((t) => t.round === round);

/** The bike as it stood at a round's first film; as found where nothing was filmed in it. */
export const roundSetup = (s: Filmed, round: number): BikeSetup => setupOf(s, takesOf(s, round)[0] ?? null);

/** Whether the bike differs from what the last round filmed: the next film begins a new one. */
export function wantsFilm(s: Filmed): boolean {
  return s.takes.length > 0 && differences(roundSetup(s, roundNow(s)), setupNow(s)).length > 0;
}

/**
 * A visit with a take added: it belongs to the round whose bike it shows. The first film of a changed bike begins the next round:
 * the plan made from the old films is put aside, and what was decided in it.
 */
export function withTakeAdded(s: FitSession, take: Take): FitSession {
  const begins = wantsFilm(s);
  const round = roundNow(s) + (begins ? 1 : 0);
  const added: FitSession = {
    ...s,
    takes: [...s.takes, { ...take, round, setup: s.current }],
    takeId: take.id,
  };
  if (!begins) return added;
  return {
    ...added,
    plan: null,
    earlierPlans: s.plan ? [...s.earlierPlans, s.plan] : s.earlierPlans,
    planning: {
      ...s.planning,
      // What was rejected stays so, with its reason, until its evidence changes.
      decisions: s.planning.decisions.filter((d) => d.state === 'rejected'),
      order: [],
      trying: null,
      variants: [],
    },
  };
}
