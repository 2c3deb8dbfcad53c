import type { Complaint } from '../../intake/intake.ts';
import type { SuspectsOf } from '../../suspects/suspects.ts';
import type { SuspectKey } from '../../suspects/suspectRules.ts';
import type { Draft } from './draft.ts';

/** A complaint that a suspect would explain, with what speaks for it. */
export interface Raised {
  complaint: Complaint;
  score: number;
  why: string;
}

/** The complaints on which a suspect is raised by this visit's evidence, strongest first. */
export function raisedBy(suspects: readonly SuspectsOf[], key: SuspectKey): Raised[] {
  return suspects
    .flatMap((of) => {
      const s = of.suspects.find((q) => q.key === key);
      return s && s.score > 0
        ? [{ complaint: of.complaint, score: s.score, why: `${of.name}: ${s.for.join('; ')}` }]
        : [];
    })
    .sort((a, b) => b.score - a.score);
}

/**
 * A suspect's score as a probability: a score of 1, a plain measurement that shows the fault, is two in three; one of 1.5, a film that
 * is sure of it, nine in ten (own scale, logistic).
 */
export const likelihoodOf = (score: number): number => 1 / (1 + Math.exp(1.55 - 2.3 * score));

/** Several complaints that one fault explains make it likelier: each further one by a third of what is open. */
export function likelihood(raised: readonly Raised[]): number {
  if (raised.length === 0) return 0;
  const [first, ...more] = raised;
  return more.reduce((p, r) => p + ((1 - p) / 3) * Math.min(1, r.score), likelihoodOf(first.score));
}

/** What complaints say for a line by themselves: how likely it is, why, and which of them it would answer. */
export function speaksFor(raised: readonly Raised[]): Pick<Draft, 'p' | 'madeOf' | 'why' | 'answers'> {
  const why = raised.map((r) => r.why);
  return {
    p: likelihood(raised),
    madeOf: why,
    why,
    answers: [...new Set(raised.map((r) => r.complaint.id))],
  };
}
