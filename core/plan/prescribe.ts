import { legLength } from '../body/estimates.ts';
import { openComplaints } from '../intake/intake.ts';
import type { PlanePoint } from '../math/vec.ts';
import { callsForChange } from '../protocol/protocols.ts';
import { probabilityWords, STANDS } from './terms/belief.ts';
import { heldByClinician, operatedSide } from './clinician.ts';
import { otherCompensations } from './compensations.ts';
import { both, cannot, effectsOf, tidy, type Moves } from './controls/controls.ts';
import { CONTROLS, type ControlKey } from './controls/controlTable.ts';
import { knockOns } from './couplings.ts';
import type { Draft } from './lines/draft.ts';
import { feetDrafts } from './lines/feetLines.ts';
import { forecaster, harmless, pushedOut, withBuild } from './harm.ts';
import { handsDraft } from './lines/handLines.ts';
import { handsBelief, type HandsBelief } from './lines/hands.ts';
import { explained, type Explained } from './lines/hints.ts';
import { noFurther, restOf, shareOf, stepsOf } from './controls/limits.ts';
import type { PlanCase, PlanLine, Prescription, When } from './terms/plan.ts';
import { heightDraft, legConflict, postDraft, setbackDraft } from './lines/saddleLines.ts';
import { heightSetting, setbackSetting, type Setting } from './lines/settings.ts';
import { asks, notes, stillOut } from './said.ts';
import { shapeDrafts } from './lines/shapeLines.ts';
import { movedBy, STAGES, toldInOrder } from './tellInOrder.ts';
import { tryDraft } from './tries.ts';

/** Most lines in one round: those under now, and those to try and ask (handbook: targets). */
const MOST_LINES = 3;

/** No more than the parts on the bike give. */
const capped = (moves: Moves, cap: Moves = {}): Moves =>
  tidy(noFurther(moves, (key) => cap[key] ?? Infinity));

/** Where a line stands by what speaks for it (handbook: judgement). */
function standsAt(d: Draft): When | null {
  const by: When | null =
    d.p >= STANDS.now || (d.p >= STANDS.nowWithComplaint && d.answers.length > 0)
      ? 'now'
      : d.p >= STANDS.try
        ? 'try'
        : (d.atLeast ?? null);
  return by === 'now' && d.atMost ? d.atMost : by === 'try' && d.atMost === 'later' ? 'later' : by;
}

/** Free before bought; then the strongest first, those that answer most complaints before those that answer none; of equals the foundation first. */
function inOrderOfWorth(c: PlanCase, drafts: readonly Draft[]): Draft[] {
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
function waits(c: PlanCase, d: Draft, taken: readonly Draft[]): string | null {
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

/** From so probable a saddle fault on the hands are judged with it and without it. */
const MAYBE = 0.35;

/**
 * The prescription: what speaks of each fault is weighed, and by that a line stands under now, after the next film, or as a step to try
 * and ask (handbook: judgement). First, do no harm: at most three lines in a round, each within the round's limits, none that pushes
 * another measure out, none on which the legs conflict.
 */
export function prescribe(c: PlanCase): Prescription {
  const decided = new Map(c.decisions.map((d) => [d.key, d]));
  const forecast = forecaster(c);
  const clinician = heldByClinician(c.intake);
  const conflicts: string[] = [];
  const heldBack = [...clinician.words];
  const operated = operatedSide(c.intake.past);
  const half = c.halfSteps || operated !== null;

  const { height, setback, elsewhere } = saddleSettings(c, half);
  const conflict = c.sides.length > 1 ? legConflict(c, height) : null;
  if (conflict) conflicts.push(conflict);
  const legs = legLength(c.body);
  if (legs.refer)
    conflicts.push(
      `${legs.differenceMm} mm of true leg-length difference: over 6 mm a clinician should see it before it is treated.`,
    );

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

  // The hands are judged from where this round's saddle lines put the rider, from where all of them will, and from where a saddle fault that
  // may well be there would: only what none of the three explains is the hands' own fault.
  const saddleDrafts = drafts.filter((d) => d.stage === 'saddle' && standsAt(d) === 'now');
  const maybe = [up, back].filter((d): d is Draft => d !== null && d.p >= MAYBE);
  const saddleMoves = saddleDrafts.reduce<Moves>((s, d) => both(s, shareOf(d.whole, half)), {});
  const sitAfter = (moves: Moves): PlanePoint => effectsOf(c.bike, moves).sitMm;
  const wholeOf = (list: readonly Draft[]): Moves => list.reduce<Moves>((s, d) => both(s, d.whole), {});
  const hands = [wholeOf(saddleDrafts), wholeOf(maybe)].reduce(
    (b, moves) => surer(b, handsBelief(c, sitAfter(moves), { elsewhere })),
    handsBelief(c, sitAfter(saddleMoves), { elsewhere }),
  );
  const found = hands
    ? handsDraft(c, hands, half, (moves) => {
        const before = pushedOut(c, forecast(saddleMoves));
        const f = forecast(both(saddleMoves, moves));
        return f === null || (f.ok && pushedOut(c, f).every((key) => before.includes(key)));
      })
    : null;
  if (found?.draft) drafts.push(found.draft);

  // The leading suspect of each complaint gets a step of its own where no line answers it.
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
      const blocked = conflict && d.whole.saddleUp !== undefined;
      if (!drafts.some((q) => q.key === d.key))
        drafts.push(
          blocked
            ? {
                ...d,
                whole: {},
                title: `Look at the ${of.complaint.side === 'left' || of.complaint.side === 'right' ? `${of.complaint.side} ` : ''}foot, cleat and leg length`,
                check: 'malleoli pulled, then sitting up; cleats side by side; film both sides again',
              }
            : d,
        );
    }
  }

  const open = asks(c, drafts);
  const asked = [...open, ...(found?.asks ?? [])];
  const waitsForGround = open.some((a) => a.key === 'footToGround');
  const sore = openComplaints(c.intake.complaints).some((q) => q.region === 'calf');

  const lines: PlanLine[] = [];
  const later: PlanLine[] = [];
  const rejected: PlanLine[] = [];
  const taken: Draft[] = [];
  let so: Moves = {};

  const lineOf = (d: Draft, when: When, moves: Moves, before: Moves): PlanLine => {
    const f = when === 'later' ? null : forecast(both(before, moves));
    const predicted = f ? movedBy(forecast(before), f) : [];
    const decision = decided.get(d.key) ?? null;
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

  const queue = inOrderOfWorth(c, drafts);
  const deferred = new Set<Draft>();
  for (let d = queue.shift(); d; d = queue.shift()) {
    const when = standsAt(d);
    const decision = decided.get(d.key);
    if (when === null && !decision) continue;
    if (clinician.holds(d)) continue;
    if (decision?.state === 'rejected') {
      rejected.push(lineOf(d, 'later', decision.moves, so));
      continue;
    }
    const wait = waits(c, d, taken);
    const full = taken.length >= MOST_LINES;
    if (!decision && (when === 'later' || wait || full)) {
      later.push({ ...lineOf(d, 'later', {}, so), ...(wait && { why: [...d.why, wait] }) });
      continue;
    }
    let place: When = when ?? 'try';
    // A saddle that may have to stay low goes up by a small step at most, with the rider's consent.
    const careful =
      d.key === 'saddleUp' &&
      (d.whole.saddleUp ?? 0) > 0 &&
      (waitsForGround || sore || c.answers.footToGround === 'just');
    if (careful && place === 'now') place = 'try';
    const wanted = decision
      ? decision.moves
      : capped(place === 'now' ? shareOf(d.whole, half) : shareOf(d.tryMoves ?? d.whole, half), d.cap);
    const part = decision
      ? wanted
      : Object.keys(wanted).length === 0
        ? {}
        : harmless(c, so, wanted, forecast);
    // Not even a first step leaves the rest in its band: it has its turn again once the hands' own line has followed, …
    const hands = queue.findIndex((q) => q.key === 'hands' && standsAt(q) === 'now');
    if (part === null && hands >= 0 && d.stage === 'saddle' && !deferred.has(d)) {
      deferred.add(d);
      const [next] = queue.splice(hands, 1);
      queue.unshift(next, d);
      continue;
    }
    // … or a little of the front goes along, or it waits for the film.
    const followed = part ?? withBuild(c, { before: so, moves: wanted, key: d.key, forecast });
    if (followed === null || (!decision && cannot(c.bike, both(so, followed)))) {
      later.push(lineOf(d, 'later', {}, so));
      continue;
    }
    if (Object.keys(tidy(followed)).length === 0 && place === 'now' && !d.title) place = 'try';
    lines.push(lineOf(d, place, followed, so));
    taken.push(d);
    so = both(so, followed);
    const rest = restOf(d.whole, followed);
    if (place === 'now' && !decision && Object.keys(rest).length > 0)
      later.push({ ...lineOf(d, 'later', {}, so), whole: rest, further: true });
  }
  // What the fitter took stays a line, though nothing asks for it any more.
  for (const d of c.decisions) {
    if (d.state === 'rejected' || lines.some((l) => l.key === d.key) || Object.keys(d.moves).length === 0)
      continue;
    const control = Object.keys(d.moves)[0] as ControlKey;
    const kept: Draft = {
      key: d.key,
      stage: CONTROLS[control].stage,
      p: d.p ?? 0,
      fault: 'as the fitter decided',
      madeOf: [],
      why: ['kept as the fitter decided it'],
      answers: [],
      whole: d.moves,
      check: 'ride, ask; film again',
    };
    lines.push({
      ...lineOf(kept, 'now', d.moves, so),
      probability: 'the fitter’s own, nothing in the film asks for it',
    });
    so = both(so, d.moves);
  }

  const told = toldInOrder(c, lines, forecast);
  const whole = forecast(so);
  if (found?.stuck) heldBack.push(found.stuck);
  const noted = notes(c);
  const seen = otherCompensations(c, told);
  return {
    now: told.filter((l) => l.when === 'now'),
    try: told.filter((l) => l.when === 'try'),
    later,
    rejected,
    ask: asked,
    conflicts,
    heldBack,
    seenThrough: seen,
    noted,
    total: so,
    forecast: whole,
    open: stillOut(c, whole, told),
    leaveAlone:
      told.length === 0 &&
      later.length === 0 &&
      c.suspects.length === 0 &&
      conflicts.length === 0 &&
      heldBack.length === 0 &&
      c.sides.length > 0 &&
      c.measures.every((m) => (m.verdict !== 'low' && m.verdict !== 'high' ? true : !callsForChange(m.key))),
  };
}

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
