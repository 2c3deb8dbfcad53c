import type { FitSession, Take } from '../records/types.ts';

const OTHER = { drive: 'nonDrive', nonDrive: 'drive' } as const;

/** The takes of the other side that a take could belong to. */
export function couldPair(s: Pick<FitSession, 'takes'>, take: Take): Take[] {
  if (take.view !== 'drive' && take.view !== 'nonDrive') return [];
  const other = OTHER[take.view];
  return s.takes.filter((t) => t.view === other);
}

/**
 * The take of the other side that belongs to a take: the one it was paired with by hand, or that was paired with it; else the
 * newest that was ridden alike and is not paired with another.
 */
export function partnerOf(s: Pick<FitSession, 'takes'>, take: Take): Take | null {
  const others = couldPair(s, take);
  const chosen = others.find((t) => t.id === take.pairWith) ?? others.find((t) => t.pairWith === take.id);
  if (chosen) return chosen;
  const free = (t: Take): boolean => t.pairWith === null || !s.takes.some((k) => k.id === t.pairWith);
  if (!free(take)) return null;
  return others.findLast((t) => free(t) && t.position === take.position && t.effort === take.effort) ?? null;
}
