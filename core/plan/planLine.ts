import { probabilityWords } from './terms/belief.ts';
import { operatedSide } from './clinician.ts';
import { both, tidy, type Moves } from './controls/controls.ts';
import { knockOns } from './couplings.ts';
import type { Draft } from './lines/draft.ts';
import type { Forecaster } from './harm.ts';
import { stepsOf } from './controls/limits.ts';
import type { PlanCase, PlanLine, When } from './terms/plan.ts';
import { movedBy } from './inOrder.ts';

/** Writes a plan's lines: of a draft, where it stands, what it moves, and what was moved before it. */
export type LineWriter = (d: Draft, when: When, moves: Moves, before: Moves) => PlanLine;

/** What this rider's history makes of every line. */
interface Care {
  half: boolean;
  operated: ReturnType<typeof operatedSide>;
  forecast: Forecaster;
}

/** A writer of this rider's lines. */
export function lineWriter(c: PlanCase, { half, operated, forecast }: Care): LineWriter {
  return (d, when, moves, before) => {
    const f = when === 'later' ? null : forecast(both(before, moves));
    const predicted = f ? movedBy(forecast(before), f) : [];
    const decision = c.decisions.find((q) => q.key === d.key) ?? null;
    return {
      key: d.key,
      stage: d.stage,
      when,
      p: Math.round(1000 * d.p) / 1000,
      probability: probabilityWords(d.p, d.fault),
      madeOf: [...new Set(d.madeOf)],
      moves: tidy(moves),
      whole: tidy(d.whole),
      title: d.title ?? null,
      why: [...new Set(d.why)],
      knockOn: knockOns(c, moves),
      risk: [
        ...(d.risk ?? []),
        ...(c.halfSteps ? ['Half steps for this rider: new, returning, under 18 or over 60.'] : []),
        ...(operated ? [`Half steps: ${operated.words}.`] : []),
      ],
      steps: stepsOf(moves, half),
      check: d.check,
      answers: d.answers,
      vanishes: d.vanishes ?? [],
      instead: d.instead ?? null,
      decision,
      changed:
        decision?.state === 'rejected' && decision.p !== null && Math.abs(decision.p - d.p) >= 0.15
          ? `its evidence has changed since it was rejected: ${Math.round(10 * decision.p)} in 10 then, ${Math.round(10 * d.p)} in 10 now`
          : null,
      forecast: f,
      predicted,
    };
  };
}
