import { DEMO_PARTS } from '../../app/demo/parts.ts';
import { resolveBike } from '../../core/bike/resolve.ts';
import { fitBody, USUAL_HABITS, type Habits } from '../../core/model/bodyModel.ts';
import { applyMoves, effectsOf, type LegSide, type Moves } from '../../core/plan/controls.ts';
import { foretell, laidOut } from '../../core/model/foretell.ts';
import { judge } from '../../core/protocol/judge.ts';
import { learnHabits } from '../../core/model/learn.ts';
import { judgeReading, type MeasureReading } from '../../core/protocol/measures.ts';
import { bodyOf, type PlanCase, type Prescription } from '../../core/plan/plan.ts';
import { prescribe } from '../../core/plan/prescribe.ts';
import { PREDICTED, type PredictedKey } from '../../core/model/predict.ts';
import { USUAL_SCHOOLS } from '../../core/plan/proposals.ts';
import { protocolById } from '../../core/protocol/protocols.ts';
import { readTracks, type Reading } from '../../core/stroke/read.ts';
import { refilmed } from '../../core/trial/outcome.ts';
import { STICKER_SD_MM } from '../../core/stroke/uncertainty.ts';
import { filmed, FILMED_MM_PER_PX } from '../../sim/filmed.ts';
import { gaussian } from '../../sim/random.ts';
import type { JointKey } from '../../sim/rider.ts';
import { rideOn, truth, type Case, type Ridden } from './riders.ts';

const PROTOCOL = protocolById('long-distance');
const SIDES: readonly LegSide[] = ['right', 'left'];
const JOINTS: readonly JointKey[] = ['hip', 'knee', 'ankle', 'heel', 'toe', 'shoulder', 'elbow', 'wrist'];

export type Stickers = Partial<Record<JointKey, { x: number; y: number }>>;

/** One visit: both sides filmed at track level, stickers beside their bones. */
export interface Film {
  readings: Record<LegSide, Reading>;
  measures: Record<LegSide, MeasureReading[]>;
}

export function film(rider: Ridden, stickers: Record<LegSide, Stickers>, random: () => number): Film {
  const readings = {} as Film['readings'];
  const measures = {} as Film['measures'];
  for (const side of SIDES) {
    const tracks = filmed({
      rider: rider[side],
      seconds: 4.6,
      noisePx: 0.15,
      stickerOffMm: stickers[side],
      stickersTurn: true,
      facing: side,
      seed: 1 + Math.floor(1e6 * random()),
    });
    const reading = readTracks(tracks, {
      mmPerPx: FILMED_MM_PER_PX,
      facing: side,
      crankMm: rider[side].crankMm,
    });
    if (!reading.ok) throw new Error(reading.detail);
    readings[side] = reading;
    measures[side] = judgeReading(reading, PROTOCOL);
  }
  return { readings, measures };
}

export function planFor(
  c: Case,
  bike: Case['bike'],
  f: Film,
  habits: Habits,
): { plan: Prescription; plannedOn: PlanCase } {
  const plannedOn: PlanCase = {
    intake: c.intake,
    body: c.body,
    bike,
    resolved: resolveBike(bike),
    schools: USUAL_SCHOOLS,
    suspects: [],
    parts: DEMO_PARTS.parts,
    measures: f.measures.right,
    sides: SIDES.map((side) => ({
      model: fitBody(f.readings[side], side, bike.frame.seatAngleDeg),
      measures: f.measures[side],
    })),
    habits,
    halfSteps: false,
    decisions: [],
    order: [],
  };
  return { plan: prescribe(plannedOn), plannedOn };
}

/** What is out: film measures of either side beyond their uncertainty, and settings that the rules find wrong. */
function findings(f: Film, bike: Case['bike'], c: Case): string[] {
  const film = SIDES.flatMap((side) =>
    f.measures[side]
      .filter((m) => m.verdict === 'low' || m.verdict === 'high')
      .map((m) => `${side} ${m.key}`),
  );
  const { left, right } = bike.feet;
  const stance = resolveBike(bike).stanceMm;
  const settings = [
    Math.abs(left.cleatBehindMm! - right.cleatBehindMm!) >= 3 && 'cleats apart',
    Math.min(left.cleatBehindMm!, right.cleatBehindMm!) < -2 && 'cleat ahead of the head',
    Math.abs(stance.left! - stance.right!) >= 4 && 'stance uneven',
  ].filter((v): v is string => Boolean(v));
  const by = f.measures.left.find((m) => m.key === 'kneeFlexionMinDeg')!;
  const other = f.measures.right.find((m) => m.key === 'kneeFlexionMinDeg')!;
  const apart = by.value - other.value;
  const legs =
    c.misfit === 'leg length' &&
    Math.abs(apart) >= 3 &&
    Math.abs(apart) > Math.hypot(by.uncertainty, other.uncertainty)
      ? ['legs apart']
      : [];
  return [...film, ...settings, ...legs];
}

/** How far out a finding may still be to count as put right: not at all (inside), or within its uncertainty. */
const isOut = (name: string, f: Film, bike: Case['bike'], c: Case): { strict: boolean; sure: boolean } => {
  const [side, key] = name.split(' ') as [LegSide, string];
  const m = f.measures[side]?.find((q) => q.key === key);
  if (!m) {
    const still = findings(f, bike, c).includes(name);
    return { strict: still, sure: still };
  }
  return { strict: m.verdict !== 'in', sure: m.verdict === 'low' || m.verdict === 'high' };
};

/** The outcome of one rider over two rounds. */
export interface Outcome {
  misfit: Case['misfit'];
  found: number;
  /** Of the findings, by what the rider truly does; by the film inside the band; by the film no longer out. */
  trueIn: [first: number, second: number];
  inBand: [first: number, second: number];
  notOut: [first: number, second: number];
  pushedOut: number;
  touched: number;
  fewest: number;
  /** Truth after round one inside its foretold 95 % interval, out of how many. */
  held: number;
  foretold: number;
  /** Half widths of the foot pitch's and the back's interval in the second plan, with the habits as usual and as learned. */
  width: { usual: number; learned: number } | null;
  kappaMiss: { usual: number; learned: number } | null;
}

/** Things touched, as a fitter counts them: a pair of cleats is one, a stem with its flip is one. */
export function touched(moves: Moves): number {
  const groups = Object.keys(moves).map((k) => k.replace(/\.(left|right)$/, '').replace(/^stem.*/, 'stem'));
  return new Set(groups).size;
}

/** Plan, apply to the virtual rider, film again; twice. */
export function closedLoop(c: Case, random: () => number): Outcome | null {
  const stickers = Object.fromEntries(
    SIDES.map((side) => [
      side,
      Object.fromEntries(
        JOINTS.map((j) => [j, { x: STICKER_SD_MM * gaussian(random), y: STICKER_SD_MM * gaussian(random) }]),
      ),
    ]),
  ) as Record<LegSide, Stickers>;
  let [rider, bike] = [c.rider, c.bike];
  let f = film(rider, stickers, random);
  const first = f;
  const found = findings(f, bike, c);
  const { plan, plannedOn } = planFor(c, bike, f, USUAL_HABITS);
  const near = plannedOn.sides[0];
  const prepared = laidOut(near.model);
  const fx = effectsOf(bike, plan.total);
  const forecast = foretell(prepared, near.measures, fx, USUAL_HABITS, bodyOf(plannedOn));
  const next = rideOn(rider, bike, plan.total, c.habit);
  if (!next || !forecast.ok) return null;
  const was = truth(rider.right);
  [rider, bike] = [next, applyMoves(bike, plan.total)];
  const now = truth(rider.right);
  let [held, foretold] = [0, 0];
  if (Object.keys(plan.total).length > 0)
    for (const m of forecast.measures) {
      const v = now[m.key];
      if (v === undefined) continue;
      foretold += 1;
      held += Number(v >= m.low && v <= m.high);
    }
  f = film(rider, stickers, random);
  const after1 = { f, bike };
  const learned = learnHabits(
    prepared,
    fx,
    refilmed(first.readings.right, f.readings.right, true),
    USUAL_HABITS,
    bodyOf(plannedOn),
  );
  const again = planFor(c, bike, f, learned);
  const final = rideOn(rider, bike, again.plan.total, c.habit);
  if (!final) return null;
  const twice = { f: film(final, stickers, random), bike: applyMoves(bike, again.plan.total) };
  const count = (s: typeof after1, how: 'strict' | 'sure'): number =>
    found.filter((name) => !isOut(name, s.f, s.bike, c)[how]).length;
  const truly = (r: Ridden, s: typeof after1): number =>
    found.filter((name) => {
      const [side, key] = name.split(' ') as [LegSide, PredictedKey];
      return side in s.f.measures ? inTruth(key, truth(r[side])[key]) : !isOut(name, s.f, s.bike, c).strict;
    }).length;
  const inBefore = PREDICTED.filter((key) => inTruth(key, was[key]));
  return {
    misfit: c.misfit,
    found: found.length,
    trueIn: [truly(next, after1), truly(final, twice)],
    inBand: [count(after1, 'strict'), count(twice, 'strict')],
    notOut: [count(after1, 'sure'), count(twice, 'sure')],
    pushedOut: inBefore.filter((key) =>
      SIDES.some(
        (side) =>
          first.measures[side].find((m) => m.key === key)?.verdict === 'in' &&
          isOut(`${side} ${key}`, after1.f, after1.bike, c).sure,
      ),
    ).length,
    touched: found.length > 0 ? touched(plan.total) : 0,
    fewest: found.length === 0 ? 0 : c.fewest === 1 || oneIsEnough(c, first, found) ? 1 : c.fewest,
    held,
    foretold,
    width: widths(again.plannedOn, learned),
    kappaMiss: {
      usual: Math.abs(USUAL_HABITS.kappa.mean - c.habit.kappa),
      learned: Math.abs(learned.kappa.mean - c.habit.kappa),
    },
  };
}

/** Whether one thing alone would put right all that was found: looked for with the simulation's own knowledge. */
function oneIsEnough(c: Case, f: Film, found: readonly string[]): boolean {
  const before = { right: truth(c.rider.right), left: truth(c.rider.left) };
  const tries: Moves[] = [];
  for (let by = -36; by <= 36; by += 3) tries.push({ saddleUp: by });
  for (let by = -60; by <= 40; by += 10) tries.push({ stemLength: by });
  return tries.some((moves) => {
    const then = rideOn(c.rider, c.bike, moves, c.habit);
    if (!then) return false;
    const after = { right: truth(then.right), left: truth(then.left) };
    return found.every((name) => {
      const [side, key] = name.split(' ') as [LegSide, PredictedKey];
      const m = f.measures[side]?.find((q) => q.key === key);
      if (!m) return false;
      const v = m.value + after[side][key]! - before[side][key]!;
      return judge(v, m.uncertainty, m.band) !== 'low' && judge(v, m.uncertainty, m.band) !== 'high';
    });
  });
}

const inTruth = (key: PredictedKey, v: number | undefined): boolean => {
  const b = PROTOCOL.bands[key];
  return v !== undefined && (b.low === null || v >= b.low) && (b.high === null || v <= b.high);
};

/** How wide the second prediction is for the same further change (saddle +10 mm), with the usual habits and with the learned ones. */
function widths(on: PlanCase, learned: Habits): Outcome['width'] {
  const prepared = laidOut(on.sides[0].model);
  const fx = effectsOf(on.bike, { saddleUp: 10, stemLength: -20 });
  const width = (habits: Habits): number => {
    // The measurement's own part is left out: only what the habits add is compared.
    const bare = on.measures.map((m) => ({ ...m, uncertainty: 0 }));
    const p = foretell(prepared, bare, fx, habits, {});
    if (!p.ok) return NaN;
    const of = (key: PredictedKey): number => {
      const m = p.measures.find((q) => q.key === key)!;
      return m.high - m.low;
    };
    return of('kneeFlexionMinDeg') + of('backAngleDeg');
  };
  const out = { usual: width(USUAL_HABITS), learned: width(learned) };
  return Number.isFinite(out.usual) && Number.isFinite(out.learned) ? out : null;
}
