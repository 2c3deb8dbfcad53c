import { both, cannot, tidy, type Moves } from './controls/controls.ts';
import { CONTROLS, type ControlKey } from './controls/controlTable.ts';
import type { Draft } from './lines/draft.ts';
import { type Forecaster, harmless, withBuild } from './harm.ts';
import { noFurther, restOf, shareOf } from './controls/limits.ts';
import type { PlanCase, PlanLine, When } from './terms/plan.ts';
import { standsAt, inOrderOfWorth, waits } from './order.ts';
import { type LineWriter } from './planLine.ts';

/** Most lines in one round: those under now, and those to try and ask (handbook: targets). */
const MOST_LINES = 3;

/** No more than the parts on the bike give. */
const capped = (moves: Moves, cap: Moves = {}): Moves =>
  tidy(noFurther(moves, (key) => cap[key] ?? Infinity));

/** Where the drafts ended up, and all that the lines move together. */
export interface Placed {
  lines: PlanLine[];
  later: PlanLine[];
  rejected: PlanLine[];
  total: Moves;
}

interface Placing {
  lineOf: LineWriter;
  forecast: Forecaster;
  half: boolean;
  /** Whether a saddle may have to stay low: it goes up by a small step at most, with the rider's consent. */
  saddleMayStay: boolean;
  holds: (d: Draft) => boolean;
}

/** Gives each draft its place: a line of this round, one for later, one that was rejected. */
export function placeLines(c: PlanCase, drafts: readonly Draft[], how: Placing): Placed {
  const { lineOf, forecast, half, saddleMayStay } = how;
  const decided = new Map(c.decisions.map((d) => [d.key, d]));
  const lines: PlanLine[] = [];
  const later: PlanLine[] = [];
  const rejected: PlanLine[] = [];
  const taken: Draft[] = [];
  let so: Moves = {};
  const queue = inOrderOfWorth(c, drafts);
  const deferred = new Set<Draft>();
  for (let d = queue.shift(); d; d = queue.shift()) {
    const when = standsAt(d);
    const decision = decided.get(d.key);
    if (when === null && !decision) continue;
    if (how.holds(d)) continue;
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
    const careful = saddleMayStay && d.key === 'saddleUp' && (d.whole.saddleUp ?? 0) > 0;
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
  return keptAsDecided(c, { lines, later, rejected, total: so }, lineOf);
}

/** What the fitter took stays a line, though nothing asks for it any more. */
function keptAsDecided(c: PlanCase, placed: Placed, lineOf: LineWriter): Placed {
  const lines = [...placed.lines];
  let so = placed.total;
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
  return { ...placed, lines, total: so };
}
