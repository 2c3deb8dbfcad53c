import { legLength } from '../body/estimates.ts';
import { finding, worse, type BodyRecord, type TestKey } from '../body/tests.ts';
import { takesHalfSteps, type Intake } from '../intake/intake.ts';
import type { Band } from './judge.ts';
import type { MeasureKey, Protocol } from './protocols.ts';

export interface BandShift {
  measure: MeasureKey;
  before: Band;
  after: Band;
}

/** One finding and what it does to the bands; shown, and switched off one by one. */
export interface Adjustment {
  key: string;
  finding: string;
  shifts: BandShift[];
  /** What it does beside the bands. */
  also: string | null;
  on: boolean;
}

interface Rule {
  key: string;
  finding: string;
  /** Added to the low and the high end. */
  by: Partial<Record<MeasureKey, [low: number, high: number]>>;
  also?: string;
}

/** Tight hamstrings: 3° from just under 60°, growing to 5° at 45° and below (the handbook's 3…5). */
const tightBy = (raiseDeg: number): number => Math.round(3 + 2 * Math.min(1, (60 - raiseDeg) / 15));

function rules(body: BodyRecord, intake: Intake): Rule[] {
  const out: Rule[] = [];
  const least = (key: TestKey): number => worse(body, key, 'least') ?? Infinity;
  const raise = least('straightLegRaise');
  if (raise < 60) {
    const by = tightBy(raise);
    out.push({
      key: 'tight-hamstrings',
      finding: `straight-leg raise ${raise}°: tight hamstrings`,
      by: { kneeFlexionMinDeg: [by, by], backAngleDeg: [5, 0] },
    });
  }
  if (raise > 85 && Number.isFinite(raise) && finding(body, 'hinge') === 'flat')
    out.push({
      key: 'free-hamstrings',
      finding: `straight-leg raise ${raise}° and a flat back on the hinge`,
      by: { backAngleDeg: [-5, 0] },
    });
  if (finding(body, 'hinge') === 'round')
    out.push({
      key: 'round-back',
      finding: 'low back rounds on the hinge',
      by: { backAngleDeg: [5, 0], shoulderAngleDeg: [0, -5] },
    });
  const hip = least('hipFlexion');
  if (hip < 110)
    out.push({
      key: 'hip-closes',
      finding: `hip flexion ${hip}°`,
      by: { hipAngleMinDeg: [5, 0] },
      also: 'prefer a shorter crank',
    });
  const ankle = least('dorsiflexion');
  if (ankle < 20)
    out.push({
      key: 'stiff-ankle',
      finding: `ankle dorsiflexion ${ankle}°`,
      by: { footPitch90Deg: [5, 5], footPitch180Deg: [5, 5] },
    });
  if (takesHalfSteps(intake))
    out.push({
      key: 'gentle',
      finding:
        intake.experience === 'new' ? 'new rider' : intake.returning ? 'back from time off' : 'over 60',
      by: { backAngleDeg: [5, 0] },
      also: 'steps half as large',
    });
  const legs = legLength(body);
  if (legs.kind === 'tibia' || legs.kind === 'femur' || legs.kind === 'true')
    out.push({
      key: 'leg-length',
      finding: `${legs.longer} leg ${Math.round(legs.differenceMm)} mm longer`,
      by: {},
      also: `the ${legs.longer} leg governs saddle height; the other is supported`,
    });
  return out;
}

/**
 * The protocol's bands as they hold for this rider, and how each finding moved them (handbook: targets, adjusting a band).
 * A floor may not pass its ceiling: then the ceiling goes with it.
 */
export function adjustBands(
  protocol: Protocol,
  body: BodyRecord,
  intake: Intake,
): { bands: Record<MeasureKey, Band>; adjustments: Adjustment[]; halfSteps: boolean } {
  const bands = { ...protocol.bands };
  const adjustments = rules(body, intake).map((rule): Adjustment => {
    const on = !body.adjustmentsOff.includes(rule.key);
    const shifts = (Object.entries(rule.by) as [MeasureKey, [number, number]][]).map(
      ([measure, [low, high]]): BandShift => {
        const before = bands[measure];
        const after: Band = {
          low: before.low === null ? null : before.low + low,
          high: before.high === null ? null : before.high + high,
        };
        if (after.low !== null && after.high !== null && after.low > after.high - 5)
          after.high = after.low + 5;
        if (on) bands[measure] = after;
        return { measure, before, after };
      },
    );
    return { key: rule.key, finding: rule.finding, shifts, also: rule.also ?? null, on };
  });
  return {
    bands,
    adjustments,
    halfSteps: adjustments.some((a) => a.key === 'gentle' && a.on),
  };
}
