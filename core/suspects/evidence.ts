import { single } from '../body/bodyTests.ts';
import type { BodyRecord } from '../body/bodyTests.ts';
import type { ResolvedBike } from '../bike/resolve.ts';
import type { BikeSetup } from '../bike/setup.ts';
import { saddleHeightStarts } from '../body/estimates.ts';
import type { Complaint, Intake } from '../intake/intake.ts';
import { measureText, type Convention } from '../protocol/convention.ts';
import type { MeasureReading } from '../protocol/measures.ts';
import type { SideDifference } from '../protocol/asymmetry.ts';
import type { OnBike } from './onBike.ts';

export type LegSide = 'left' | 'right';

/** A measure as the suspects need it. */
export type SuspectMeasure = Pick<MeasureReading, 'key' | 'value' | 'unit' | 'band' | 'pOut'>;

/** How probable a fault of a setting is by film, tape and goniometer, of one leg or of both; without any complaint's word. */
export interface Fault {
  p: number;
  /** What it is made of. */
  text: string;
}
export type FaultKey =
  'saddleLow' | 'saddleHigh' | 'saddleForward' | 'saddleBack' | 'reachLong' | 'reachShort' | 'barLow';

/** The rider, the bike and what is known of both: what suspects are ranked by and what a plan is made from. */
export interface FitCase {
  intake: Intake;
  body: BodyRecord;
  bike: BikeSetup;
  resolved: ResolvedBike;
  /** Knee against foot while pushing, outward +, with its 95 %, from a film from ahead or behind. */
  kneeOverFootMm?: Partial<Record<LegSide, { value: number; uncertainty: number }>> | null;
  /** What the tests on the bike found. */
  onBike?: OnBike;
  /** Left against right, from both sides' films and the one from ahead or behind. */
  apart?: readonly SideDifference[];
  convention?: Convention;
}

/** A case as suspects are ranked by it; the films' figures join once they are read. */
export interface SuspectCase extends FitCase {
  /** What each filmed side was read as; a film from ahead alone has no side. */
  measures: Partial<Record<LegSide, readonly SuspectMeasure[]>>;
  /** Measures of a film from ahead or behind. */
  frontal?: readonly SuspectMeasure[];
  faults?: Partial<Record<FaultKey, { whole: Fault } & Partial<Record<LegSide, Fault>>>>;
  /** As it was pedalled in the film. */
  cadenceRpm?: number | null;
  /** The share of the weight that the hands carry, by the film. */
  handsShare?: number | null;
}

/**
 * One piece of evidence, for (+) or against (−), worth 1 from a film or a plain measurement, less from an estimate. A primary sign is
 * the fault itself; what was looked for elsewhere and not found takes away little.
 */
export interface Evidence {
  weight: number;
  text: string;
  primary?: boolean;
  /** Not looked at: neither for nor against. */
  unknown?: boolean;
}

/** A secondary sign that was looked for and not found takes away a fifth of what it would have given (handbook: rules). */
const NOT_FOUND = 1 / 5;

export const say = (weight: number, text: string): Evidence => ({ weight, text });
export const primary = (weight: number, text: string): Evidence => ({ weight, text, primary: true });
export const unknown = (text: string): Evidence => ({ weight: 0, text, unknown: true });
/** Found it gives so much; not found it takes a fifth of that away. */
export const secondary = (gives: number, found: boolean, text: string): Evidence =>
  say(found ? gives : -NOT_FOUND * gives, text);

/** The sides that a complaint speaks of. */
export const sidesOf = (q: Complaint): readonly LegSide[] =>
  q.side === 'left' || q.side === 'right' ? [q.side] : ['left', 'right'];

/** One in five of those who come has a setting off in one direction, whatever their complaint. */
const BASE_ODDS = 0.25;

/** What a probability is worth as a primary sign: its log odds against the usual; 1.2 at four in five, 1.5 at the most. */
const worthOf = (p: number): number =>
  Math.max(-1, Math.min(1.5, 0.45 * Math.log(Math.max(1e-4, p) / Math.max(1e-4, 1 - p) / BASE_ODDS)));

/** A fault of a setting by its own figure, of the complaining side where that was filmed. */
export function fault(c: SuspectCase, q: Complaint, key: FaultKey): Evidence[] {
  const f = c.faults?.[key];
  if (!f) return [];
  const one = q.side === 'left' || q.side === 'right' ? q.side : null;
  if (one && !f[one] && (f.left || f.right))
    return [unknown(`the ${one} side was not filmed: the other leg’s figure is no evidence`)];
  const own = one ? (f[one] ?? f.whole) : worstOf(f);
  if (!own.text) return [];
  const w = worthOf(own.p);
  return [{ weight: Math.abs(w) < 0.05 ? 0 : w, text: own.text, primary: true }];
}

const worstOf = (f: { whole: Fault } & Partial<Record<LegSide, Fault>>): Fault =>
  [f.whole, f.left, f.right].filter((x): x is Fault => x !== undefined).sort((a, b) => b.p - a.p)[0];

/** A filmed measure as a secondary sign, on the complaining side's film. */
export function measured(
  c: SuspectCase,
  q: Complaint,
  { key, wrong, gives = 0.6 }: { key: MeasureReading['key']; wrong: 'high' | 'low'; gives?: number },
): Evidence[] {
  const found = [...sidesOf(q).flatMap((side) => c.measures[side] ?? []), ...(c.frontal ?? [])].filter(
    (m) => m.key === key,
  );
  if (found.length === 0) {
    const other = Object.values(c.measures).some((list) => list.some((m) => m.key === key));
    return other ? [unknown(`${q.side} side not filmed`)] : [];
  }
  const worst = found.reduce((a, b) => (b.pOut[wrong] > a.pOut[wrong] ? b : a));
  const p = worst.pOut[wrong];
  return [
    say(p >= 0.2 ? gives * Math.min(1, p / 0.8) : -NOT_FOUND * gives, measureText(worst, c.convention)),
  ];
}

/** A difference of the sides in words: of a line across the body by how far it leans or swings, of the legs by how far they are apart. */
function unlike({ key, name, by, unit }: SideDifference): string {
  const much = `${Math.abs(by).toFixed(unit === '°' ? 1 : 0)}${unit === '°' ? '°' : ' mm'}`;
  if (key === 'pelvisMeanDeg') return `pelvis ${much} higher on the ${by > 0 ? 'left' : 'right'}`;
  if (key === 'pelvisSwingDeg') return `pelvis rocking by ${much}`;
  return `${name.toLowerCase()}, left and right ${much} apart`;
}

/** A difference of the sides that the film shows beyond its doubt; within its doubt it says nothing, and none speaks against. */
export function uneven(c: SuspectCase, key: string, weight: number): Evidence[] {
  const d = (c.apart ?? []).find((x) => x.key === key);
  if (!d || d.verdict === 'within-noise') return [];
  return [secondary(weight, d.verdict === 'worth-a-look', `${unlike(d)} in the film`)];
}

/** Saddle height by tape where no film tells it; only beyond the schools' own spread does it say anything. */
export function heightByTape(c: SuspectCase, wrong: 'high' | 'low'): Evidence[] {
  if (c.faults?.saddleLow?.whole.text) return [];
  const inseam = single(c.body, 'inseam');
  const height = c.resolved.heightMm?.mm;
  if (inseam === null || height === undefined) return [];
  const starts = saddleHeightStarts(inseam, c.bike.crank.lengthMm).map((s) => s.mm);
  const over = height - Math.max(...starts);
  const under = Math.min(...starts) - height;
  const by = wrong === 'low' ? under : over;
  const words =
    over > 0
      ? `${Math.round(over)} mm over every school’s starting height`
      : under > 0
        ? `${Math.round(under)} mm under every school’s starting height`
        : 'within the schools’ starting heights';
  return [primary(by > 5 ? Math.min(1.2, by / 15) : -0.4, `saddle ${words}`)];
}

export const feetOf = (
  c: SuspectCase,
  q: Complaint,
  get: (f: BikeSetup['feet']['left']) => number | null,
): { side: LegSide; value: number }[] =>
  sidesOf(q).flatMap((side) => {
    const value = get(c.bike.feet[side]);
    return value === null ? [] : [{ side, value }];
  });

export function when(known: number | null | undefined, test: (v: number) => Evidence | null): Evidence[] {
  if (known === null || known === undefined) return [];
  const found = test(known);
  return found ? [found] : [];
}

export interface Rule {
  what: string;
  /** The test that decides, cheap ones first. */
  test: string;
  change: string;
  /** Lower is cheaper to try. */
  cost: number;
  evidence: (c: SuspectCase, complaint: Complaint) => Evidence[];
}
