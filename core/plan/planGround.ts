import type { Part } from '../bike/parts.ts';
import { resolveBike } from '../bike/resolve.ts';
import type { FrontalReading } from '../frontal/readFrontal.ts';
import type { FitSession, Take } from '../records/types.ts';
import type { Reading } from '../stroke/read.ts';
import { setupOf } from '../trial/rounds.ts';
import { adjustBands } from '../protocol/adjust.ts';
import { legsCompared, sidesCompared } from './asymmetry.ts';
import { fitBody, USUAL_HABITS, type BodyModel, type Habits } from '../model/bodyModel.ts';
import type { LegSide } from './controls.ts';
import { judgeReading, type MeasureReading } from '../protocol/measures.ts';
import type { PlanCase } from './plan.ts';
import type { Protocol } from '../protocol/protocols.ts';
import { bySchool } from '../protocol/schools.ts';
import { protocolUsed } from '../protocol/shelf.ts';
import { rankSuspects } from '../suspects/suspects.ts';

/** The session's protocol with its bands as they hold for this rider. */
export function protocolOf(
  session: FitSession,
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

/** The measures of a side's reading as the visit judges them: its bands, its schools, its goniometer. */
export function measuresOf(
  session: FitSession,
  reading: Reading,
  side: LegSide,
  frontal: FrontalReading | null = null,
): MeasureReading[] {
  const protocol = protocolOf(session);
  const measures = judgeReading(reading, protocol, frontal);
  return bySchool(measures, session.planning.schools, session.statics, side, protocol.kneeMovedDeg);
}

/** A filmed side: the take, what it was read as, and the rider's model from it. */
export interface FilmedTake {
  take: Take | null;
  reading: Reading;
  model: BodyModel;
}

export const filmedTake = (session: FitSession, take: Take | null, reading: Reading): FilmedTake => ({
  take,
  reading,
  model: fitBody(reading, legOf(take), setupOf(session, take).frame.seatAngleDeg),
});

/** Everything that a plan is made from, out of a visit and its films. */
export interface PlanGround {
  case: PlanCase;
  near: BodyModel;
  measures: readonly MeasureReading[];
  /** What each filmed side was read as. */
  readings: Partial<Record<LegSide, Reading>>;
}

/**
 * Puts a visit's records and readings together for the plan: the bike that was filmed, bands as they hold for this rider, suspects,
 * both sides' models where both were filmed.
 */
export function planGround(
  session: FitSession,
  near: FilmedTake,
  far: FilmedTake | null,
  frontal: FrontalReading | null,
  parts: readonly Part[],
  habits: Habits | null,
): PlanGround {
  const bike = setupOf(session, near.take);
  const { intake, body, planning } = session;
  const measures = measuresOf(session, near.reading, legOf(near.take), frontal);
  const resolved = resolveBike(bike);
  const readings: PlanGround['readings'] = {
    ...(far && { [legOf(far.take)]: far.reading }),
    [legOf(near.take)]: near.reading,
  };
  const { left, right } = readings;
  const apart = [
    ...(left && right ? sidesCompared(left, right) : []),
    ...(frontal ? legsCompared(frontal) : []),
  ];
  return {
    case: {
      intake,
      body,
      bike,
      resolved,
      measures,
      suspects: rankSuspects({
        intake,
        body,
        bike,
        resolved,
        measures,
        onBike: planning.onBike,
        apart,
        cadenceRpm: near.reading.cadenceRpm,
      }),
      onBike: planning.onBike,
      schools: planning.schools,
      parts,
      sides: [
        { model: near.model, measures },
        ...(far ? [{ model: far.model, measures: measuresOf(session, far.reading, legOf(far.take)) }] : []),
      ],
      habits: habits ?? USUAL_HABITS,
      halfSteps: protocolOf(session).halfSteps,
      decisions: planning.decisions,
      order: planning.order,
    },
    near: near.model,
    measures,
    readings,
  };
}
