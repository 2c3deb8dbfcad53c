import { UNMEASURED_PART, type Part } from '../bike/parts.ts';
import { UNMEASURED_BIKE, type BikeSetup } from '../bike/setup.ts';
import { NOT_TESTED, UNTESTED_BODY } from '../body/bodyTests.ts';
import type { FrontalReading } from '../kinematics/frontalReading.ts';
import { BLANK_INTAKE, DISCIPLINES, NEW_COMPLAINT } from '../intake/intake.ts';
import { pooled, type MeasureReading } from '../protocol/measures.ts';
import { protocolById, PROTOCOLS } from '../protocol/protocols.ts';
import { bodySchema, bikeSchema, intakeSchema } from '../records/stationSchemas.ts';
import { NO_PLANNING, planningSchema } from '../plan/terms/planning.ts';
import { partSchema, protocolSchema } from '../records/schemas.ts';
import { NO_STATICS } from '../body/statics.ts';
import { staticsSchema } from '../body/staticsSchema.ts';
import type { Reading } from '../kinematics/read.ts';
import { adviceFor, cautionsFor } from '../plan/cautions.ts';
import { filmedTake, measuresOf, visitCase, type PlannedVisit } from '../visit/visitCase.ts';
import type { PlanCase, PlanLine } from '../plan/terms/plan.ts';
import { prescribe } from '../plan/prescribe.ts';

/** A film of a case file: which way it was shot, its tracks, and the scale in the bike's plane. */
export interface CaseFilm {
  view: 'right' | 'left' | 'front' | 'rear';
  tracks: string;
  mmPerPx: number;
  /** Tracks of the film that this one repeats, off the bike and on again. */
  baselineOf: string | null;
  levelDeg?: number;
}

/** A case as it is written in a file: the visit, its films’ tracks and the parts there are. */
export interface WrittenCase {
  visit: PlannedVisit;
  films: CaseFilm[];
  /** Null where nothing is known of the drawers. */
  parts: Part[] | null;
}

type Parsed<T> = { ok: true; value: T } | { ok: false; message: string };
export type ParsedCase = Parsed<WrittenCase>;

type Loose = Record<string, unknown>;
const isObject = (v: unknown): v is Loose => typeof v === 'object' && v !== null && !Array.isArray(v);

/** What is given, merged over what is there when nothing is known; lists and plain values replace. */
function over<T>(blank: T, given: unknown): T {
  if (!isObject(given)) return given === undefined ? blank : (given as T);
  if (!isObject(blank)) return given as T;
  const out: Loose = { ...blank };
  for (const [key, v] of Object.entries(given)) out[key] = key in blank ? over((blank as Loose)[key], v) : v;
  return out as T;
}

const BLANK_COMPLAINT = { ...NEW_COMPLAINT, side: 'middle' };

/** Complaints, flags and tests as they may be written short. */
function filledIn(visit: Loose): Loose {
  const intake: Loose = isObject(visit.intake) ? visit.intake : {};
  const complaints = Array.isArray(intake.complaints)
    ? intake.complaints.map((c: unknown, i) =>
        isObject(c) ? { ...BLANK_COMPLAINT, id: `c${i + 1}`, ...c } : c,
      )
    : undefined;
  const flags = Array.isArray(intake.redFlags)
    ? intake.redFlags.map((f: unknown) =>
        typeof f === 'string'
          ? { key: f, acknowledgedIso: null }
          : isObject(f)
            ? { acknowledgedIso: null, ...f }
            : f,
      )
    : undefined;
  const body: Loose = isObject(visit.body) ? visit.body : {};
  const results = isObject(body.results)
    ? Object.fromEntries(
        Object.entries(body.results).map(([key, r]) => [key, isObject(r) ? { ...NOT_TESTED, ...r } : r]),
      )
    : {};
  const asFound: Loose = isObject(visit.asFound) ? visit.asFound : {};
  const extensions = isObject(asFound.extensions)
    ? { padRiseMm: null, padAheadMm: null, padSpacingMm: null, lengthMm: null, ...asFound.extensions }
    : null;
  const planning: Loose = isObject(visit.planning) ? visit.planning : {};
  const decisions = Array.isArray(planning.decisions)
    ? planning.decisions.map((d: unknown) => (isObject(d) ? { reason: '', p: null, ...d } : d))
    : undefined;
  return {
    ...visit,
    intake: { ...intake, ...(complaints && { complaints }), ...(flags && { redFlags: flags }) },
    body: { ...body, results },
    asFound: { ...asFound, extensions },
    planning: { ...planning, ...(decisions && { decisions }) },
  };
}

const VIEWS = ['right', 'left', 'front', 'rear'];

/** What is wrong with a film of a case; null for nothing. */
function filmTrouble(f: Loose): string | null {
  const { view, tracks, mmPerPx, levelDeg, baselineOf } = f;
  if (!VIEWS.includes(view as string)) return `view: one of ${VIEWS.join(', ')}.`;
  if (typeof tracks !== 'string' || tracks === '') return 'tracks: the path of a table is wanted.';
  if (typeof mmPerPx !== 'number' || !(mmPerPx > 0.01 && mmPerPx < 100))
    return 'mmPerPx: millimetres a pixel, from 0.01 to 100.';
  const hasLevel = levelDeg !== undefined && levelDeg !== null;
  if (hasLevel && !(typeof levelDeg === 'number' && Math.abs(levelDeg) <= 45))
    return 'levelDeg: degrees, from −45 to 45.';
  if (baselineOf !== undefined && baselineOf !== null && typeof baselineOf !== 'string')
    return 'baselineOf: the tracks of another film, or null.';
  return null;
}

function filmsIn(raw: unknown): Parsed<CaseFilm[]> {
  if (raw === undefined) return { ok: true, value: [] };
  if (!Array.isArray(raw)) return { ok: false, message: 'films: not a list.' };
  const films: CaseFilm[] = [];
  for (const [i, f] of (raw as unknown[]).entries()) {
    if (!isObject(f)) return { ok: false, message: `films[${i}]: not an object.` };
    const trouble = filmTrouble(f);
    if (trouble) return { ok: false, message: `films[${i}].${trouble}` };
    films.push({
      view: f.view as CaseFilm['view'],
      tracks: f.tracks as string,
      mmPerPx: f.mmPerPx as number,
      baselineOf: (f.baselineOf as string | null | undefined) ?? null,
      ...(typeof f.levelDeg === 'number' && { levelDeg: f.levelDeg }),
    });
  }
  return { ok: true, value: films };
}

function partsIn(raw: unknown): Parsed<Part[] | null> {
  if (raw === undefined || raw === null) return { ok: true, value: null };
  if (!Array.isArray(raw)) return { ok: false, message: 'parts: not a list.' };
  const parts = raw.map((p: unknown, i) => ({
    ...UNMEASURED_PART,
    id: `p${i + 1}`,
    name: `part ${i + 1}`,
    ...(isObject(p) ? p : {}),
  })) as Part[];
  for (const [i, p] of parts.entries()) {
    const { error } = partSchema.validate(p, { convert: false });
    if (error) return { ok: false, message: `parts[${i}]: ${error.message}` };
  }
  return { ok: true, value: parts };
}

/**
 * A case file for the command line: a visit with whatever is known of it, its films, the parts in the drawers. What is missing is
 * unknown; what is wrong is stated in one sentence.
 */
export function parseCase(raw: unknown): ParsedCase {
  const fail = (message: string): ParsedCase => ({ ok: false, message });
  if (!isObject(raw)) return fail('The case is not a JSON object.');
  if (raw.visit !== undefined && !isObject(raw.visit)) return fail('visit: not an object.');
  const given = filledIn((raw.visit as Loose | undefined) ?? {});
  const intake = over(BLANK_INTAKE, given.intake);
  const discipline = DISCIPLINES.find((d) => d.key === intake.discipline);
  const protocolId = given.protocolId ?? discipline?.protocolId ?? 'long-distance';
  if (typeof protocolId !== 'string' || !PROTOCOLS.some((p) => p.id === protocolId))
    if (!isObject(given.protocol))
      return fail(
        `visit.protocolId: “${String(protocolId)}” is none of ${PROTOCOLS.map((p) => p.id).join(', ')}.`,
      );
  const visit: PlannedVisit = {
    protocolId: protocolId as string,
    protocol: isObject(given.protocol) ? over(protocolById(protocolId as string), given.protocol) : null,
    intake,
    body: over(UNTESTED_BODY, given.body),
    asFound: over<BikeSetup>(UNMEASURED_BIKE, given.asFound),
    statics: over(NO_STATICS, given.statics),
    planning: over(NO_PLANNING, given.planning),
    changes: [],
  };
  for (const [at, schema, value] of [
    ['intake', intakeSchema, visit.intake],
    ['body', bodySchema, visit.body],
    ['asFound', bikeSchema, visit.asFound],
    ['statics', staticsSchema, visit.statics],
    ['planning', planningSchema, visit.planning],
    ['protocol', protocolSchema.allow(null), visit.protocol],
  ] as const) {
    const { error } = schema.validate(value, { convert: false });
    if (error) return fail(`visit.${[at, ...error.details[0].path].join('.')}: ${error.message}`);
  }
  const films = filmsIn(raw.films);
  if (!films.ok) return fail(films.message);
  const parts = partsIn(raw.parts);
  if (!parts.ok) return fail(parts.message);
  return { ok: true, value: { visit, films: films.value, parts: parts.value } };
}

/** A side film of a case as it was read, each take of one side beside the other. */
export interface CaseReadings {
  right: Reading[];
  left: Reading[];
  frontal: FrontalReading | null;
}

const round = (v: number, digits = 2): number => Number(v.toFixed(digits));

const lineOut = (l: PlanLine) => ({
  key: l.key,
  p: l.p,
  moves: l.when === 'later' ? l.whole : l.moves,
  from: null as string | null,
  to: null as string | null,
  title: l.title,
  probability: l.probability,
  why: l.why,
  madeOf: l.madeOf,
  predicted: l.predicted.map((f) => ({
    key: f.key,
    before: round(f.before),
    after: round(f.after),
    low: round(f.low),
    high: round(f.high),
  })),
  knockOn: l.knockOn,
  steps: l.steps,
  check: l.check,
  risk: l.risk,
  instead: l.instead,
});

const measureOut = (m: MeasureReading, side: string) => ({
  key: m.key,
  side,
  value: round(m.value),
  uncertainty: round(m.uncertainty),
  band: m.band,
  verdict: m.verdict,
  pOut: round(Math.max(m.pOut.low, m.pOut.high), 3),
});

const suspectsOut = (suspects: PlanCase['suspects']) =>
  suspects.map((of) => ({
    complaint: of.complaint.region,
    side: of.complaint.side,
    list: of.suspects.map((s) => ({
      key: s.key,
      name: s.what,
      score: s.score,
      for: s.for,
      against: s.against,
      unknown: s.unknown,
    })),
  }));

/**
 * The whole answer to a case: measures, suspects and the plan's parts, as one object of plain data (docs/schema).
 * @param fromTo the words of a line's moves on this bike: from where to where
 */
export function planReport(
  c: WrittenCase,
  readings: CaseReadings,
  fromTo: (bike: BikeSetup, moves: PlanLine['moves']) => { from: string | null; to: string | null },
): object {
  const { visit, parts } = c;
  const take = (view: 'drive' | 'nonDrive') => ({ view, setup: null, effortW: null });
  const [right, left] = [readings.right[0] ?? null, readings.left[0] ?? null];
  const near = right
    ? filmedTake(visit, take('drive'), right)
    : left
      ? filmedTake(visit, take('nonDrive'), left)
      : null;
  const far = right && left ? filmedTake(visit, take('nonDrive'), left) : null;
  const made = visitCase({ session: visit, near, far, frontal: readings.frontal, parts });
  // Takes of one side and one set-up count together.
  const again = (side: 'left' | 'right'): MeasureReading[][] =>
    readings[side].map((r) =>
      measuresOf(visit, r, side, side === (right ? 'right' : 'left') ? readings.frontal : null),
    );
  const pooledSides = made.case.sides.map((s) => ({ ...s, measures: pooled(again(s.model.side)) }));
  const planned = {
    ...made.case,
    sides: pooledSides,
    measures: pooledSides[0]?.measures ?? made.measures,
  };
  const plan = prescribe(planned);
  const line = (l: PlanLine) => ({
    ...lineOut(l),
    ...fromTo(planned.bike, l.when === 'later' ? l.whole : l.moves),
  });
  return {
    measures: [
      ...pooledSides.flatMap((s) =>
        s.measures.map((m) => measureOut(m, m.key === 'kneePathWidthMm' ? 'both' : s.model.side)),
      ),
      ...(pooledSides.length === 0 ? made.measures.map((m) => measureOut(m, 'both')) : []),
    ],
    suspects: suspectsOut(planned.suspects),
    now: plan.now.map(line),
    later: plan.later.map(line),
    try: plan.try.map(line),
    rejected: plan.rejected.map((l) => ({
      key: l.key,
      reason: l.decision?.reason ?? '',
      changed: l.changed,
    })),
    ask: plan.ask.map((a) => ({ key: a.key, question: a.question, because: a.because })),
    conflicts: plan.conflicts,
    heldBack: plan.heldBack,
    cautions: [...cautionsFor(planned, plan).map((q) => q.words), ...plan.noted, ...adviceFor(planned)],
    seenThrough: plan.seenThrough,
    leaveAlone: plan.leaveAlone,
  };
}
