import { single } from '../body/tests.ts';
import { conflicts, kneesApart, retrain, stillOut } from './afterwards.ts';
import { otherCompensations, unmasked } from './compensations.ts';
import {
  both,
  CONTROL_KEYS,
  CONTROLS,
  effectsOf,
  pick,
  tidy,
  type ControlKey,
  type Moves,
  type Stage,
} from './controls.ts';
import { knockOns } from './couplings.ts';
import { foretell, laidOut, type Forecast } from '../model/foretell.ts';
import { beyondBand } from '../protocol/judge.ts';
import { HABITS } from './losses.ts';
import type { MeasureReading } from '../protocol/measures.ts';
import { bodyOf, type PlanCase, type PlanLine, type Prescription } from './plan.ts';
import { GROUPS, stepsOf, todayOf } from './planGroups.ts';
import { crankInDoubt, proposals, type Proposal } from './proposals.ts';
import { MEASURE_NAMES } from '../protocol/protocols.ts';
import { settleCockpit } from './settleCockpit.ts';
import { settleSaddle } from './settleSaddle.ts';
import type { FilmedSide, Settled, SolveCase } from './solveCase.ts';

/** The findings that moves make better: the reason for a line. */
function answered(
  sides: readonly FilmedSide[],
  before: Forecast | null,
  after: Forecast | null,
): MeasureReading[] {
  if (!after?.ok) return [];
  return sides[0].measures.filter((m) => {
    const then = after.measures.find((f) => f.key === m.key);
    const was = before?.ok ? before.measures.find((f) => f.key === m.key)?.after : undefined;
    return (
      (m.verdict === 'low' || m.verdict === 'high') &&
      !HABITS.includes(m.key) &&
      then !== undefined &&
      beyondBand(then.after, m.band) < beyondBand(was ?? m.value, m.band) - 0.25 * m.uncertainty
    );
  });
}

const whyOf = (m: MeasureReading): string =>
  `${MEASURE_NAMES[m.key].toLowerCase()} ${Math.round(m.value)}${m.unit === '°' ? '°' : ' mm'}, ${m.verdict === 'high' ? 'over' : 'under'} ${m.verdict === 'high' ? m.band.high : m.band.low}${m.unit === '°' ? '°' : ' mm'}`;

/**
 * The prescription: feet, then saddle, then cockpit; each stage is solved on what the earlier ones gave, and what the fitter has
 * settled is kept and gone round (handbook: models, solver; rules).
 */
export function prescribe(c: PlanCase): Prescription {
  const [near] = c.sides;
  const decided = new Map(c.decisions.map((d) => [d.key, d]));
  const apart = kneesApart(c);
  const body = bodyOf(c);
  const { sides, seen, hides } = unmasked(c);
  const kept = (key: string, moves: Moves): Moves => {
    const d = decided.get(key);
    return d ? (d.state === 'rejected' ? {} : d.moves) : moves;
  };
  const found: Proposal[] = proposals({ ...c, kneeApart: apart });
  // What a fitter has settled stays a line, though nothing asks for it any more.
  const given = found.reduce<Moves>((sum, p) => both(sum, kept(p.key, p.moves)), {});
  const locked: Moves = {};
  for (const d of c.decisions) {
    const group = GROUPS.find((g) => g.key === d.key);
    if (!group) continue;
    for (const control of group.controls)
      locked[control] = d.state === 'rejected' ? 0 : (d.moves[control] ?? 0);
  }
  const solve: SolveCase = {
    sides,
    bike: c.bike,
    habits: c.habits,
    body,
    parts: c.parts,
    inseamMm: single(c.body, 'inseam'),
    // The film tells the school of balance where the knee is, not where it should be.
    reportOnly: c.schools.foreAft === 'balance' ? ['kneeOverSpindleMm'] : [],
    crankInDoubt: crankInDoubt({ ...c, kneeApart: apart }),
    locked,
  };
  const feet = pick(given, feetKeys);
  const early = pick(given, beforeCockpit);
  const nothing: Settled = { moves: {}, loss: 0, others: [] };
  const saddle = near ? settleSaddle(solve, early) : nothing;
  const saddleMoves = both(saddle.moves, pick(locked, ['saddleUp', 'saddleBack', 'crank']));
  const sofar = both(given, saddleMoves);
  const cockpit = near ? settleCockpit(solve, sofar) : nothing;
  const front = both(cockpit.moves, locked.stemLength === undefined ? {} : pick(locked, GROUPS[3].controls));
  const total = both(sofar, front);

  const lines: PlanLine[] = [];
  const forecastOf = (moves: Moves): Forecast | null =>
    near ? foretell(laidOut(near.model), near.measures, effectsOf(c.bike, moves), c.habits, body) : null;
  for (const p of found) {
    const moves = kept(p.key, p.moves);
    lines.push({
      key: p.key,
      stage: CONTROLS[Object.keys(p.moves)[0] as ControlKey].stage,
      moves: tidy(decided.get(p.key)?.state === 'rejected' ? p.moves : moves),
      why: p.why,
      knockOn: knockOns(c, moves),
      risk: p.risk,
      steps: stepsOf(moves, c.halfSteps),
      check: p.check,
      today: moves,
      vanishes: p.vanishes,
      instead: p.instead,
      decision: decided.get(p.key) ?? null,
      forecast: null,
    });
  }
  for (const group of GROUPS) {
    const moves = pick(group.stage === 'saddle' ? saddleMoves : front, group.controls);
    const decision = decided.get(group.key) ?? null;
    // A way not taken has no line of its own.
    if (Object.keys(tidy(moves)).length === 0 && Object.keys(decision?.moves ?? {}).length === 0) continue;
    const base = forecastOf(group.stage === 'saddle' ? early : sofar);
    const alone = forecastOf(both(group.stage === 'saddle' ? early : sofar, moves));
    const helps = near ? answered(sides, base, alone) : [];
    lines.push({
      key: group.key,
      stage: group.stage,
      moves: tidy(decision?.state === 'rejected' ? decision.moves : moves),
      why:
        helps.length > 0
          ? helps.map(whyOf)
          : [
              group.stage === 'saddle'
                ? Object.keys(feet).length
                  ? 'takes up what the feet’s changes do to the leg'
                  : 'goes with the other lines of the saddle'
                : 'takes up what the saddle’s changes do to the reach',
            ],
      knockOn: knockOns(c, moves),
      risk: [
        ...group.risk,
        ...(c.halfSteps ? ['Half steps for this rider: new, returning or over 60.'] : []),
      ],
      steps: stepsOf(moves, c.halfSteps),
      check: group.check,
      today: todayOf(moves, c.halfSteps),
      vanishes:
        hides && group.key === 'saddleUp' && (moves.saddleUp ?? 0) < 0 ? ['toe pointing at the bottom'] : [],
      instead: null,
      decision,
      forecast: null,
    });
  }
  const ordered = inOrder(lines, c.order);
  let so: Moves = {};
  for (const line of ordered) {
    if (line.decision?.state !== 'rejected') so = both(so, line.moves);
    line.forecast = forecastOf(so);
  }
  const forecast = forecastOf(total);
  return {
    lines: ordered,
    total,
    forecast,
    alternatives: [
      ...saddle.others.map((o) => ({ stage: 'saddle' as const, moves: o.moves, words: null })),
      ...cockpit.others.map((o) => ({ stage: 'cockpit' as const, moves: o.moves, words: null })),
      ...retrain(c, saddleMoves),
    ],
    conflicts: conflicts(solve, early, c),
    seenThrough: [...seen, ...otherCompensations(c, ordered)],
    open: stillOut(c, forecast, sides),
    leaveAlone:
      ordered.length === 0 &&
      c.suspects.length === 0 &&
      c.measures.every((m) => m.verdict !== 'low' && m.verdict !== 'high'),
  };
}

const feetKeys = CONTROL_KEYS.filter((k) => CONTROLS[k].stage === 'feet');
const beforeCockpit = CONTROL_KEYS.filter((k) => CONTROLS[k].stage !== 'cockpit');

function inOrder(lines: readonly PlanLine[], order: readonly string[]): PlanLine[] {
  const stages: readonly Stage[] = ['feet', 'saddle', 'cockpit'];
  const rank = (l: PlanLine): number => {
    const own = order.indexOf(l.key);
    return own >= 0 ? own : 100 + stages.indexOf(l.stage);
  };
  // Sorting is stable: of one stage the order of finding stays.
  return [...lines].sort((a, b) => rank(a) - rank(b));
}
