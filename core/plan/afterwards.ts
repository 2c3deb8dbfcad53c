import { legLength } from '../body/estimates.ts';
import type { BodyModel } from '../model/bodyModel.ts';
import type { Moves } from './controls.ts';
import { mm } from './couplings.ts';
import type { Forecast } from '../model/foretell.ts';
import type { MeasureReading } from '../protocol/measures.ts';
import type { PlanCase, Prescription } from './plan.ts';
import type { ProposalCase } from './proposals.ts';
import type { MeasureKey } from '../protocol/protocols.ts';
import { heightPerLeg } from './settleSaddle.ts';
import type { FilmedSide, SolveCase } from './solveCase.ts';

/** Left less right of the knee at its straightest, where both sides were filmed. */
export function kneesApart(c: PlanCase): ProposalCase['kneeApart'] {
  const of = (side: BodyModel['side']): MeasureReading | undefined =>
    c.sides.find((s) => s.model.side === side)?.measures.find((m) => m.key === 'kneeFlexionMinDeg');
  const [l, r] = [of('left'), of('right')];
  if (!l || !r) return null;
  const byDeg = l.value - r.value;
  return { byDeg, sure: Math.abs(byDeg) >= 3 && Math.abs(byDeg) > Math.hypot(l.uncertainty, r.uncertainty) };
}

/** Legs that want the saddle elsewhere, said and not averaged (handbook: models, solver). */
export function conflicts(solve: SolveCase, given: Moves, c: PlanCase): string[] {
  const out: string[] = [];
  if (solve.sides.length > 1) {
    const [a, b] = heightPerLeg(solve, given);
    const by = Math.abs(a.upMm - b.upMm);
    const words = (upMm: number): string =>
      upMm === 0 ? 'where it is' : `${mm(upMm)} ${upMm > 0 ? 'up' : 'down'}`;
    if (by >= 5)
      out.push(
        `Saddle height: the ${a.side} leg wants it ${words(a.upMm)}, the ${b.side} leg ${words(b.upMm)}: ${by} mm apart. Look at the leg lengths, a shim, or accept it.`,
      );
  }
  const legs = legLength(c.body);
  if (legs.refer)
    out.push(
      `${legs.differenceMm} mm of true leg-length difference: over 6 mm a clinician should see it before it is treated.`,
    );
  return out;
}

/** “Lower the saddle 6 mm, or retrain the foot, then judge again”: an over-straight knee with a flat foot (handbook: schools). */
export function retrain(c: PlanCase, moves: Moves): Prescription['alternatives'] {
  const knee = c.measures.find((m) => m.key === 'kneeFlexionMinDeg');
  const pitch = c.measures.find((m) => m.key === 'footPitch180Deg');
  const flat = pitch?.band.low !== null && pitch !== undefined && pitch.value < pitch.band.low + 4;
  if (knee?.verdict !== 'low' || !flat || !((moves.saddleUp ?? 0) < 0)) return [];
  return [
    {
      stage: 'saddle',
      moves: {},
      words: 'retrain the foot: toe a little further down at the bottom, then judge the knee again',
    },
  ];
}

/** What stays out after everything, and what it calls for. */
export function stillOut(
  c: PlanCase,
  forecast: Forecast | null,
  sides: readonly FilmedSide[],
): Prescription['open'] {
  const masked = sides.some((s, i) => s !== c.sides[i] && s.model !== c.sides[i].model);
  return c.measures.flatMap((m) => {
    if (m.verdict !== 'low' && m.verdict !== 'high') return [];
    const after = forecast?.ok ? forecast.measures.find((f) => f.key === m.key) : undefined;
    if (after && after.verdict !== 'low' && after.verdict !== 'high') return [];
    if (masked && (m.key === 'footPitch180Deg' || m.key === 'footPitch90Deg' || m.key === 'ankleRangeDeg'))
      return [{ key: m.key, words: 'a compensation: expected to go with its cause; film again' }];
    if (c.schools.foreAft === 'balance' && m.key === 'kneeOverSpindleMm')
      return [{ key: m.key, words: 'reported only: the balance test decides' }];
    const words: Partial<Record<MeasureKey, string>> = {
      kneePathWidthMm: 'no model foretells it: stance first, then film from ahead again',
      ankleRangeDeg: 'a matter of habit: cadence drills, then film again',
      hipVerticalTravelMm: 'goes with saddle height; film again',
      elbowFlexionDeg: 'arms and habit: soft elbows, then film again',
    };
    return [
      {
        key: m.key,
        words:
          words[m.key] ??
          'no move within this bike’s limits was worth its price; look again after the next film',
      },
    ];
  });
}
