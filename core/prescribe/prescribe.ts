import { resolveBike } from '../bike/resolve.ts';
import type { BikeSetup } from '../bike/setup.ts';
import { legLength } from '../body/estimates.ts';
import { finding, single } from '../body/tests.ts';
import { withPitch, type BodyModel, type Habits } from './bodyModel.ts';
import {
  applyMoves,
  both,
  CONTROLS,
  effectsOf,
  tidy,
  type ControlKey,
  type Moves,
  type Stage,
} from './controls.ts';
import { asItIs, foretell, laidOut, type Body, type Forecast } from './foretell.ts';
import type { MeasureReading } from './measures.ts';
import { crankInDoubt, proposals, type Proposal, type ProposalCase } from './proposals.ts';
import { MEASURE_NAMES, type MeasureKey } from './protocols.ts';
import {
  HABITS,
  heightPerLeg,
  pick,
  settleCockpit,
  settleSaddle,
  type FilmedSide,
  type Settled,
  type SolveCase,
} from './solve.ts';

/** What the fitter said of a line: taken as it is, taken with other figures, or left with a reason. */
export interface Decision {
  key: string;
  state: 'accepted' | 'edited' | 'rejected';
  /** The figures that count: those accepted, or typed. */
  moves: Moves;
  reason: string;
}

export interface PlanCase extends Omit<ProposalCase, 'kneeApart' | 'measures'> {
  measures: readonly MeasureReading[];
  /** The filmed sides; the first one carries trunk and arm. */
  sides: readonly FilmedSide[];
  habits: Habits;
  halfSteps: boolean;
  decisions: readonly Decision[];
  /** Lines in the fitter's own order; what is not named follows in working order. */
  order: readonly string[];
}

export interface PlanLine {
  key: string;
  stage: Stage;
  moves: Moves;
  why: string[];
  knockOn: string[];
  risk: string[];
  steps: string;
  check: string;
  /** How much of it in this visit, by control. */
  today: Moves;
  /** What it cures by itself. */
  vanishes: string[];
  instead: string | null;
  decision: Decision | null;
  /** After this line and those before it. */
  forecast: Forecast | null;
}

export interface Prescription {
  lines: PlanLine[];
  /** All moves of the lines that stand. */
  total: Moves;
  forecast: Forecast | null;
  /** Answers nearly as good, in place of a stage's lines. */
  alternatives: { stage: Stage; moves: Moves; words: string | null }[];
  conflicts: string[];
  /** Compensations that were seen through. */
  seenThrough: string[];
  /** Findings that no line answers, with what to do. */
  open: { key: MeasureKey; words: string }[];
  /** Nothing is out and nothing hurts. */
  leaveAlone: boolean;
}

/** At most this much of saddle height in a visit without filming again (handbook: targets); half for who takes half steps. */
const HEIGHT_A_VISIT_MM = 10;

/** What limits this rider's back, degrees: where it rounds on the hinge, or the hamstrings are tight, the band's own floor. */
export function backLimitDeg(c: Pick<PlanCase, 'body' | 'measures'>): number | null {
  const back = c.measures.find((m) => m.key === 'backAngleDeg');
  const rounds = finding(c.body, 'hinge') === 'round';
  return rounds && back ? back.band.low : null;
}

/** What the model is told of the body. */
export const bodyOf = (c: Pick<PlanCase, 'body' | 'measures' | 'bike'>): Body => ({
  backLimitDeg: backLimitDeg(c),
  shoulderWidthMm: single(c.body, 'shoulderWidth'),
  barWidthMm: c.bike.bar.widthMm,
});

/**
 * A foot that points below its band by more than the film can err hides a saddle that is too high: the model then pedals with the
 * pitch at the band's edge, and the knee is judged as it would be without the pointing (handbook: compensations).
 */
function unmasked(c: PlanCase): { sides: FilmedSide[]; seen: string[] } {
  const seen: string[] = [];
  const sides = c.sides.map(({ model, measures }): FilmedSide => {
    const pitch = measures.find((m) => m.key === 'footPitch180Deg');
    const knee = measures.find((m) => m.key === 'kneeFlexionMinDeg');
    if (!pitch || !knee || pitch.verdict !== 'high' || knee.verdict === 'high') return { model, measures };
    const by = pitch.band.high! - pitch.value;
    const plain = withPitch(model, by);
    const [own, bare] = [asItIs(laidOut(model)), asItIs(laidOut(plain))];
    if (!own) return { model, measures };
    // A leg that can't reach at all without pointing tells the same, more loudly.
    if (!bare) {
      seen.push(
        `The foot points ${Math.round(pitch.value)}° down at the bottom. Without that the leg would not reach the pedal: the saddle is too high, and the pointing is expected to go with it.`,
      );
      return { model, measures };
    }
    const value = knee.value + bare.values.kneeFlexionMinDeg - own.values.kneeFlexionMinDeg;
    seen.push(
      `The foot points ${Math.round(pitch.value)}° down at the bottom. Without that the knee would straighten to ${Math.round(value)}°: the pointing hides a saddle that is too high, and is expected to go with it.`,
    );
    const verdict = knee.band.low !== null && value < knee.band.low - knee.uncertainty ? 'low' : knee.verdict;
    return {
      model: plain,
      measures: measures
        .map((m) => (m.key === 'kneeFlexionMinDeg' ? { ...m, value, verdict } : m))
        // The pitch itself is what vanishes.
        .filter(
          (m) => m.key !== 'footPitch180Deg' && m.key !== 'footPitch90Deg' && m.key !== 'ankleRangeDeg',
        ),
    };
  });
  return { sides, seen };
}

/** The findings that moves make better: the reason for a line. */
function answered(
  sides: readonly FilmedSide[],
  before: Forecast | null,
  after: Forecast | null,
): MeasureReading[] {
  if (!after?.ok) return [];
  return sides[0].measures.filter((m) => {
    const outOf = (v: number): number =>
      Math.max(0, m.band.low === null ? 0 : m.band.low - v, m.band.high === null ? 0 : v - m.band.high);
    const then = after.measures.find((f) => f.key === m.key);
    const was = before?.ok ? before.measures.find((f) => f.key === m.key)?.after : undefined;
    return (
      (m.verdict === 'low' || m.verdict === 'high') &&
      !HABITS.includes(m.key) &&
      then !== undefined &&
      outOf(then.after) < outOf(was ?? m.value) - 0.25 * m.uncertainty
    );
  });
}

const whyOf = (m: MeasureReading): string =>
  `${MEASURE_NAMES[m.key].toLowerCase()} ${Math.round(m.value)}${m.unit === '°' ? '°' : ' mm'}, ${m.verdict === 'high' ? 'over' : 'under'} ${m.verdict === 'high' ? m.band.high : m.band.low}${m.unit === '°' ? '°' : ' mm'}`;

/** What a group of the solver's controls is called, is watched for and done by. */
export const GROUPS: readonly {
  key: string;
  stage: Stage;
  controls: readonly ControlKey[];
  check: string;
  risk: readonly string[];
}[] = [
  {
    key: 'crank',
    stage: 'saddle',
    controls: ['crank'],
    check: 'cadence and power as before, hip at the top',
    risk: ['A part to order; the chain’s other ring may need one too.', 'Crank bolts to the maker’s torque.'],
  },
  {
    key: 'saddleUp',
    stage: 'saddle',
    controls: ['saddleUp'],
    check: 'ride, ask; hips still, heel not reaching',
    risk: ['Stay inside the post’s marks; clamp to the maker’s torque.'],
  },
  {
    key: 'saddleBack',
    stage: 'saddle',
    controls: ['saddleBack'],
    check: 'plumb line with the crank levelled, then hands off for 2–3 s',
    risk: ['Stay inside the rails’ marks.'],
  },
  {
    key: 'front',
    stage: 'cockpit',
    controls: [
      'stemLength',
      'stemAngle',
      'stemFlip',
      'spacers',
      'barReach',
      'barWidth',
      'barRotation',
      'hoods',
      'padRise',
      'padAhead',
    ],
    check: 'static reach test, hands off, one hand; brakes from hoods and drops',
    risk: ['Steerer and stem to the maker’s torque; brakes straight and reachable before riding.'],
  },
];

/** Bought in their length, not moved in steps. */
const PARTS: readonly ControlKey[] = [
  'crank',
  'stemLength',
  'stemAngle',
  'barReach',
  'barWidth',
  'saddleWidth',
  'pedalAxle',
];

/** “3 mm a step”, by the control that moves most steps. */
function stepsOf(moves: Moves, halfSteps: boolean): string {
  const said = (Object.entries(moves) as [ControlKey, number][]).map(([key, by]) => {
    const { step, unit, name } = CONTROLS[key];
    const used = halfSteps && key !== 'crank' && unit === 'mm' && step > 1 ? step / 2 : step;
    if (unit === '' || PARTS.includes(key) || Math.abs(by) <= used) return null;
    return `${name.replace(/, (left|right)$/, '').toLowerCase()} in steps of ${used}${unit === '°' ? '°' : ' mm'}`;
  });
  // A pair is told once.
  return [...new Set(said.filter(Boolean))].join('; ');
}

/** How much of a line is done before filming again. */
function todayOf(moves: Moves, halfSteps: boolean): Moves {
  const most = HEIGHT_A_VISIT_MM / (halfSteps ? 2 : 1);
  const up = moves.saddleUp;
  return up !== undefined && Math.abs(up) > most ? { ...moves, saddleUp: Math.sign(up) * most } : moves;
}

const mm = (v: number): string => `${Math.abs(Math.round(v))} mm`;

/** Couplings, in words: what a line does to the other two places (handbook: models, what a change does). */
export function knockOns(c: Pick<PlanCase, 'bike'>, moves: Moves): string[] {
  const out: string[] = [];
  const cleat =
    Math.max(moves['cleatBack.left'] ?? 0, moves['cleatBack.right'] ?? 0, 0) ||
    Math.min(moves['cleatBack.left'] ?? 0, moves['cleatBack.right'] ?? 0, 0);
  if (cleat) out.push(`acts like ${mm(cleat / 2)} of saddle ${cleat > 0 ? 'up' : 'down'}`);
  const stack = (moves.pedalStack ?? 0) || (moves['shim.left'] ?? 0) || (moves['shim.right'] ?? 0);
  if (stack) out.push(`acts like a saddle ${mm(stack)} ${stack > 0 ? 'lower' : 'higher'} for that leg`);
  if (moves.crank)
    out.push(
      `the pedal is ${mm(moves.crank)} ${moves.crank < 0 ? 'higher' : 'lower'} at the bottom: saddle ${moves.crank < 0 ? 'up' : 'down'} ${mm(moves.crank)} keeps the bottom, and the top gains twice`,
    );
  if (cleat || moves.crank) out.push(...toeToTyre(c.bike, moves));
  const fx = effectsOf(c.bike, moves);
  const sit = pick(moves, ['saddleUp', 'saddleBack', 'saddleTilt']);
  if (Object.keys(sit).length) {
    if (Math.abs(fx.sitMm.x) >= 2)
      out.push(
        `the rider sits ${mm(fx.sitMm.x)} further ${fx.sitMm.x < 0 ? 'back: reach grows' : 'forward: reach shrinks'} by as much`,
      );
    if (Math.abs(fx.sitMm.y) >= 2)
      out.push(
        `${mm(fx.sitMm.y)} ${fx.sitMm.y > 0 ? 'higher: drop to the bar grows' : 'lower: drop to the bar shrinks'}`,
      );
  }
  if (Math.hypot(fx.handMm.x, fx.handMm.y) >= 2)
    out.push(
      `the hands come ${mm(fx.handMm.x)} ${fx.handMm.x < 0 ? 'nearer' : 'further'} and ${mm(fx.handMm.y)} ${fx.handMm.y < 0 ? 'lower' : 'higher'}`,
    );
  return out;
}

/** The gap from toe to tyre where it changes: less than a finger is told, whatever it was. */
function toeToTyre(bike: BikeSetup, moves: Moves): string[] {
  const [a, b] = [resolveBike(bike).overlap, resolveBike(applyMoves(bike, moves)).overlap];
  const gap = (o: typeof a): number => Math.min(o.left?.gapMm ?? Infinity, o.right?.gapMm ?? Infinity);
  if (!Number.isFinite(gap(b)) || Math.abs(gap(b) - gap(a)) < 1) return [];
  return [
    `toe to front tyre, at its least: ${Math.round(gap(a))} → ${Math.round(gap(b))} mm${gap(b) <= 0 ? ': they touch when steering slowly, tell the rider' : ''}`,
  ];
}

/** The partner change that takes a move's effect off the leg's length again; null where there is none to take off. */
export function compensation(moves: Moves): Moves | null {
  const cleat = ((moves['cleatBack.left'] ?? 0) + (moves['cleatBack.right'] ?? 0)) / 2;
  const up =
    -0.5 * cleat +
    (moves.pedalStack ?? 0) +
    Math.min(moves['shim.left'] ?? 0, moves['shim.right'] ?? 0) -
    (moves.crank ?? 0);
  const wanted = Math.round(up) - (moves.saddleUp ?? 0);
  return Math.abs(up) >= 1 && wanted !== 0 ? { saddleUp: wanted } : null;
}

/**
 * The prescription: feet, then saddle, then cockpit; each stage is solved on what the earlier ones gave, and what the fitter has
 * settled is kept and gone round (handbook: models, solver; rules).
 */
export function prescribe(c: PlanCase): Prescription {
  const [near] = c.sides;
  const decided = new Map(c.decisions.map((d) => [d.key, d]));
  const apart = kneesApart(c);
  const body = bodyOf(c);
  const { sides, seen } = unmasked(c);
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
        group.key === 'saddleUp' && (moves.saddleUp ?? 0) < 0
          ? seen.map(() => 'toe pointing at the bottom')
          : [],
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

const feetKeys = (Object.keys(CONTROLS) as ControlKey[]).filter((k) => CONTROLS[k].stage === 'feet');
const beforeCockpit = (Object.keys(CONTROLS) as ControlKey[]).filter((k) => CONTROLS[k].stage !== 'cockpit');

function inOrder(lines: readonly PlanLine[], order: readonly string[]): PlanLine[] {
  const stages: readonly Stage[] = ['feet', 'saddle', 'cockpit'];
  const rank = (l: PlanLine): number => {
    const own = order.indexOf(l.key);
    return own >= 0 ? own : 100 + stages.indexOf(l.stage);
  };
  // Sorting is stable: of one stage the order of finding stays.
  return [...lines].sort((a, b) => rank(a) - rank(b));
}

/** Compensations that the tests on the bike and the bike itself show, each with the lines that take their cause away. */
function otherCompensations(c: PlanCase, lines: readonly PlanLine[]): string[] {
  const stands = (key: string, moves: (m: Moves) => boolean): boolean =>
    lines.some((l) => l.key === key && l.decision?.state !== 'rejected' && moves(l.moves));
  const named = (causes: readonly (string | false)[]): string => causes.filter(Boolean).join(', ');
  const out: string[] = [];
  if (c.onBike?.slides === 'yes') {
    const causes = named([
      stands('saddleUp', (m) => (m.saddleUp ?? 0) < 0) && 'the saddle comes down',
      stands('saddleTilt', (m) => (m.saddleTilt ?? 0) > 0) && 'its nose comes up',
      stands('front', () => true) && 'the hands come nearer or higher',
    ]);
    out.push(
      causes
        ? `The rider slides forward: expected to go, since ${causes}.`
        : 'The rider slides forward, and nothing here takes its cause away: look at saddle height, tilt and reach again.',
    );
  }
  if ((c.bike.bar.rotationDeg ?? 0) >= 8)
    out.push(
      'The bar is rolled up: usually for a reach that is too long or a bar too low; it is turned back after those.',
    );
  return out;
}

/** Left less right of the knee at its straightest, where both sides were filmed. */
function kneesApart(c: PlanCase): ProposalCase['kneeApart'] {
  const of = (side: BodyModel['side']): MeasureReading | undefined =>
    c.sides.find((s) => s.model.side === side)?.measures.find((m) => m.key === 'kneeFlexionMinDeg');
  const [l, r] = [of('left'), of('right')];
  if (!l || !r) return null;
  const byDeg = l.value - r.value;
  return { byDeg, sure: Math.abs(byDeg) >= 3 && Math.abs(byDeg) > Math.hypot(l.uncertainty, r.uncertainty) };
}

/** Legs that want the saddle elsewhere, said and not averaged (handbook: models, solver). */
function conflicts(solve: SolveCase, given: Moves, c: PlanCase): string[] {
  const out: string[] = [];
  if (solve.sides.length > 1) {
    const [a, b] = heightPerLeg(solve, given);
    const by = Math.abs(a.upMm - b.upMm);
    const words = (upMm: number): string =>
      upMm === 0 ? 'where it is' : `${mm(upMm)} ${upMm > 0 ? 'up' : 'down'}`;
    if (by >= 5)
      out.push(
        `Saddle height: the ${a.side} leg wants it ${words(a.upMm)}, the ${b.side} leg ${words(b.upMm)}: ${by} mm apart. Look at the leg lengths, a shim, or accept it.`,
      );
  }
  const legs = legLength(c.body);
  if (legs.refer)
    out.push(
      `${legs.differenceMm} mm of true leg-length difference: over 6 mm a clinician should see it before it is treated.`,
    );
  return out;
}

/** “Lower the saddle 6 mm, or retrain the foot, then judge again”: an over-straight knee with a flat foot (handbook: schools). */
function retrain(c: PlanCase, moves: Moves): Prescription['alternatives'] {
  const knee = c.measures.find((m) => m.key === 'kneeFlexionMinDeg');
  const pitch = c.measures.find((m) => m.key === 'footPitch180Deg');
  const flat = pitch?.band.low !== null && pitch !== undefined && pitch.value < pitch.band.low + 4;
  if (knee?.verdict !== 'low' || !flat || !moves.saddleUp) return [];
  return [
    {
      stage: 'saddle',
      moves: {},
      words: 'retrain the foot: toe a little further down at the bottom, then judge the knee again',
    },
  ];
}

/** What stays out after everything, and what it calls for. */
function stillOut(
  c: PlanCase,
  forecast: Forecast | null,
  sides: readonly FilmedSide[],
): Prescription['open'] {
  const masked = sides.some((s, i) => s !== c.sides[i] && s.model !== c.sides[i].model);
  return c.measures.flatMap((m) => {
    if (m.verdict !== 'low' && m.verdict !== 'high') return [];
    const after = forecast?.ok ? forecast.measures.find((f) => f.key === m.key) : undefined;
    if (after && after.verdict !== 'low' && after.verdict !== 'high') return [];
    if (masked && (m.key === 'footPitch180Deg' || m.key === 'footPitch90Deg' || m.key === 'ankleRangeDeg'))
      return [{ key: m.key, words: 'a compensation: expected to go with its cause; film again' }];
    if (c.schools.foreAft === 'balance' && m.key === 'kneeOverSpindleMm')
      return [{ key: m.key, words: 'reported only: the balance test decides' }];
    const words: Partial<Record<MeasureKey, string>> = {
      kneePathWidthMm: 'no model foretells it: stance first, then film from ahead again',
      ankleRangeDeg: 'a matter of habit: cadence drills, then film again',
      hipVerticalTravelMm: 'goes with saddle height; film again',
      elbowFlexionDeg: 'arms and habit: soft elbows, then film again',
    };
    return [
      {
        key: m.key,
        words:
          words[m.key] ??
          'no move within this bike’s limits was worth its price; look again after the next film',
      },
    ];
  });
}
