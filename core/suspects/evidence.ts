import type { ResolvedBike } from '../bike/resolve.ts';
import type { BikeSetup } from '../bike/setup.ts';
import { saddleHeightStarts } from '../body/estimates.ts';
import { single, type BodyRecord } from '../body/tests.ts';
import type { Complaint, Intake } from '../intake/intake.ts';
import type { SideDifference } from '../plan/asymmetry.ts';
import type { MeasureReading } from '../protocol/measures.ts';
import type { OnBike } from './onBike.ts';

/** All that is known when suspects are ranked; the film's measures join once they are read. */
export interface CaseFile {
  intake: Intake;
  body: BodyRecord;
  bike: BikeSetup;
  resolved: ResolvedBike;
  measures: readonly Pick<MeasureReading, 'key' | 'value' | 'unit' | 'verdict'>[];
  /** What the tests on the bike found. */
  onBike?: OnBike;
  /** Left against right, from both sides' films and the one from ahead or behind. */
  apart?: readonly SideDifference[];
  /** As it was pedalled in the film. */
  cadenceRpm?: number | null;
}

/** One piece of evidence, for (+) or against (−), worth 1 from a film or a plain measurement, less from an estimate. */
export interface Evidence {
  weight: number;
  text: string;
}

export const say = (weight: number, text: string): Evidence => ({ weight, text });

export function measured(
  c: CaseFile,
  key: MeasureReading['key'],
  wrong: 'high' | 'low',
  words: string,
): Evidence[] {
  const m = c.measures.find((q) => q.key === key);
  if (!m) return [];
  const value = `${words} ${String(Math.round(m.value)).replace('-', '−')}${m.unit === '°' ? '°' : ' mm'} in the film`;
  if (m.verdict === wrong) return [say(1.5, `${value}, ${wrong === 'high' ? 'above' : 'below'} its band`)];
  if (m.verdict === `edge-${wrong}`) return [say(0.5, `${value}, at the edge of its band`)];
  return [say(-1, `${value}, not ${wrong === 'high' ? 'above' : 'below'} its band`)];
}

/** A difference of the sides in words: of a line across the body by how far it leans or swings, of the legs by how far they are apart. */
function unlike({ key, name, by, unit }: SideDifference): string {
  const much = `${Math.abs(by).toFixed(unit === '°' ? 1 : 0)}${unit === '°' ? '°' : ' mm'}`;
  if (key === 'pelvisMeanDeg') return `pelvis ${much} higher on the ${by > 0 ? 'left' : 'right'}`;
  if (key === 'pelvisSwingDeg') return `pelvis rocking by ${much}`;
  return `${name.toLowerCase()}, left and right ${much} apart`;
}

/** A difference of the sides that the film shows beyond its doubt; within its doubt it says nothing, and none speaks against. */
export function uneven(c: CaseFile, key: string, weight: number): Evidence[] {
  const d = (c.apart ?? []).find((q) => q.key === key);
  if (!d || d.verdict === 'within-noise') return [];
  return [say(d.verdict === 'worth-a-look' ? weight : -0.4, `${unlike(d)} in the film`)];
}

/** Saddle height as found against the schools' starts; only beyond their own spread does it say anything. */
export function heightOff(c: CaseFile, wrong: 'high' | 'low'): Evidence[] {
  const inseam = single(c.body, 'inseam');
  const height = c.resolved.heightMm?.mm;
  if (inseam === null || height === undefined) return [];
  const starts = saddleHeightStarts(inseam, c.bike.crank.lengthMm).map((s) => s.mm);
  const off =
    height > Math.max(...starts) ? height - Math.max(...starts) : Math.min(0, height - Math.min(...starts));
  if (wrong === 'low' && off < -5)
    return [say(0.8, `saddle ${Math.round(-off)} mm under every school’s start from the inseam`)];
  if (wrong === 'high' && off > 5)
    return [say(0.8, `saddle ${Math.round(off)} mm over every school’s start from the inseam`)];
  return Math.abs(off) <= 5
    ? [say(-0.4, 'saddle height within the schools’ starts')]
    : [say(-0.8, `saddle height errs the other way by ${Math.round(Math.abs(off))} mm`)];
}

export const bothFeet = (c: CaseFile, get: (f: BikeSetup['feet']['left']) => number | null): number[] =>
  [get(c.bike.feet.left), get(c.bike.feet.right)].filter((v): v is number => v !== null);

export function when(
  known: number | null | undefined,
  test: (v: number) => [number, string] | null,
): Evidence[] {
  if (known === null || known === undefined) return [];
  const found = test(known);
  return found ? [say(...found)] : [];
}

export interface Rule {
  what: string;
  test: string;
  change: string;
  cost: number;
  evidence: (c: CaseFile, complaint: Complaint) => Evidence[];
}
