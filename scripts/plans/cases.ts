import { DEMO_PARTS } from '../../app/demo/parts.ts';
import { resolveBike } from '../../core/bike/resolve.ts';
import type { BikeSetup } from '../../core/bike/setup.ts';
import { adjustBands } from '../../core/protocol/adjust.ts';
import { fitBody, USUAL_HABITS } from '../../core/model/bodyModel.ts';
import type { LegSide } from '../../core/plan/controls.ts';
import { judgeReading } from '../../core/protocol/measures.ts';
import type { PlanCase } from '../../core/plan/plan.ts';
import { USUAL_SCHOOLS } from '../../core/plan/proposals.ts';
import { protocolById, type Protocol } from '../../core/protocol/protocols.ts';
import { rankSuspects } from '../../core/suspects/suspects.ts';
import { readTracks, type Reading } from '../../core/stroke/read.ts';
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
    crankMm: rider.crankMm,
  });
  if (!reading.ok) throw new Error(reading.detail);
  return reading;
}

/** What a plan is made from, for a rider filmed at track level, one side or both. */
export function caseFor(
  riders: Partial<Record<LegSide, VirtualRider>>,
  dossier: Dossier,
  protocol: Protocol,
  more: Partial<PlanCase> = {},
): PlanCase {
  const { intake, body } = dossier;
  const bike: BikeSetup = dossier.asFound;
  const { bands, halfSteps } = adjustBands(protocol, body, intake);
  const adjusted = { ...protocol, bands };
  const sides = (['right', 'left'] as const).flatMap((side) => {
    const rider = riders[side];
    if (!rider) return [];
    const reading = readingOf(rider, side);
    return [
      {
        model: fitBody(reading, side, bike.frame.seatAngleDeg),
        measures: judgeReading(reading, adjusted),
      },
    ];
  });
  const { measures } = sides[0];
  const resolved = resolveBike(bike);
  return {
    intake,
    body,
    bike,
    resolved,
    measures,
    suspects: rankSuspects({ intake, body, bike, resolved, measures }),
    schools: USUAL_SCHOOLS,
    parts: DEMO_PARTS.parts,
    sides,
    habits: USUAL_HABITS,
    halfSteps,
    decisions: [],
    order: [],
    ...more,
  };
}

export const riderOf = (id: string): VirtualRider => CAST.find((m) => m.id === id)!.scene.rider;

/** A demo rider's plan from the virtual rider and the dossier. */
export const demoCase = (id: string, more: Partial<PlanCase> = {}): PlanCase =>
  caseFor({ right: riderOf(id) }, DOSSIERS[id], protocolById(PROTOCOL_OF[id]), more);
