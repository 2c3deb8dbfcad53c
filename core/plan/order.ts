import { openComplaints } from '../intake/intake.ts';
import { STANDS } from './terms/belief.ts';
import type { Draft } from './lines/draft.ts';
import type { PlanCase, When } from './terms/plan.ts';
import { STAGES } from './inOrder.ts';

/** Where a line stands by what speaks for it (handbook: judgement). */
export function standsAt(d: Draft): When | null {
  const by: When | null =
    d.p >= STANDS.now || (d.p >= STANDS.nowWithComplaint && d.answers.length > 0)
      ? 'now'
      : d.p >= STANDS.try
        ? 'try'
        : (d.atLeast ?? null);
  return by === 'now' && d.atMost ? d.atMost : by === 'try' && d.atMost === 'later' ? 'later' : by;
}

/** Free before bought; then the strongest first, those that answer most complaints before those that answer none; of equals the foundation first. */
export function inOrderOfWorth(c: PlanCase, drafts: readonly Draft[]): Draft[] {
  const severity = (d: Draft): number =>
    openComplaints(c.intake.complaints)
      .filter((q) => d.answers.includes(q.id))
      .reduce((s, q) => s + q.severity, 0);
  const worth = (d: Draft): number =>
    d.p + 0.03 * Math.min(15, severity(d)) + (d.atMost === 'try' ? -0.2 : 0);
  const bought = (d: Draft): number => Number(d.bought ?? false);
  return [...drafts].sort(
    (a, b) =>
      bought(a) - bought(b) || worth(b) - worth(a) || STAGES.indexOf(a.stage) - STAGES.indexOf(b.stage),
  );
}

/** Which lines wait for another: one change of the leg with a crank; a sore Achilles' saddle after its cleat. */
export function waits(c: PlanCase, d: Draft, taken: readonly Draft[]): string | null {
  const legKeys = ['saddleUp', 'longerPost', 'saddleBack', 'cleatBack', 'shim', 'crank'];
  if (d.key !== 'crank' && legKeys.includes(d.key) && taken.some((t) => t.key === 'crank'))
    return 'not together with a crank';
  if (
    d.key === 'crank' &&
    taken.some((t) => legKeys.includes(t.key) && t.key !== 'crank' && d.p <= t.p + 0.15)
  )
    return 'not together with another change of the leg';
  const achilles = openComplaints(c.intake.complaints).some(
    (q) => q.region === 'calf' || q.region === 'ankle',
  );
  if (
    achilles &&
    d.key === 'saddleUp' &&
    (d.whole.saddleUp ?? 0) > 0 &&
    taken.some((t) => t.key === 'cleatBack')
  )
    return 'after the cleat, 3 mm at a time, and for the knee’s sake';
  return null;
}
