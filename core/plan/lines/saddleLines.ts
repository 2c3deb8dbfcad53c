import { openComplaints } from '../../intake/intake.ts';
import { cannot, type Moves } from '../controls/controls.ts';
import type { Draft } from './draft.ts';
import { explained } from './hints.ts';
import type { PlanCase } from '../terms/plan.ts';
import type { Setting } from './settings.ts';

const POST = 'Stay inside the post’s marks; clamp to the maker’s torque.';
const RAILS = 'Stay inside the rails’ marks.';

const madeOf = (s: Setting, way: 'under' | 'over'): string[] => [
  ...s.whole.signs.map((q) => q.text),
  ...s.whole.hints.filter((h) => h[way] !== 1).map((h) => h.text),
];

/** From so probable a difference of the legs on, beyond what one height serves, their wishes are not averaged. */
const LEGS_APART = 0.45;

/** Where the legs are further apart than one height can serve, and one of them asks for it: the line is blocked. */
export function legConflict(c: PlanCase, s: Setting): string | null {
  if (s.apart < LEGS_APART) return null;
  const words = (side: 'left' | 'right'): string => {
    const b = s.sides[side];
    if (!b) return 'not filmed';
    const by = b.signs[0]?.byMm ?? 0;
    return Math.abs(by) < 5
      ? 'right as it is'
      : `${Math.round(Math.abs(by))} mm ${by > 0 ? 'lower' : 'higher'}`;
  };
  const l = s.sides.left;
  const r = s.sides.right;
  if (!l || !r) return null;
  const most = Math.max(l.over, l.under, r.over, r.under);
  if (most < 0.5) return null;
  // Both err the same way: then a height serves both, if not alike.
  const same = (l.over > 0.5 && r.over > 0.5) || (l.under > 0.5 && r.under > 0.5);
  if (same) return null;
  const one = openComplaints(c.intake.complaints).find((q) => q.side === 'left' || q.side === 'right');
  return `Saddle height: the left leg wants it ${words('left')}, the right leg ${words('right')}; ${Math.round(Math.abs(s.apartMm))} mm apart, so no height line. Look at the ${one ? `${one.side} ` : ''}foot, the cleat and the leg lengths first.`;
}

/** A saddle that is very probably too low or too high, and by how much. */
export function heightDraft(c: PlanCase, s: Setting): Draft | null {
  const b = s.whole;
  const high = b.over >= b.under;
  const p = Math.max(b.over, b.under);
  const by = Math.round(high ? -b.overMeanMm : -b.underMeanMm);
  const whole: Moves = { saddleUp: by };
  const way = high ? 'over' : 'under';
  const answers = explained(c, 'height', way).map((q) => q.id);
  return {
    key: 'saddleUp',
    stage: 'saddle',
    p,
    fault: high ? 'too high' : 'too low',
    madeOf: madeOf(s, way),
    why: b.signs.map((q) => q.text),
    answers,
    whole,
    tryMoves: { saddleUp: Math.sign(by) * 3 },
    risk: [POST],
    check: 'ride, ask; hips still, heel not reaching; film again',
    instead:
      flatFoot(c) && high
        ? 'or retrain the foot: toe a little further down at the bottom, then judge the knee again'
        : null,
  };
}

/** An over-straight knee with a flat foot has two remedies (handbook: the job, schools). */
const flatFoot = (c: PlanCase): boolean =>
  c.measures.some((m) => m.key === 'footPitch180Deg' && m.pOut.low >= 0.3);

/** Where the post gives less than is wanted: a longer one is the line, and nothing else is moved instead. */
export function postDraft(c: PlanCase, height: Draft): Draft | null {
  const up = height.whole.saddleUp ?? 0;
  const { postShowingMm, postShowingMostMm } = c.bike.saddle;
  if (!(up > 0) || postShowingMm === null || postShowingMostMm === null) return null;
  const room = postShowingMostMm - postShowingMm;
  if (room >= up) return null;
  return {
    ...height,
    key: 'longerPost',
    title: 'A longer seatpost',
    cap: { saddleUp: Math.max(0, Math.floor(room)) },
    why: [
      ...height.why,
      `about ${up} mm up is wanted, and the post has ${Math.max(0, Math.round(room))} mm left under its mark: a longer post is the part to find`,
    ],
    risk: ['Never past the minimum-insertion mark; watch the frame’s own depth.'],
    check: 'the new post’s mark inside the frame; then height in steps, ride, ask',
    instead: null,
  };
}

/** Setback by the knee over the spindle, the hands-off test and complaints. */
export function setbackDraft(c: PlanCase, s: Setting): Draft | null {
  const b = s.whole;
  const back = b.over >= b.under;
  const by = Math.round(back ? -b.overMeanMm : -b.underMeanMm);
  const way = back ? 'over' : 'under';
  const limited = Math.max(-25, Math.min(25, by));
  if (cannot(c.bike, { saddleBack: limited })) return null;
  return {
    key: 'saddleBack',
    stage: 'saddle',
    p: Math.max(b.over, b.under),
    fault: back ? 'too far back' : 'too far forward',
    madeOf: madeOf(s, way),
    why: b.signs.length ? b.signs.map((q) => q.text) : b.hints.filter((h) => h[way] > 1).map((h) => h.text),
    answers: explained(c, 'setback', way).map((q) => q.id),
    whole: { saddleBack: limited },
    tryMoves: { saddleBack: Math.sign(by) * 5 },
    risk: [RAILS, 'A saddle moved on its rails changes height and reach: measure both again.'],
    check: 'plumb line with the crank levelled, then hands off for 2–3 s',
  };
}
