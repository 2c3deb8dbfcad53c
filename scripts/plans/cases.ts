import { DEMO_PARTS } from '../../app/demo/parts.ts';
import type { LegSide } from '../../core/model/effects.ts';
import type { PlanCase } from '../../core/plan/terms/plan.ts';
import { filmedTake, visitCase, type FilmedTake, type PlannedVisit } from '../../core/visit/visitCase.ts';
import { NO_PLANNING } from '../../core/plan/terms/planning.ts';
import { NO_STATICS } from '../../core/body/statics.ts';
import { protocolById, type Protocol } from '../../core/protocol/protocols.ts';
import { readTracks, type Reading } from '../../core/kinematics/read.ts';
import { CAST } from '../../sim/cast.ts';
import { filmed, FILMED_MM_PER_PX } from '../../sim/filmed.ts';
import type { VirtualRider } from '../../sim/rider.ts';
import { DOSSIERS, type Dossier } from '../demo/dossiers.ts';

/** The protocol that each demo visit is judged by. */
const PROTOCOL_OF: Record<string, string> = {
  maren: 'long-distance',
  idris: 'city',
  pilar: 'long-distance',
  juno: 'time-trial',
};

function readingOf(rider: VirtualRider, side: LegSide): Reading {
  const reading = readTracks(filmed({ rider, noisePx: 0.15, facing: side, extras: true }), {
    mmPerPx: FILMED_MM_PER_PX,
    facing: side,
    levelDeg: 0,
    crankMm: rider.crankMm,
  });
  if (!reading.ok) throw new Error(reading.detail);
  return reading;
}

/** What a plan is made from, for a rider filmed at track level, one side or both. */
function caseFor(
  riders: Partial<Record<LegSide, VirtualRider>>,
  dossier: Dossier,
  protocol: Protocol,
  more: Partial<PlannedVisit> = {},
): PlanCase {
  const visit: PlannedVisit = {
    protocolId: protocol.id,
    protocol,
    intake: dossier.intake,
    body: dossier.body,
    asFound: dossier.asFound,
    statics: NO_STATICS,
    planning: NO_PLANNING,
    changes: [],
    ...more,
  };
  const filmedSide = (side: LegSide): FilmedTake | null => {
    const rider = riders[side];
    const take = {
      view: side === 'right' ? ('drive' as const) : ('nonDrive' as const),
      setup: null,
      effortW: null,
    };
    return rider ? filmedTake(visit, take, readingOf(rider, side)) : null;
  };
  const [right, left] = [filmedSide('right'), filmedSide('left')];
  return visitCase({ session: visit, near: right ?? left, far: right ? left : null, parts: DEMO_PARTS.parts })
    .case;
}

export const riderOf = (id: string): VirtualRider => CAST.find((m) => m.id === id)!.scene.rider;

/** A demo rider's plan from the virtual rider and the dossier. */
export const demoCase = (id: string, more: Partial<PlannedVisit> = {}): PlanCase =>
  caseFor({ right: riderOf(id) }, DOSSIERS[id], protocolById(PROTOCOL_OF[id]), more);
