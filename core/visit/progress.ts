import type { BikeSetup } from '../bike/setup.ts';
import { applyMoves, movedBy, standsAt, tidy, type Moves } from '../plan/controls/controls.ts';
import { CONTROLS, type ControlKey } from '../plan/controls/controlTable.ts';
import { valueAt } from '../bike/path.ts';
import { differences } from './setups.ts';
import type { Change, ChangedValue } from '../plan/terms/change.ts';
import type { KeptLine } from '../plan/controls/keptPlan.ts';

/** How far a line of the plan is on the bike. */
export interface LineProgress {
  line: KeptLine;
  done: Moves;
  left: Moves;
  /** The next step: one of each control that is not yet where the line wants it. */
  next: Moves;
  /** Left of what this visit allows before filming again; empty where the rest waits for the film. */
  leftToday: Moves;
  /** Controls that were not measured on this bike, so that no step of them can be kept. */
  unmeasured: ControlKey[];
  state: 'open' | 'begun' | 'today' | 'done';
}

/** Less than this is where the hand stops turning: a step is done. */
const NEAR = 0.15;

const keysOf = (moves: Moves): ControlKey[] => Object.keys(moves) as ControlKey[];

/** At most one step of a control, towards what is left. */
const stepOf = (key: ControlKey, left: number, half: boolean): number => {
  const { step } = CONTROLS[key];
  // Only what is turned or slid comes in halves: parts, washers and stems are whole.
  const own = half && /^(saddleUp|saddleBack|cleat|heelOut|barRotation)/.test(key) ? step / 2 : step;
  const whole = /^(stem|crank|barReach|barWidth|pedal|washers|saddleWidth|shim|wedge)/.test(key);
  return Math.sign(left) * (whole ? Math.abs(left) : Math.min(own, Math.abs(left)));
};

/**
 * What of each line is on the bike: the bike as it stands less the bike that was filmed. Where two lines move one control, the
 * earlier takes its part first.
 * @param filmed the bike that the plan was made from
 * @param half steps half as large, for the new, the old and the returning
 */
export function progressOf(
  lines: readonly KeptLine[],
  filmed: BikeSetup,
  now: BikeSetup,
  half = false,
): LineProgress[] {
  const moved = new Map<ControlKey, number>();
  const leftOf = (key: ControlKey): number => moved.get(key) ?? movedBy(filmed, now, key) ?? 0;
  return lines.map((line) => {
    const done: Moves = {};
    const left: Moves = {};
    const next: Moves = {};
    const leftToday: Moves = {};
    for (const key of keysOf(line.moves)) {
      const wanted = line.moves[key]!;
      const by = leftOf(key);
      // The part of what was moved that goes this line's way, and no further than it wants.
      const part = Math.sign(wanted) * Math.min(Math.abs(wanted), Math.max(0, by * Math.sign(wanted)));
      moved.set(key, by - part);
      done[key] = part;
      const rest = wanted - part;
      if (Math.abs(rest) < NEAR) continue;
      left[key] = rest;
      next[key] = stepOf(key, rest, half);
      const today = (line.today[key] ?? 0) - part;
      if (today * Math.sign(wanted) > NEAR) {
        leftToday[key] = today;
        if (Math.abs(next[key]!) > Math.abs(today)) next[key] = today;
      }
    }
    const open = keysOf(left);
    return {
      line,
      done: tidy(done),
      left,
      next,
      leftToday,
      unmeasured: keysOf(line.moves).filter((key) => standsAt(now, key) === null),
      state:
        open.length === 0
          ? 'done'
          : keysOf(leftToday).length === 0
            ? 'today'
            : keysOf(tidy(done)).length > 0
              ? 'begun'
              : 'open',
    };
  });
}

/** Lines whose last step in a round was called worse: the same step is not offered again. */
export function souredLines(changes: readonly Change[], round: number): ReadonlySet<string> {
  const last = new Map<string, Change>();
  for (const c of changes) if (c.round === round && c.lineKey !== null) last.set(c.lineKey, c);
  return new Set([...last].filter(([, c]) => c.word === 'worse').map(([key]) => key));
}

/** The line whose turn it is: the first that is not done as far as this visit allows, and did not make it worse. */
export const nextLine = (
  progress: readonly LineProgress[],
  soured: ReadonlySet<string> = new Set(),
): LineProgress | null =>
  progress.find(
    (p) =>
      !soured.has(p.line.key) &&
      (p.state === 'open' || p.state === 'begun') &&
      p.unmeasured.length < keysOf(p.line.moves).length,
  ) ?? null;

/**
 * The values that moves make of a bike as it stands, with those that move along (the other ways of measuring a height, the post
 * showing). What was not measured can't be kept and is left out.
 */
export const valuesOf = (now: BikeSetup, moves: Moves): { at: string; value: ChangedValue['to'] }[] =>
  differences(now, applyMoves(now, moves)).map(({ at, to }) => ({ at, value: to }));

/** A place of the set-up on its way: as found, as it stands, as the plan wants it in the end. */
export interface Standing {
  at: string;
  asFound: ChangedValue['to'];
  now: ChangedValue['to'];
  planned: ChangedValue['to'];
}

/** Every place that was moved or is to be moved, in working order. */
export function standings(asFound: BikeSetup, now: BikeSetup, progress: readonly LineProgress[]): Standing[] {
  let planned = now;
  for (const p of progress) planned = applyMoves(planned, p.left);
  const plain = (v: unknown): ChangedValue['to'] =>
    typeof v === 'number' || typeof v === 'string' || typeof v === 'boolean' ? v : null;
  const places = new Set([
    ...progress.flatMap((p) => keysOf(p.line.moves).map((key) => CONTROLS[key].at)),
    ...differences(asFound, now).map((v) => v.at),
  ]);
  const order = (at: string): number => {
    const k = Object.values(CONTROLS).findIndex((c) => c.at === at);
    return k < 0 ? Infinity : k;
  };
  return [...places]
    .sort((a, b) => order(a) - order(b))
    .map((at) => ({
      at,
      asFound: plain(valueAt(asFound, at)),
      now: plain(valueAt(now, at)),
      planned: plain(valueAt(planned, at)),
    }));
}

/** What moved between two set-ups, by control. */
export function movesBetween(from: BikeSetup, to: BikeSetup): Moves {
  const out: Moves = {};
  for (const key of Object.keys(CONTROLS) as ControlKey[]) {
    const by = movedBy(from, to, key);
    if (by !== null) out[key] = by;
  }
  return tidy(out);
}
