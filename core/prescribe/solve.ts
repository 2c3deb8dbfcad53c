import type { BikeSetup } from '../bike/setup.ts';
import type { Part } from '../bike/parts.ts';
import { crankRangeMm } from '../body/estimates.ts';
import type { BodyModel, Habits, Prepared } from './bodyModel.ts';
import {
  both,
  cannot,
  CONTROLS,
  effectsOf,
  standsAt,
  tidy,
  type ControlKey,
  type Effects,
  type Moves,
} from './controls.ts';
import { asItIs, laidOut, type Body } from './foretell.ts';
import type { MeasureReading } from './measures.ts';
import { predict, predictTop, PREDICTED, type PredictedKey } from './predict.ts';
import type { MeasureKey } from './protocols.ts';

/** A filmed side: its model and what was measured on it. */
export interface FilmedSide {
  model: BodyModel;
  measures: readonly MeasureReading[];
}

/** What the solver works on. */
export interface SolveCase {
  sides: readonly FilmedSide[];
  bike: BikeSetup;
  habits: Habits;
  body: Body;
  parts: readonly Part[];
  inseamMm: number | null;
  /** Measures that this school only reports: they raise nothing and hold nothing back. */
  reportOnly: readonly MeasureKey[];
  /** A shorter crank is thought of: the hip closes, or the crank is long for the legs. */
  crankInDoubt: boolean;
  /** Controls that the fitter has settled: moved by just this much, or (0) left alone. */
  locked: Moves;
}

/** A settled stage: what to move, and the answers that came close. */
export interface Settled {
  moves: Moves;
  loss: number;
  /** Other sets of things to touch whose loss is close to the best one's, best first. */
  others: { moves: Moves; loss: number }[];
}

/** Price of a millimetre or degree moved, and of a thing touched, in squares of a standard deviation (own scale; see decisions). */
const PER_UNIT = 0.03;
const PER_TOUCH = 1;
/** How far inside its band a measure that was out is aimed: a quarter of the band's width, or one deviation where it is open. */
const INSET = 0.25;
const INSET_WEIGHT = 0.8;
/** A measure that was in its band is kept there with more than its own weight. */
const KEEP_WEIGHT = 30;
/** How far off its edge it is kept: this share of the measurement's uncertainty. */
const KEEP_INSET = 0.6;
const OFF_EDGE_WEIGHT = 6;
/** Two answers are close when their losses are. */
const CLOSE = 1.2;

const LEG_KEYS: readonly PredictedKey[] = [
  'kneeFlexionMinDeg',
  'kneeFlexionMaxDeg',
  'hipAngleMinDeg',
  'footPitch90Deg',
  'footPitch180Deg',
  'ankleRangeDeg',
  'kneeOverSpindleMm',
  'effectiveSeatAngleDeg',
];
const TOP_KEYS: readonly PredictedKey[] = [
  'hipAngleMinDeg',
  'backAngleDeg',
  'shoulderAngleDeg',
  'elbowFlexionDeg',
  'shoulderAboveMidBackMm',
  'headAboveBackMm',
];

/** How far the ankle goes is a habit: kept in its band, but no bolt is turned to bring it there. */
export const HABITS: readonly MeasureKey[] = ['ankleRangeDeg'];

const FOOT: readonly MeasureKey[] = ['footPitch90Deg', 'footPitch180Deg', 'ankleRangeDeg'];

/** Nobody sits closer than this from ride to ride, degrees or mm: a figure that is measured better does not weigh more. */
const RIDE_TO_RIDE = 1;

/** What one measure costs at a foretold value: Σ of squares in units of its own standard deviation. */
function costOf(m: MeasureReading, value: number): number {
  const { low, high } = m.band;
  const sd = Math.max(RIDE_TO_RIDE, m.uncertainty / 1.96);
  const beyond = (v: number, inset: number): number =>
    Math.max(0, low === null ? 0 : low + inset - v, high === null ? 0 : v - (high - inset));
  const was = beyond(m.value, 0);
  const out = beyond(value, 0);
  if (m.verdict === 'low' || m.verdict === 'high') {
    if (HABITS.includes(m.key)) return 0;
    const width = low !== null && high !== null ? high - low : 4 * sd;
    // The inset is aimed at from both edges, or a correction would overshoot.
    return (out / sd) ** 2 + INSET_WEIGHT * (beyond(value, INSET * width) / sd) ** 2;
  }
  // No finding: it need not get better, but must not get worse. What lay inside stays inside.
  // How the foot will be held is foretold least surely: it only counts where the film would call it out.
  if (FOOT.includes(m.key)) return KEEP_WEIGHT * (Math.max(0, out - was - m.uncertainty) / sd) ** 2;
  // Everything else is kept a little off the edge, since the rider's answer is not known.
  const width = low !== null && high !== null ? high - low : Infinity;
  const inset = Math.min(KEEP_INSET * m.uncertainty, 0.15 * width);
  const nearer = Math.max(0, beyond(value, inset) - beyond(m.value, inset));
  return KEEP_WEIGHT * (Math.max(0, out - was) / sd) ** 2 + OFF_EDGE_WEIGHT * (nearer / sd) ** 2;
}

interface Judged {
  prepared: Prepared;
  base: Record<PredictedKey, number>;
  measures: readonly MeasureReading[];
}

/** The sides laid out coarsely, with the measures that count. */
function judgedSides(c: SolveCase, keys: readonly PredictedKey[]): Judged[] {
  return c.sides.flatMap(({ model, measures }) => {
    const prepared = laidOut(model, 36);
    const base = asItIs(prepared);
    if (!base) return [];
    return [
      {
        prepared,
        base: base.values,
        measures: measures.filter(
          (m) =>
            keys.includes(m.key as PredictedKey) &&
            PREDICTED.includes(m.key as PredictedKey) &&
            !c.reportOnly.includes(m.key),
        ),
      },
    ];
  });
}

/** What the bands miss after effects on the body; infinite where leg or arm can't reach. */
function misses(c: SolveCase, sides: readonly Judged[], fx: Effects): number {
  let sum = 0;
  for (const side of sides) {
    const p = predict(side.prepared, fx, {
      ...c.body,
      kappa: c.habits.kappa.mean,
      rho: c.habits.rho.mean,
    });
    if (!p.ok) return Infinity;
    for (const m of side.measures) {
      const key = m.key as PredictedKey;
      sum += costOf(m, m.value + p.values[key] - side.base[key]);
    }
    if (p.rounds) sum += 4;
  }
  return sum;
}

/** What trunk and arm alone miss: never more than the whole does. */
function topMisses(c: SolveCase, side: Judged, fx: Effects): number {
  const top = predictTop(side.prepared, fx, {
    ...c.body,
    kappa: c.habits.kappa.mean,
    rho: c.habits.rho.mean,
  });
  if (!top) return Infinity;
  let sum = 0;
  for (const m of side.measures) {
    const v = top[m.key as keyof typeof top];
    if (v !== undefined) sum += costOf(m, m.value + v - side.base[m.key as PredictedKey]);
  }
  return sum;
}

/** What moves themselves cost: each thing touched, and how far. A part from the bin costs as the control says; what it is does not. */
export function priceOf(moves: Moves): number {
  return (Object.entries(moves) as [ControlKey, number][]).reduce(
    (s, [key, by]) => (by === 0 ? s : s + PER_TOUCH * CONTROLS[key].price + PER_UNIT * Math.abs(by)),
    0,
  );
}

const keyOf = (moves: Moves): string => Object.keys(tidy(moves)).sort().join();

/** The best of many, and the best of each other set of touched things that comes close. */
class Best {
  private readonly by = new Map<string, { moves: Moves; loss: number }>();
  least = Infinity;
  offer(moves: Moves, loss: number): void {
    this.least = Math.min(this.least, loss);
    const key = keyOf(moves);
    const kept = this.by.get(key);
    if (loss < (kept?.loss ?? Infinity)) this.by.set(key, { moves: tidy(moves), loss });
  }
  settled(): Settled {
    const all = [...this.by.values()].sort((a, b) => a.loss - b.loss);
    if (all.length === 0) return { moves: {}, loss: Infinity, others: [] };
    const [first, ...rest] = all;
    return { ...first, others: rest.filter((o) => o.loss < first.loss + CLOSE).slice(0, 3) };
  }
}

/** Trunk and arm left out: the hand goes with the saddle. */
const legsOnly = (fx: Effects): Effects => ({ ...fx, handMm: fx.sitMm });

/**
 * The saddle: height, setback and, where it is in doubt, the crank; after what the feet were given.
 * Each set of things that may be touched is searched on a grid and then by single millimetres (handbook: models, solver).
 */
export function settleSaddle(c: SolveCase, given: Moves): Settled {
  const sides = judgedSides(c, LEG_KEYS);
  const best = new Best();
  const locked = c.locked;
  const free = (key: ControlKey): boolean => locked[key] === undefined;
  const fixed = pick(locked, ['saddleUp', 'saddleBack', 'crank']);
  const lossOf = (moves: Moves): number => {
    const all = both(both(given, fixed), moves);
    const price = priceOf(moves);
    // What costs more than the best so far without mending anything need not be asked of the body.
    if (price > best.least + CLOSE || cannot(c.bike, all)) return Infinity;
    return misses(c, sides, legsOnly(effectsOf(c.bike, all))) + price;
  };
  const look = (moves: Moves): number => {
    const loss = lossOf(moves);
    if (loss < Infinity) best.offer(moves, loss);
    return loss;
  };
  const nothing = look({});
  // Nothing out and nothing pushed out: leave it alone.
  if (nothing < PER_TOUCH) return best.settled();
  const up = free('saddleUp') ? GRID_UP : [0];
  const back = free('saddleBack') ? GRID_BACK : [0];
  for (const crank of free('crank') ? crankOptions(c) : [0]) {
    for (const [heights, setbacks] of [
      [up, [0]],
      [[0], back],
      [up, back],
    ] as const) {
      let at: Moves = {};
      let least = Infinity;
      for (const saddleUp of heights)
        for (const saddleBack of setbacks) {
          if ((heights.length > 1 && saddleUp === 0) || (setbacks.length > 1 && saddleBack === 0)) continue;
          const loss = lossOf({ saddleUp, saddleBack, crank });
          if (loss < least) [least, at] = [loss, { saddleUp, saddleBack, crank }];
        }
      refine(at, [heights.length > 1 && 'saddleUp', setbacks.length > 1 && 'saddleBack'], look);
    }
    if (crank !== 0) look({ crank });
  }
  return best.settled();
}

/** Some of the moves. */
export const pick = (moves: Moves, keys: readonly ControlKey[]): Moves =>
  Object.fromEntries(Object.entries(moves).filter(([key]) => keys.includes(key as ControlKey)));

const GRID_UP = [-36, -28, -21, -15, -10, -6, -3, 3, 6, 10, 15, 21, 28, 36] as const;
const GRID_BACK = [-24, -16, -10, -5, 5, 10, 16, 24] as const;

/** Downhill by ever smaller steps to whole millimetres. */
function refine(from: Moves, keys: readonly (ControlKey | false)[], look: (m: Moves) => number): void {
  let at = from;
  let loss = look(at);
  if (loss === Infinity) return;
  for (const step of [4, 2, 1]) {
    for (let better = true; better;) {
      better = false;
      for (const key of keys) {
        if (!key) continue;
        for (const by of [step, -step]) {
          const next = { ...at, [key]: (at[key] ?? 0) + by };
          if (next[key] === 0) continue;
          const nextLoss = look(next);
          if (nextLoss < loss - 1e-9) [at, loss, better] = [next, nextLoss, true];
        }
      }
    }
  }
}

/** Lengths to think of: as it is, and shorter ones within the inseam's range (or a step under it where the hip closes). */
function crankOptions(c: SolveCase): number[] {
  const now = c.bike.crank.lengthMm;
  if (!c.crankInDoubt || now === null) return [0];
  const least = c.inseamMm === null ? now - 10 : Math.min(crankRangeMm(c.inseamMm)[0], now);
  const shorter = [2.5, 5, 7.5, 10, 12.5, 15].filter((q) => now - q >= least - 2.5);
  return [0, ...shorter.map((q) => -q)];
}

/** A way to put the hands elsewhere: what is moved, and which part it takes. */
interface Front {
  moves: Moves;
  extra: number;
}

/** Every front that the steerer and the bin give, and a few that can be ordered. */
function fronts(c: Pick<SolveCase, 'bike' | 'parts'>): Front[] {
  const { bike } = c;
  if (bike.extensions) {
    const out: Front[] = [];
    for (let padRise = -50; padRise <= 50; padRise += 5)
      for (let padAhead = -40; padAhead <= 40; padAhead += 5)
        out.push({ moves: { padRise, padAhead }, extra: 0 });
    return out;
  }
  const length = bike.stem.lengthMm ?? 90;
  const angle = bike.stem.angleDeg ?? -6;
  const flipped = bike.stem.flipped;
  const spacersNow = bike.stem.spacersMm ?? 15;
  const stems = new Map<string, { length: number; angle: number; extra: number }>();
  const add = (l: number, a: number, extra: number): void => {
    const key = `${l}/${a}`;
    const kept = stems.get(key);
    if (!kept || kept.extra > extra) stems.set(key, { length: l, angle: a, extra });
  };
  add(length, angle, 0);
  for (const p of c.parts)
    if (p.kind === 'stem' && p.count > 0 && p.lengthMm !== null) add(p.lengthMm, p.angleDeg ?? angle, 0);
  // To order: the usual lengths of the angle that is on the bike.
  for (let l = 50; l <= 130; l += 10) add(l, angle, 0.8);
  const out: Front[] = [];
  const most = Math.max(spacersNow, Math.min(spacersNow + 20, 40));
  for (const s of stems.values())
    for (const flip of [false, true])
      for (let spacers = spacersNow % 5; spacers <= most; spacers += 5)
        for (const barReach of [
          0,
          -10,
          10,
          ...(c.parts.some((p) => p.kind === 'bar' && p.reachMm !== null) ? [-20] : []),
        ]) {
          const moves = tidy({
            stemLength: s.length - length,
            // A stem from the bin has its own angle as printed; the flip is told beside it.
            stemAngle: s.angle - angle,
            stemFlip: Number(flip) - Number(flipped),
            spacers: spacers - spacersNow,
            barReach,
          });
          // A bar of another reach is a part that the bin may not have.
          if (barReach !== 0 && (bike.bar.reachMm === null || bike.bar.reachMm < 60)) continue;
          const swap = moves.stemLength !== undefined || moves.stemAngle !== undefined;
          out.push({
            moves,
            extra: swap ? s.extra : 0,
          });
        }
  return out;
}

/** The cockpit, after feet and saddle: the whole bench of fronts is tried, and the cheapest that serves is taken. */
export function settleCockpit(c: SolveCase, given: Moves): Settled {
  const sides = judgedSides(c, TOP_KEYS);
  const best = new Best();
  const fixed = pick(c.locked, COCKPIT_KEYS);
  const locked = Object.entries(fixed) as [ControlKey, number][];
  const base = misses(c, sides, effectsOf(c.bike, both(given, fixed)));
  best.offer({}, base);
  if (base < PER_TOUCH || sides.length === 0) return best.settled();
  for (const { moves, extra } of fronts(c)) {
    // What is settled stays as it was settled, the rest goes round it.
    if (locked.some(([key, by]) => (moves[key] ?? 0) !== 0 && moves[key] !== by)) continue;
    const all = both(given, { ...moves, ...fixed });
    const price = priceOfFront(moves) + extra;
    // Where the price alone, or with what trunk and arm cost, is too much, the legs need not be asked.
    const most = Math.min(base, best.least + CLOSE);
    if (price >= most || cannot(c.bike, all)) continue;
    const fx = effectsOf(c.bike, all);
    if (topMisses(c, sides[0], fx) + price >= most) continue;
    const loss = misses(c, sides, fx) + price;
    if (loss < Infinity) best.offer(without(moves, fixed), loss);
  }
  return best.settled();
}

const without = (moves: Moves, these: Moves): Moves =>
  Object.fromEntries(Object.entries(moves).filter(([key]) => !(key in these)));

const COCKPIT_KEYS = (Object.keys(CONTROLS) as ControlKey[]).filter((k) => CONTROLS[k].stage === 'cockpit');

/** Length, angle and flip belong to one stem: taking it off is paid once. */
function priceOfFront(moves: Moves): number {
  const { stemLength, stemAngle, stemFlip, ...rest } = moves;
  const swapped = stemLength !== undefined || stemAngle !== undefined;
  return (
    priceOf(rest) +
    (swapped
      ? PER_TOUCH * CONTROLS.stemLength.price + PER_UNIT * Math.abs(stemLength ?? 0)
      : stemFlip
        ? PER_TOUCH * CONTROLS.stemFlip.price
        : 0)
  );
}

/** What each leg alone would want of the saddle's height, mm; for saying a conflict instead of averaging it. */
export function heightPerLeg(c: SolveCase, given: Moves): { side: 'left' | 'right'; upMm: number }[] {
  return c.sides.map((side) => {
    const alone = settleHeight({ ...c, sides: [side] }, given);
    return { side: side.model.side, upMm: alone };
  });
}

function settleHeight(c: SolveCase, given: Moves): number {
  const sides = judgedSides(c, ['kneeFlexionMinDeg']);
  let [at, least] = [0, Infinity];
  for (let up = -40; up <= 40; up += 1) {
    const loss =
      misses(c, sides, legsOnly(effectsOf(c.bike, both(given, { saddleUp: up })))) + PER_UNIT * Math.abs(up);
    if (loss < least) [at, least] = [up, loss];
  }
  return at;
}

/** A wanted place of the hood, and how near each front of the bin comes. */
export interface FrontOffer {
  moves: Moves;
  /** By how much it moves the hands. */
  handMm: { x: number; y: number };
  missMm: number;
  /** Of parts that have to be bought, in the studio's money; null where one has no price. */
  price: number | null;
  inBin: boolean;
  words: string;
}

/**
 * The inverse of the cockpit: stems × spacers × flips × bars by how near they bring the hands to a wanted displacement, cheapest of
 * equals first (handbook: models, frame and cockpit).
 */
export function frontsFor(
  c: Pick<SolveCase, 'bike' | 'parts'>,
  wantedMm: { x: number; y: number },
  count = 8,
): FrontOffer[] {
  const now = { length: c.bike.stem.lengthMm ?? 90, angle: c.bike.stem.angleDeg ?? -6 };
  return fronts(c)
    .filter(({ moves }) => !cannot(c.bike, moves))
    .map(({ moves }): FrontOffer => {
      const { handMm } = effectsOf(c.bike, moves);
      const swapped = moves.stemLength !== undefined || moves.stemAngle !== undefined;
      const length = now.length + (moves.stemLength ?? 0);
      const angle = now.angle + (moves.stemAngle ?? 0);
      const stem = c.parts.find(
        (p) =>
          p.kind === 'stem' && p.lengthMm === length && (p.angleDeg ?? now.angle) === angle && p.count > 0,
      );
      const inBin = (!swapped || stem !== undefined) && !moves.barReach;
      const flipped = Number(c.bike.stem.flipped) + (moves.stemFlip ?? 0) > 0.5;
      return {
        moves,
        handMm,
        missMm: Math.hypot(handMm.x - wantedMm.x, handMm.y - wantedMm.y),
        price: !swapped && !moves.barReach ? 0 : inBin ? (stem?.price ?? null) : null,
        inBin,
        words: c.bike.extensions
          ? `pads ${signed(moves.padRise ?? 0)} mm up, ${signed(moves.padAhead ?? 0)} mm ahead`
          : [
              swapped
                ? `stem ${length} mm ${String(angle).replace('-', '−')}°${stem ? ` (${stem.name})` : ', to order'}`
                : 'stem as it is',
              flipped ? 'turned over' : null,
              `${(standsAt(c.bike, 'spacers') ?? 15) + (moves.spacers ?? 0)} mm of spacers`,
              moves.barReach ? `bar of ${signed(moves.barReach)} mm reach` : null,
            ]
              .filter(Boolean)
              .join(', '),
      };
    })
    .sort(
      (a, b) => Math.round(a.missMm) - Math.round(b.missMm) || priceOfFront(a.moves) - priceOfFront(b.moves),
    )
    .slice(0, count);
}

const signed = (v: number): string => (v > 0 ? `+${v}` : v < 0 ? `−${-v}` : '0');
