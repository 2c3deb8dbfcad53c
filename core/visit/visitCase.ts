import type { Part } from '../bike/parts.ts';
import { resolveBike } from '../bike/resolve.ts';
import { single } from '../body/bodyTests.ts';
import type { FrontalReading } from '../kinematics/frontalReading.ts';
import { fitBody, USUAL_HABITS, type BodyModel, type Habits } from '../model/bodyModel.ts';
import type { LegSide } from '../model/effects.ts';
import { adjustBands } from '../protocol/adjust.ts';
import { legsCompared, sidesCompared } from '../protocol/asymmetry.ts';
import type { Convention } from '../protocol/convention.ts';
import { judgeReading, type MeasureReading } from '../protocol/measures.ts';
import type { Protocol } from '../protocol/protocols.ts';
import { bySchool } from '../plan/terms/bySchool.ts';
import { protocolUsed } from '../protocol/shelf.ts';
import type { FitSession, Take } from '../records/types.ts';
import type { Change } from '../plan/terms/change.ts';
import { balanceOf, type Balance } from '../kinematics/balance.ts';
import type { Reading } from '../kinematics/read.ts';
import type { FitCase, SuspectCase } from '../suspects/evidence.ts';
import { rankSuspects } from '../suspects/suspects.ts';
import { setupOf } from './rounds.ts';
import { faultsOf } from '../plan/lines/faultsOf.ts';
import type { FilmedSide, PlanCase, RiddenStep } from '../plan/terms/plan.ts';

/** The session's protocol with its bands as they hold for this rider. */
export function protocolOf(
  session: Pick<FitSession, 'protocolId' | 'protocol' | 'body' | 'intake'>,
): Protocol & { movedBy: string[]; kneeMovedDeg: number; halfSteps: boolean } {
  const protocol = protocolUsed(session);
  const { bands, adjustments, halfSteps } = adjustBands(protocol, session.body, session.intake);
  return {
    ...protocol,
    bands,
    halfSteps,
    // Of the knee at its straightest: what the goniometer's band moves by as well.
    kneeMovedDeg: (bands.kneeFlexionMinDeg.low ?? 0) - (protocol.bands.kneeFlexionMinDeg.low ?? 0),
    movedBy: adjustments.filter((a) => a.on && a.shifts.length > 0).map((a) => a.finding),
  };
}

/** A take from the side shows the leg on that side. */
export const legOf = (take: Pick<Take, 'view'> | null): LegSide =>
  take?.view === 'nonDrive' ? 'left' : 'right';

/** A visit as far as a plan needs it. */
export type PlannedVisit = Pick<
  FitSession,
  'protocolId' | 'protocol' | 'intake' | 'body' | 'asFound' | 'statics' | 'planning' | 'changes'
>;

/** The measures of a side's reading as the visit judges them: its bands, its schools, its goniometer. */
export function measuresOf(
  session: PlannedVisit,
  reading: Reading | null,
  side: LegSide,
  frontal: FrontalReading | null = null,
): MeasureReading[] {
  const protocol = protocolOf(session);
  const measures = judgeReading(reading, protocol, frontal);
  return bySchool(measures, {
    schools: session.planning.schools,
    statics: session.statics,
    side,
    movedDeg: protocol.kneeMovedDeg,
  });
}

/** A filmed side: the take, what it was read as, and the rider's model from it. */
export interface FilmedTake {
  take: Pick<Take, 'view' | 'setup' | 'effortW'> | null;
  reading: Reading;
  model: BodyModel;
}

export const filmedTake = (
  session: Pick<FitSession, 'asFound'>,
  take: FilmedTake['take'],
  reading: Reading,
): FilmedTake => ({
  take,
  reading,
  model: fitBody(reading, legOf(take), setupOf(session, take).frame.seatAngleDeg),
});

/** The share of the weight on the hands in a take, by the one figure that every page quotes. */
export const handsOf = (
  session: Pick<FitSession, 'body'>,
  take: Pick<Take, 'effortW'> | null,
  reading: Reading,
): Balance | null =>
  balanceOf(reading, { powerW: take?.effortW ?? null, massKg: single(session.body, 'mass') });

/** Which setting a logged change moved, and which way; null where it is none of those that are believed in millimetres. */
function settingOf({ values }: Change): Pick<RiddenStep, 'setting' | 'way'> | null {
  const by = (at: string): number => {
    const v = values.find((q) => q.at === at);
    return typeof v?.from === 'number' && typeof v.to === 'number' ? v.to - v.from : 0;
  };
  const step = (setting: RiddenStep['setting'], mm: number): Pick<RiddenStep, 'setting' | 'way'> | null =>
    mm === 0 ? null : { setting, way: mm > 0 ? 1 : -1 };
  const height = by('saddle.heightMm');
  // A height carries the setback with it: only what moved beside it was a move on the rails.
  return height !== 0
    ? step('height', height)
    : (step('setback', by('saddle.setback80Mm') || by('saddle.setbackNoseMm')) ??
        step('reach', by('stem.lengthMm')) ??
        step('bar', by('stem.spacersMm')));
}

/** Steps that were ridden since the film, with the rider's word on each. */
const riddenOf = (changes: readonly Change[], round: number): RiddenStep[] =>
  changes.flatMap((ch) => {
    const moved = ch.word === null || ch.round !== round ? null : settingOf(ch);
    return moved ? [{ ...moved, word: ch.word! }] : [];
  });

/** Everything that a plan is made from, out of a visit and its films. */
export interface VisitCase {
  case: PlanCase;
  near: BodyModel | null;
  measures: readonly MeasureReading[];
  /** What each filmed side was read as. */
  readings: Partial<Record<LegSide, Reading>>;
}

/**
 * Puts a visit's records and readings together for the plan: the bike that was filmed, bands as they hold for this rider, suspects,
 * both sides' models where both were filmed. A film from ahead alone, or none, gives what can be read without the side.
 */
// eslint-disable-next-line max-lines-per-function -- one object put together, field by field
export function visitCase(of: {
  session: PlannedVisit;
  near: FilmedTake | null;
  far?: FilmedTake | null;
  frontal?: FrontalReading | null;
  parts: readonly Part[] | null;
  habits?: Habits | null;
  convention?: Convention;
  round?: number;
}): VisitCase {
  const { session, near, far = null, frontal = null } = of;
  const bike = setupOf(session, near?.take ?? null);
  const { intake, body, planning, statics } = session;
  const protocol = protocolOf(session);
  const convention = of.convention ?? 'bend';
  const nearSide = legOf(near?.take ?? null);
  const measures = measuresOf(session, near?.reading ?? null, nearSide, frontal);
  const resolved = resolveBike(bike);
  const readings: VisitCase['readings'] = {
    ...(far && { [legOf(far.take)]: far.reading }),
    ...(near && { [nearSide]: near.reading }),
  };
  const { left, right } = readings;
  const apart = [
    ...(left && right ? sidesCompared(left, right) : []),
    ...(frontal ? legsCompared(frontal) : []),
  ];
  const sides: FilmedSide[] = [
    ...(near ? [{ model: near.model, measures }] : []),
    ...(far ? [{ model: far.model, measures: measuresOf(session, far.reading, legOf(far.take)) }] : []),
  ];
  const kneeOverFootMm = frontal && {
    left: overFoot(frontal, 'left'),
    right: overFoot(frontal, 'right'),
  };
  const fit: FitCase = {
    intake,
    body,
    bike,
    resolved,
    kneeOverFootMm,
    onBike: planning.onBike,
    apart,
    convention,
  };
  const plain: PlanCase = {
    ...fit,
    convention,
    protocolId: protocol.id,
    statics,
    kneeMovedDeg: protocol.kneeMovedDeg,
    measures,
    sides,
    suspects: [],
    schools: planning.schools,
    answers: planning.answers,
    parts: of.parts,
    habits: of.habits ?? USUAL_HABITS,
    halfSteps: protocol.halfSteps,
    ridden: riddenOf(session.changes, of.round ?? 1),
    decisions: planning.decisions,
    order: planning.order,
  };
  const file: SuspectCase = {
    ...fit,
    measures: Object.fromEntries(sides.map((s) => [s.model.side, s.measures])),
    frontal: measures.filter((m) => m.key === 'kneePathWidthMm'),
    faults: faultsOf(plain),
    cadenceRpm: near?.reading.cadenceRpm ?? null,
    handsShare: near ? (handsOf(session, near.take, near.reading)?.handsShare ?? null) : null,
  };
  return {
    case: { ...plain, suspects: rankSuspects(file) },
    near: near?.model ?? null,
    measures,
    readings,
  };
}

const overFoot = (f: FrontalReading, side: LegSide): { value: number; uncertainty: number } => {
  const k = f.legs[side].kneeOverFootPushMm;
  return { value: k.value, uncertainty: k.uncertainty.absoluteMm };
};
