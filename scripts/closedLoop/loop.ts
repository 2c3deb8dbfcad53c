import { UNMEASURED_PART } from '../../core/bike/parts.ts';
import { USUAL_HABITS } from '../../core/model/bodyModel.ts';
import { applyMoves, both, tidy, type Moves } from '../../core/plan/controls/controls.ts';
import type { ControlKey } from '../../core/plan/controls/controlTable.ts';
import type { PlanLine, Prescription, RiddenStep } from '../../core/plan/terms/plan.ts';
import { prescribe } from '../../core/plan/prescribe.ts';
import { filmedTake, visitCase, type FilmedTake, type PlannedVisit } from '../../core/visit/visitCase.ts';
import { judgeReading, type MeasureReading } from '../../core/protocol/measures.ts';
import { callsForChange, protocolById, type MeasureKey } from '../../core/protocol/protocols.ts';
import { NO_PLANNING } from '../../core/plan/terms/planning.ts';
import { NO_STATICS } from '../../core/body/statics.ts';
import { readTracks, type Reading } from '../../core/kinematics/read.ts';
import { outcomes } from '../../core/visit/outcome.ts';
import { filmed, FILMED_MM_PER_PX } from '../../sim/filmed.ts';
import { satAnew, stickOn } from '../../sim/human.ts';
import { LEVEL_SD_DEG } from '../../core/kinematics/uncertainty.ts';
import { trueFigures } from '../../sim/measured.ts';
import { gaussian } from '../../sim/random.ts';
import type { JointKey } from '../../sim/rider.ts';
import type { Vec2 } from '../../core/math/vec.ts';
import { rideOn, type LoopCase, type Ridden } from './riders.ts';

const PROTOCOL = protocolById('long-distance');
const SIDES = ['right', 'left'] as const;
type Side = (typeof SIDES)[number];
export type Stickers = Record<Side, Record<JointKey, Vec2>>;

export interface Film {
  readings: Record<Side, Reading>;
  measures: Record<Side, MeasureReading[]>;
}

/** Stickers on both sides, beside the bone by so many times the usual. */
export const stickers = (random: () => number, times = 1): Stickers => ({
  right: stickOn(random, times),
  left: stickOn(random, times),
});

/** The rider sits down anew, and both sides are filmed at track level by a levelled camera. */
export function film(rider: Ridden, on: Stickers, random: () => number): Film {
  const readings = {} as Film['readings'];
  const measures = {} as Film['measures'];
  for (const side of SIDES) {
    const tracks = filmed({
      rider: satAnew(rider[side], random),
      seconds: 6,
      noisePx: 0.15,
      stickerOffMm: on[side],
      stickersTurn: true,
      facing: side,
      seed: 1 + Math.floor(1e6 * random()),
    });
    const reading = readTracks(tracks, {
      mmPerPx: FILMED_MM_PER_PX,
      facing: side,
      // What a level leaves, told to nobody.
      levelDeg: LEVEL_SD_DEG * gaussian(random),
      crankMm: rider[side].crankMm,
    });
    if (!reading.ok) throw new Error(reading.detail);
    readings[side] = reading;
    measures[side] = judgeReading(reading, PROTOCOL);
  }
  return { readings, measures };
}

export function planFor(
  c: LoopCase,
  bike: LoopCase['bike'],
  f: Film,
  { ridden = [], gone = false }: { ridden?: readonly RiddenStep[]; gone?: boolean } = {},
): Prescription {
  const visit: PlannedVisit = {
    protocolId: 'long-distance',
    protocol: null,
    intake: gone ? { ...c.intake, complaints: [] } : c.intake,
    body: c.body,
    asFound: bike,
    statics: NO_STATICS,
    planning: { ...NO_PLANNING, onBike: c.onBike },
    changes: [],
  };
  const take = (view: 'drive' | 'nonDrive'): FilmedTake['take'] => ({ view, setup: null, effortW: null });
  const made = visitCase({
    session: visit,
    near: filmedTake(visit, take('drive'), f.readings.right),
    far: filmedTake(visit, take('nonDrive'), f.readings.left),
    parts: STEMS,
    habits: USUAL_HABITS,
  });
  return prescribe({ ...made.case, ridden });
}

/** Stems in the drawers: what a fitter has. */
const STEMS = [60, 70, 80, 90, 100, 110, 120].map((lengthMm) => ({
  id: `s${lengthMm}`,
  kind: 'stem' as const,
  name: `Stem ${lengthMm}`,
  ...UNMEASURED_PART,
  lengthMm,
  angleDeg: -6,
}));

/** What the misfit wants: which control back which way. A bar too low or a reach too long is mended by either of the two. */
function rightWay(c: LoopCase, l: PlanLine): boolean {
  const m = l.moves;
  const against = (by: number | undefined, wrong: number | undefined): boolean =>
    by !== undefined && wrong !== undefined && by * wrong < 0;
  return (
    against(m.saddleUp, c.wrong.saddleUp) ||
    against(m.saddleBack, c.wrong.saddleBack) ||
    against(m.stemLength, c.wrong.stemLength) ||
    against(m.spacers, c.wrong.spacers) ||
    (c.wrong.spacers !== undefined && (m.stemFlip ?? 0) > 0) ||
    ((c.wrong.stemLength ?? 0) > 0 && l.key === 'askReachLong') ||
    ((c.wrong.stemLength ?? 0) < 0 && l.key === 'askReachShort') ||
    (c.wrong.spacers !== undefined && l.key === 'askBarLow')
  );
}

/** Whether a line moves the very thing that is wrong the very wrong way. */
const wrongWay = (c: LoopCase, l: PlanLine): boolean =>
  (Object.keys(c.wrong) as ControlKey[]).some((key) => (l.moves[key] ?? 0) * c.wrong[key]! > 0);

const KEYS: readonly MeasureKey[] = [
  'kneeFlexionMinDeg',
  'hipAngleMinDeg',
  'backAngleDeg',
  'shoulderAngleDeg',
  'elbowFlexionDeg',
  'kneeOverSpindleMm',
];

const within = (key: MeasureKey, v: number): boolean => {
  const b = PROTOCOL.bands[key];
  return (b.low === null || v >= b.low) && (b.high === null || v <= b.high);
};

/** Of the measures that call for a change, how many lie in the band in truth. */
function trulyIn(r: Ridden): { inside: number; all: number } {
  let [inside, all] = [0, 0];
  for (const side of SIDES) {
    const t = trueFigures(r[side], 120);
    for (const key of KEYS) {
      all += 1;
      inside += Number(within(key, t[key as keyof typeof t]));
    }
  }
  return { inside, all };
}

/** The same by the film: not surely out. */
function filmIn(f: Film): { inside: number; all: number } {
  const all = SIDES.flatMap((side) =>
    f.measures[side].filter((m) => callsForChange(m.key) && KEYS.includes(m.key)),
  );
  return { inside: all.filter((m) => m.verdict !== 'low' && m.verdict !== 'high').length, all: all.length };
}

/** What a plan says of a line and what is true of it: P, and whether the rider's setting really errs so. */
export interface Stated {
  p: number;
  isTrue: boolean;
}

/** The outcome of one rider over two rounds. */
export interface Outcome {
  misfit: LoopCase['misfit'];
  complains: boolean;
  now: number;
  tries: number;
  lines: number;
  /** Under now, and under now or try, the right control the right way. */
  rightNow: boolean;
  rightNowOrTry: boolean;
  wrong: boolean;
  /** Whether a line under now is as sure as 0.8, and whether all that are so go the right way. */
  sure: boolean;
  sureRight: boolean;
  pushedOut: number;
  touched: number;
  fewest: number;
  leadsWithoutLine: number;
  inFilm: { inside: number; all: number };
  inTruth: { inside: number; all: number };
  held: number;
  predicted: number;
}

/** Things touched, as a fitter counts them: a pair of cleats is one, a stem with its flip is one. */
function touched(moves: Moves): number {
  const groups = Object.keys(tidy(moves)).map((k) =>
    k.replace(/\.(left|right)$/, '').replace(/^stem.*/, 'stem'),
  );
  return new Set(groups).size;
}

const SETTING: Partial<Record<ControlKey, RiddenStep['setting']>> = {
  saddleUp: 'height',
  saddleBack: 'setback',
  stemLength: 'reach',
  spacers: 'bar',
};

/** The rider's word on a step: better where it takes away from what is wrong, worse where it adds to it, mostly. */
function wordOn(c: LoopCase, moves: Moves, random: () => number): RiddenStep[] {
  return (Object.entries(moves) as [ControlKey, number][]).flatMap(([key, by]): RiddenStep[] => {
    const setting = SETTING[key];
    if (!setting) return [];
    const wrong = c.wrong[key];
    const clear = random() < 0.75;
    const word =
      !clear || wrong === undefined
        ? random() < 0.7
          ? 'same'
          : 'worse'
        : wrong * by < 0
          ? 'better'
          : 'worse';
    return [{ setting, way: by > 0 ? 1 : -1, word }];
  });
}

/** By how much a setting truly errs, in the plan's own millimetres: the knee against the middle of its band, and so on. */
function trueFaults(r: Ridden): Record<string, number> {
  const mean = (f: (t: ReturnType<typeof trueFigures>) => number): number =>
    SIDES.reduce((s, side) => s + f(trueFigures(r[side], 120)), 0) / 2;
  return {
    height: (37.5 - mean((t) => t.kneeFlexionMinDeg)) / 0.26,
    setback: (-10 - mean((t) => t.kneeOverSpindleMm)) / 0.87,
  };
}

/** P of the two saddle settings against what is true, one for each direction. */
export function statedOf(plan: Prescription, r: Ridden): Stated[] {
  const t = trueFaults(r);
  return [...plan.now, ...plan.try].flatMap((l): Stated[] => {
    if (l.key === 'saddleUp') {
      const up = (l.moves.saddleUp ?? 0) > 0;
      return [{ p: l.p, isTrue: up ? t.height < -9.5 : t.height > 9.5 }];
    }
    if (l.key === 'saddleBack') {
      const back = (l.moves.saddleBack ?? 0) > 0;
      return [{ p: l.p, isTrue: back ? t.setback < -13.5 : t.setback > 13.5 }];
    }
    return [];
  });
}

/** Plan, apply to the virtual rider, film again; twice. */
export function closedLoop(c: LoopCase, random: () => number): Outcome | null {
  const on = stickers(random);
  const first = film(c.rider, on, random);
  const plan = planFor(c, c.bike, first);
  const lines = [...plan.now, ...plan.try];
  // What is to be tried is ridden: a step that is worse goes back.
  const steps = plan.try.flatMap((l) => wordOn(c, l.moves, random));
  const kept = plan.try.filter((l) => wordOn(c, l.moves, () => 0.1).some((s) => s.word === 'better'));
  const one = both(
    plan.now.reduce<Moves>((s, l) => both(s, l.moves), {}),
    kept.reduce<Moves>((s, l) => both(s, l.moves), {}),
  );
  const next = rideOn(c.rider, c.bike, one, c.habit);
  if (!next) return null;
  let [held, predicted] = [0, 0];
  const truth = trueFigures(next.right, 120);
  if (plan.forecast?.ok && kept.length === plan.try.length && Object.keys(one).length > 0)
    for (const m of plan.forecast.measures) {
      const v = truth[m.key as keyof typeof truth];
      if (v === undefined) continue;
      predicted += 1;
      held += Number(v >= m.low && v <= m.high);
    }
  const bike = applyMoves(c.bike, one);
  const again = film(next, on, random);
  const words = [...steps, ...plan.now.flatMap((l) => wordOn(c, l.moves, random))];
  const second = planFor(c, bike, again, { ridden: words });
  const two = both(
    second.now.reduce<Moves>((s, l) => both(s, l.moves), {}),
    second.try
      .filter((l) => wordOn(c, l.moves, () => 0.1).some((s) => s.word === 'better'))
      .reduce<Moves>((s, l) => both(s, l.moves), {}),
  );
  const last = rideOn(next, bike, two, c.habit);
  if (!last) return null;
  const final = film(last, on, random);
  const sure = plan.now.filter((l) => l.p >= 0.8);
  const leads = planLeads(plan, c);
  return {
    misfit: c.misfit,
    complains: c.intake.complaints.length > 0,
    now: plan.now.length,
    tries: plan.try.length,
    lines: lines.length,
    rightNow: plan.now.some((l) => rightWay(c, l)),
    rightNowOrTry: lines.some((l) => rightWay(c, l)),
    wrong: plan.now.some((l) => wrongWay(c, l)),
    sure: sure.length > 0,
    sureRight: sure.length > 0 && sure.some((l) => rightWay(c, l)) && !sure.some((l) => wrongWay(c, l)),
    pushedOut: lines.reduce(
      (n, l) =>
        n +
        l.predicted.filter((f) => {
          const band = PROTOCOL.bands[f.key];
          const out = (v: number): boolean =>
            (band.low !== null && v < band.low) || (band.high !== null && v > band.high);
          return callsForChange(f.key) && !out(f.before) && out(f.after);
        }).length,
      0,
    ),
    touched: touched(lines.reduce<Moves>((s, l) => both(s, l.moves), {})),
    fewest: c.fewest,
    leadsWithoutLine: leads,
    inFilm: filmIn(final),
    inTruth: trulyIn(last),
    held,
    predicted,
  };
}

/** Leading suspects as strong as 0.8 without a line of any kind. */
function planLeads(plan: Prescription, c: LoopCase): number {
  const all = [...plan.now, ...plan.try, ...plan.later];
  return c.intake.complaints.filter((q) => !all.some((l) => l.answers.includes(q.id))).length;
}

/** An untouched bike filmed again, the rider off and on: how many measures are called a real change. */
export function untouched(c: LoopCase, random: () => number, times = 1): { real: number; all: number } {
  const on = stickers(random, times);
  const [a, b] = [film(c.rider, on, random), film(c.rider, on, random)];
  const found = SIDES.flatMap((side) =>
    outcomes(a.measures[side], b.measures[side], { sameStickers: true, predicted: null }),
  );
  return { real: found.filter((o) => o.real).length, all: found.length };
}
