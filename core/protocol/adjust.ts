import { legLength } from '../body/estimates.ts';
import { finding, single, worse, type BodyRecord, type TestKey } from '../body/bodyTests.ts';
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

/** What the low back lends to a hip that closes further than it does on the table, degrees (handbook: targets). */
const LENT_BY_BACK_DEG = 20;
/** Small riders bend the knee up to so much more at the top: all of it at 1600 mm, nothing at 1700 (own ramp). */
const SMALL_RIDER_DEG = 3;

/** Several findings often say one thing: the largest shift of an end counts whole, the next by half, together at most 8°. */
const MOST_TOGETHER_DEG = 8;

// eslint-disable-next-line max-lines-per-function -- one rule after the other, each by itself
function rules(protocol: Protocol, body: BodyRecord, intake: Intake): Rule[] {
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
  const floor = protocol.bands.hipAngleMinDeg.low;
  if (Number.isFinite(hip) && floor !== null) {
    const own = 180 - hip - LENT_BY_BACK_DEG;
    const by = Math.max(hip < 110 ? 5 : 0, own - floor);
    if (by > 0)
      out.push({
        key: 'hip-closes',
        finding: `hip flexion ${hip}° on the table`,
        by: { hipAngleMinDeg: [by, 0] },
        ...(hip < 110 && { also: 'prefer a shorter crank' }),
      });
  }
  const ankle = least('dorsiflexion');
  if (ankle < 20)
    out.push({
      key: 'stiff-ankle',
      finding: `ankle dorsiflexion ${ankle}°`,
      by: { footPitch90Deg: [5, 5], footPitch180Deg: [5, 5] },
    });
  const height = single(body, 'height');
  if (height !== null && height < 1700)
    out.push({
      key: 'small-rider',
      finding: `${height} mm tall`,
      by: { kneeFlexionMaxDeg: [0, Math.round(SMALL_RIDER_DEG * Math.min(1, (1700 - height) / 100))] },
    });
  if (takesHalfSteps(intake)) {
    const fresh = intake.experience === 'new' || intake.returning;
    out.push({
      key: 'gentle',
      finding:
        intake.experience === 'new'
          ? 'new rider'
          : intake.returning
            ? 'back from time off'
            : (intake.ageYears ?? 0) < 18
              ? 'under 18'
              : 'over 60',
      // Age alone moves no band.
      by: fresh ? { backAngleDeg: [5, 0] } : {},
      also: 'steps half as large',
    });
  }
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

/** How much of each rule's shift of one end counts, in the order of the rules. */
function counted(shifts: readonly number[]): number[] {
  const out = shifts.map(() => 0);
  for (const way of [1, -1]) {
    const ranked = shifts
      .map((by, i) => ({ by: way * by, i }))
      .filter((s) => s.by > 0)
      .sort((a, b) => b.by - a.by);
    let left = MOST_TOGETHER_DEG;
    ranked.slice(0, 2).forEach(({ by, i }, rank) => {
      // What a single finding asks for by itself is never cut.
      const share = rank === 0 ? by : Math.min(by / 2, Math.max(0, left));
      out[i] = way * share;
      left -= share;
    });
  }
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
  const all = rules(protocol, body, intake);
  const isOn = all.map((rule) => !body.adjustmentsOff.includes(rule.key));
  const keys = [...new Set(all.flatMap((rule) => Object.keys(rule.by) as MeasureKey[]))];
  const share = Object.fromEntries(
    keys.map((key) => [
      key,
      ([0, 1] as const).map((end) =>
        counted(all.map((rule, i) => (isOn[i] ? (rule.by[key]?.[end] ?? 0) : 0))),
      ),
    ]),
  );
  const adjustments = all.map((rule, i): Adjustment => {
    const on = isOn[i];
    const shifts = (Object.keys(rule.by) as MeasureKey[]).map((measure): BandShift => {
      const before = bands[measure];
      // Switched off it shows what it would do by itself.
      const [low, high] = on ? [share[measure][0][i], share[measure][1][i]] : rule.by[measure]!;
      const after: Band = {
        low: before.low === null ? null : before.low + low,
        high: before.high === null ? null : before.high + high,
      };
      if (after.low !== null && after.high !== null && after.low > after.high - 5) after.high = after.low + 5;
      if (on) bands[measure] = after;
      return { measure, before, after };
    });
    return { key: rule.key, finding: rule.finding, shifts, also: rule.also ?? null, on };
  });
  return {
    bands,
    adjustments,
    halfSteps: adjustments.some((a) => a.key === 'gentle' && a.on),
  };
}
