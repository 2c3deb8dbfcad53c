import { openComplaints } from '../intake/intake.ts';
import { callsForChange } from '../protocol/protocols.ts';
import { heldByClinician, operatedSide } from './clinician.ts';
import { otherCompensations } from './compensations.ts';
import { forecaster } from './harm.ts';
import type { PlanCase, Prescription } from './terms/plan.ts';
import { asks, notes, stillOut } from './asks.ts';
import { inOrder } from './inOrder.ts';
import { draftLines } from './drafting.ts';
import { placeLines } from './placing.ts';
import { lineWriter } from './planLine.ts';

/**
 * The prescription: what speaks of each fault is weighed, and by that a line stands under now, after the next film, or as a step to try
 * and ask (handbook: judgement). First, do no harm: at most three lines in a round, each within the round's limits, none that pushes
 * another measure out, none on which the legs conflict.
 */
export function prescribe(c: PlanCase): Prescription {
  const forecast = forecaster(c);
  const clinician = heldByClinician(c.intake);
  const heldBack = [...clinician.words];
  const operated = operatedSide(c.intake.past);
  const half = c.halfSteps || operated !== null;
  const { drafts, conflicts, hands: found } = draftLines(c, half, forecast);

  const open = asks(c, drafts);
  const sore = openComplaints(c.intake.complaints).some((q) => q.region === 'calf');
  const placed = placeLines(c, drafts, {
    lineOf: lineWriter(c, { half, operated, forecast }),
    forecast,
    half,
    saddleMayStay: sore || c.answers.footToGround === 'just' || open.some((a) => a.key === 'footToGround'),
    holds: clinician.holds,
  });
  const ordered = inOrder(c, placed.lines, forecast);
  const whole = forecast(placed.total);
  if (found?.stuck) heldBack.push(found.stuck);
  const noted = notes(c);
  const seen = otherCompensations(c, ordered);
  return {
    now: ordered.filter((l) => l.when === 'now'),
    try: ordered.filter((l) => l.when === 'try'),
    later: placed.later,
    rejected: placed.rejected,
    ask: [...open, ...(found?.asks ?? [])],
    conflicts,
    heldBack,
    seenThrough: seen,
    noted,
    total: placed.total,
    forecast: whole,
    open: stillOut(c, whole, ordered),
    leaveAlone:
      ordered.length === 0 &&
      placed.later.length === 0 &&
      c.suspects.length === 0 &&
      conflicts.length === 0 &&
      heldBack.length === 0 &&
      c.sides.length > 0 &&
      c.measures.every((m) => (m.verdict !== 'low' && m.verdict !== 'high' ? true : !callsForChange(m.key))),
  };
}
