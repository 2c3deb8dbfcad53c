import type { BikeSetup } from '../bike/setup.ts';
import { putValue, valueAt } from '../bike/path.ts';
import type { FitSession } from '../records/types.ts';
import { NOT_RIDDEN } from '../kinematics/ridden.ts';
import type { Change, ChangedValue } from '../plan/terms/change.ts';

/** The round that the visit is in: 1 until a changed bike is filmed again. */
export const roundNow = (s: Pick<FitSession, 'takes'>): number => Math.max(1, ...s.takes.map((t) => t.round));

/** The bike as it stands: as found until something was moved. */
export const setupNow = (s: Pick<FitSession, 'asFound' | 'current'>): BikeSetup => s.current ?? s.asFound;

/** How the bike left the studio, or stands, or came in: what the next visit starts from. */
export const lastSetup = (s: Pick<FitSession, 'asFound' | 'current' | 'final'>): BikeSetup =>
  s.final ?? setupNow(s);

type Plain = ChangedValue['to'];

const isPlain = (v: unknown): v is Plain =>
  v === null || typeof v === 'number' || typeof v === 'string' || typeof v === 'boolean';

const isTree = (v: unknown): v is Record<string, unknown> => typeof v === 'object' && v !== null;

/** Every plain value in which two set-ups differ, by its place. Extensions put on or taken off count as their values. */
export function differences(from: BikeSetup, to: BikeSetup): ChangedValue[] {
  const out: ChangedValue[] = [];
  const walk = (a: unknown, b: unknown, at: string): void => {
    if (Object.is(a, b)) return;
    if (isTree(a) || isTree(b)) {
      const keys = new Set([...Object.keys(isTree(a) ? a : {}), ...Object.keys(isTree(b) ? b : {})]);
      for (const key of keys)
        walk(
          isTree(a) ? (a[key] ?? null) : null,
          isTree(b) ? (b[key] ?? null) : null,
          at ? `${at}.${key}` : key,
        );
      return;
    }
    if (isPlain(a) && isPlain(b)) out.push({ at, from: a, to: b });
  };
  walk(from, to, '');
  return out;
}

/**
 * Moves values of the bike as it stands, and logs it as one change. Moving the same value again before the rider has said a word
 * on it goes on with that change; back to where it began, there is none.
 * @returns null where a place does not exist in the set-up, or nothing moves
 */
export function moved(
  session: FitSession,
  given: {
    id: string;
    madeIso: string;
    values: readonly { at: string; value: unknown }[];
    lineKey?: string | null;
  },
): FitSession | null {
  const before = setupNow(session);
  let now: BikeSetup | null = before;
  const values: ChangedValue[] = [];
  for (const { at, value } of given.values) {
    const from = valueAt(before, at);
    if (from === undefined) return null;
    now = now && putValue(now, at, value);
    // A part put on or taken off (extensions) is logged by its name.
    values.push({ at, from: isPlain(from) ? from : true, to: isPlain(value) ? value : true });
  }
  if (!now || values.every((v) => v.from === v.to)) return null;
  const last = session.changes.at(-1);
  const goesOn =
    last &&
    last.word === null &&
    last.putBackIso === null &&
    // Every step of a line is ridden by itself.
    last.lineKey === null &&
    (given.lineKey ?? null) === null &&
    last.round === roundNow(session) &&
    last.values.length === values.length &&
    last.values.every((v, k) => v.at === values[k].at);
  const change: Change = goesOn
    ? { ...last, madeIso: given.madeIso, values: last.values.map((v, k) => ({ ...v, to: values[k].to })) }
    : newChange(session, given, values);
  const earlier = goesOn ? session.changes.slice(0, -1) : session.changes;
  const nothing = change.values.every((v) => v.from === v.to);
  return { ...session, current: now, changes: nothing ? earlier : [...earlier, change] };
}

const newChange = (
  session: FitSession,
  { id, madeIso, lineKey = null }: { id: string; madeIso: string; lineKey?: string | null },
  values: ChangedValue[],
): Change => ({
  id,
  madeIso,
  round: roundNow(session),
  lineKey,
  values,
  word: null,
  felt: [],
  note: '',
  tests: {},
  ridden: NOT_RIDDEN,
  putBackIso: null,
  measured: null,
});

/**
 * Puts everything back as it was found, logged as one change.
 * @returns null where nothing differs
 */
export function allBack(session: FitSession, given: { id: string; madeIso: string }): FitSession | null {
  const values = differences(setupNow(session), session.asFound);
  if (values.length === 0) return null;
  return {
    ...session,
    current: session.asFound,
    changes: [...session.changes, newChange(session, given, values)],
  };
}

/**
 * Puts a change back: its values stand again as before it, whatever came later on them.
 * @returns null where there is no such change, or it was put back already
 */
export function putBack(session: FitSession, id: string, nowIso: string): FitSession | null {
  const change = session.changes.find((c) => c.id === id);
  if (!change || change.putBackIso !== null) return null;
  let now: BikeSetup | null = setupNow(session);
  for (const v of change.values) now = now && putValue(now, v.at, v.from);
  return (
    now && {
      ...session,
      current: now,
      changes: session.changes.map((c) => (c.id === id ? { ...c, putBackIso: nowIso } : c)),
    }
  );
}
