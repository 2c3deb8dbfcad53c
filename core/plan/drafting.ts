import { legLength } from '../body/estimates.ts';
import { openComplaints } from '../intake/intake.ts';
import type { PlanePoint } from '../math/vec.ts';
import { STANDS } from './terms/belief.ts';
import { both, effectsOf, type Moves } from './controls/controls.ts';
import type { Draft } from './lines/draft.ts';
import { feetDrafts } from './lines/feetLines.ts';
import { type Forecaster, pushedOut } from './harm.ts';
import { handsDraft } from './lines/handLines.ts';
import { handsBelief, type HandsBelief } from './lines/hands.ts';
import { explained, type Explained } from './lines/hints.ts';
import { shareOf } from './controls/limits.ts';
import type { PlanCase } from './terms/plan.ts';
import { heightDraft, legConflict, postDraft, setbackDraft } from './lines/saddleLines.ts';
import { heightSetting, setbackSetting, type Setting } from './lines/settings.ts';
import { shapeDrafts } from './lines/shapeLines.ts';
import { standsAt } from './order.ts';
import { tryDraft } from './tries.ts';

/** What could be done about each fault, and what became known on the way. */
export interface Drafting {
  drafts: Draft[];
  conflicts: string[];
  hands: ReturnType<typeof handsDraft> | null;
}

/** From so probable a saddle fault on the hands are judged with it and without it. */
const MAYBE = 0.35;

/**
 * Drafts a line for each fault that something speaks of: feet and shape, saddle, hands, and the leading suspect of each complaint.
 * @param half whether every step is halved for this rider
 */
export function draftLines(c: PlanCase, half: boolean, forecast: Forecaster): Drafting {
  const conflicts: string[] = [];
  const { height, setback, elsewhere } = saddleSettings(c, half);
  const conflict = c.sides.length > 1 ? legConflict(c, height) : null;
  if (conflict) conflicts.push(conflict);
  const legs = legLength(c.body);
  if (legs.refer)
    conflicts.push(
      `${legs.differenceMm} mm of true leg-length difference: over 6 mm a clinician should see it before it is treated.`,
    );
  const { up, back, drafts } = bodyDrafts(c, { height, setback, conflict });
  const hands = draftHands(c, { up, back, drafts, half, elsewhere, forecast });
  if (hands?.draft) drafts.push(hands.draft);
  addSuspects(c, drafts, conflict !== null);
  return { drafts, conflicts, hands };
}

/** Feet, shape and saddle: each judged by its own figures. */
function bodyDrafts(
  c: PlanCase,
  { height, setback, conflict }: { height: Setting; setback: Setting; conflict: string | null },
): { up: Draft | null; back: Draft | null; drafts: Draft[] } {
  const up = heightDraft(c, height);
  // A saddle that is too low bends the knee at the top as well: the crank is not judged by that before it is up.
  const low = up !== null && (up.whole.saddleUp ?? 0) > 0 && up.p >= STANDS.nowWithComplaint;
  const pinches = openComplaints(c.intake.complaints).some((q) => q.region === 'hipFront');
  const drafts: Draft[] = [
    ...feetDrafts(c),
    ...shapeDrafts(c).filter((d) => d.key !== 'crank' || !low || pinches),
  ];
  if (up && !conflict && up.p >= STANDS.try) drafts.push(postDraft(c, up) ?? up);
  const back = setbackDraft(c, setback);
  if (back && back.p >= STANDS.try && back.why.length > 0) drafts.push(back);
  return { up, back, drafts };
}

/**
 * The hands are judged from where this round's saddle lines put the rider, from where all of them will, and from where a saddle fault that
 * may well be there would: only what none of the three explains is the hands' own fault.
 */
function draftHands(
  c: PlanCase,
  {
    up,
    back,
    drafts,
    half,
    elsewhere,
    forecast,
  }: {
    up: Draft | null;
    back: Draft | null;
    drafts: readonly Draft[];
    half: boolean;
    elsewhere: Explained;
    forecast: Forecaster;
  },
): Drafting['hands'] {
  const saddleDrafts = drafts.filter((d) => d.stage === 'saddle' && standsAt(d) === 'now');
  const maybe = [up, back].filter((d): d is Draft => d !== null && d.p >= MAYBE);
  const saddleMoves = saddleDrafts.reduce<Moves>((s, d) => both(s, shareOf(d.whole, half)), {});
  const sitAfter = (moves: Moves): PlanePoint => effectsOf(c.bike, moves).sitMm;
  const wholeOf = (list: readonly Draft[]): Moves => list.reduce<Moves>((s, d) => both(s, d.whole), {});
  const hands = [wholeOf(saddleDrafts), wholeOf(maybe)].reduce(
    (b, moves) => surer(b, handsBelief(c, sitAfter(moves), { elsewhere })),
    handsBelief(c, sitAfter(saddleMoves), { elsewhere }),
  );
  return hands
    ? handsDraft(c, hands, half, (moves) => {
        const before = pushedOut(c, forecast(saddleMoves));
        const f = forecast(both(saddleMoves, moves));
        return f === null || (f.ok && pushedOut(c, f).every((key) => before.includes(key)));
      })
    : null;
}

/** The leading suspect of each complaint gets a step of its own where no line answers it. */
function addSuspects(c: PlanCase, drafts: Draft[], legsConflict: boolean): void {
  for (const of of c.suspects) {
    const lead = of.suspects[0];
    if (!lead) continue;
    const answered = drafts.some((d) => d.answers.includes(of.complaint.id) && standsAt(d) !== null);
    const strong = of.suspects.filter((s, i) => i === 0 || s.score >= 0.8);
    for (const s of answered ? strong.filter((q) => q.score >= 0.8) : strong) {
      const covered = drafts.some((d) => standsAt(d) !== null && coversSuspect(d, s.key));
      if (covered) continue;
      const own = tryDraft(c, of, s, of.suspects[of.suspects.indexOf(s) + 1]);
      // Where another line answers the complaint already it waits for what that one does.
      const d: Draft = answered ? { ...own, atMost: 'later', atLeast: 'later' } : own;
      // Where the legs conflict no height is tried either: the leg itself is looked at.
      const blocked = legsConflict && d.whole.saddleUp !== undefined;
      if (!drafts.some((q) => q.key === d.key)) drafts.push(blocked ? lookAtLeg(d, of.complaint.side) : d);
    }
  }
}

const lookAtLeg = (d: Draft, side: string): Draft => ({
  ...d,
  whole: {},
  title: `Look at the ${side === 'left' || side === 'right' ? `${side} ` : ''}foot, cleat and leg length`,
  check: 'malleoli pulled, then sitting up; cleats side by side; film both sides again',
});

/**
 * Height and setback, each weighed with what the other explains of the complaints: the one that its figures make likelier speaks first,
 * and the other is judged from where that one's line leaves the rider.
 */
function saddleSettings(
  c: PlanCase,
  half: boolean,
): { height: Setting; setback: Setting; elsewhere: Explained } {
  const pOf = (s: Setting): number => Math.max(s.whole.under, s.whole.over);
  const wayOf = (s: Setting): 'under' | 'over' => (s.whole.over > s.whole.under ? 'over' : 'under');
  const explains = (s: Setting, key: 'height' | 'setback'): Map<string, number> =>
    new Map(pOf(s) < STANDS.try ? [] : explained(c, key, wayOf(s)).map((q) => [q.id, pOf(s)]));
  const upBy = (s: Setting): number => {
    if (pOf(s) < STANDS.nowWithComplaint) return 0;
    const by = wayOf(s) === 'over' ? -s.whole.overMeanMm : -s.whole.underMeanMm;
    return shareOf({ saddleUp: by }, half).saddleUp ?? 0;
  };
  const first = { height: heightSetting(c), setback: setbackSetting(c) };
  const byHeight = pOf(first.height) >= pOf(first.setback);
  const height = byHeight
    ? first.height
    : heightSetting(c, { elsewhere: explains(first.setback, 'setback') });
  const setback = setbackSetting(c, {
    elsewhere: byHeight ? explains(first.height, 'height') : new Map(),
    upMm: upBy(height),
  });
  const both = new Map(explains(height, 'height'));
  for (const [id, p] of explains(setback, 'setback')) both.set(id, 1 - (1 - (both.get(id) ?? 0)) * (1 - p));
  return { height, setback, elsewhere: both };
}

/** Of two ways to judge the hands the one that says less: what would be gone or new after the saddle's lines is no reason now. */
function surer(a: HandsBelief | null, b: HandsBelief | null): HandsBelief | null {
  if (!a || !b) return a ?? b;
  const least = (k: 'reach' | 'bar'): HandsBelief['reach'] => ({
    under: Math.min(a[k].under, b[k].under),
    over: Math.min(a[k].over, b[k].over),
  });
  const joint = a.joint.map((row, i) => row.map((p, k) => Math.min(p, b.joint[i][k])));
  return { ...a, reach: least('reach'), bar: least('bar'), joint };
}

/** Whether a line answers what a suspect says. */
function coversSuspect(d: Draft, key: string): boolean {
  const up = d.whole.saddleUp ?? 0;
  const back = d.whole.saddleBack ?? 0;
  const of: Record<string, boolean> = {
    saddleLow: (d.key === 'saddleUp' || d.key === 'longerPost') && up > 0,
    saddleHigh: d.key === 'saddleUp' && up < 0,
    saddleForward: d.key === 'saddleBack' && back > 0,
    saddleBack: d.key === 'saddleBack' && back < 0,
    noseDown: d.key === 'saddleTilt' && (d.whole.saddleTilt ?? 0) > 0,
    noseUp: d.key === 'saddleTilt' && (d.whole.saddleTilt ?? 0) < 0,
    saddleNarrow: d.key === 'saddleWidth',
    cleatForward: d.key === 'cleatBack',
    cleatFarBack: d.key === 'cleatForward',
    cleatsUnlike: d.key === 'cleatBack',
    cleatRotation: d.key === 'heelOut',
    stanceNarrow: d.key === 'stance',
    stanceWide: d.key === 'stance',
    forefootTilt: d.key === 'wedge',
    crankLong: d.key === 'crank',
    reachLong: d.key === 'hands',
    reachShort: d.key === 'hands',
    barLow: d.key === 'hands',
    barRolled: d.key === 'barRotation',
    barWide: d.key === 'barWidth',
    legLength: d.key === 'shim',
  };
  return of[key] ?? false;
}
