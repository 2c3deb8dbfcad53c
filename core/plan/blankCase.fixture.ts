import { resolveBike } from '../bike/resolve.ts';
import { UNMEASURED_BIKE, type BikeSetup } from '../bike/setup.ts';
import {
  NOT_TESTED,
  UNTESTED_BODY,
  type BodyRecord,
  type TestKey,
  type TestResult,
} from '../body/bodyTests.ts';
import {
  BLANK_INTAKE,
  NEW_COMPLAINT,
  type Complaint,
  type Intake,
  type RegionKey,
} from '../intake/intake.ts';
import type { SuspectCase, SuspectMeasure } from '../suspects/evidence.ts';
import type { Moves } from './controls/controls.ts';
import type { Stage } from './controls/controlTable.ts';
import type { PlanLine, Prescription, When } from './terms/plan.ts';
import { PROTOCOLS, type MeasureKey } from '../protocol/protocols.ts';

/** A measure as the film gave it: its value, and how probably it lies under and over its band. */
export const seen = (
  key: MeasureKey,
  value: number,
  pOut: SuspectMeasure['pOut'] = { low: 0, high: 0 },
): SuspectMeasure => ({
  key,
  value,
  unit: key.endsWith('Mm') ? 'mm' : '°',
  band: PROTOCOLS[0].bands[key],
  pOut,
});

export const aches = (region: RegionKey, more: Partial<Complaint> = {}): Complaint => ({
  id: region,
  region,
  side: 'both',
  ...NEW_COMPLAINT,
  ...more,
});

/** A body of which only the named tests were done. */
export const tested = (results: Partial<Record<TestKey, Partial<TestResult>>>): BodyRecord => ({
  ...UNTESTED_BODY,
  results: Object.fromEntries(
    Object.entries(results).map(([key, r]) => [key, { ...NOT_TESTED, ...r }]),
  ) as BodyRecord['results'],
});

type Deep<T> = { [K in keyof T]?: T[K] extends object | null ? Deep<NonNullable<T[K]>> : T[K] };

function merged<T>(base: T, over: Deep<T>): T {
  const out = { ...base };
  for (const [key, value] of Object.entries(over) as [keyof T, unknown][])
    out[key] = (
      value !== null && typeof value === 'object' ? merged(base[key], value as Deep<T[keyof T]>) : value
    ) as T[keyof T];
  return out;
}

/** A bike of which only the named figures were measured. */
export const bikeWith = (over: Deep<BikeSetup>): BikeSetup => merged(UNMEASURED_BIKE, over);

/** A case of which nothing is known but what is named. */
export function caseOf(
  more: Partial<Omit<SuspectCase, 'bike' | 'resolved' | 'intake'>> & {
    bike?: Deep<BikeSetup>;
    intake?: Partial<Intake>;
  } = {},
): SuspectCase {
  const { bike: over, intake, ...rest } = more;
  const bike = bikeWith(over ?? {});
  return {
    body: UNTESTED_BODY,
    measures: {},
    ...rest,
    intake: { ...BLANK_INTAKE, ...intake },
    bike,
    resolved: resolveBike(bike),
  };
}

/** A line of a plan that moves what is named and says nothing. */
export const lineOf = (key: string, moves: Moves, stage: Stage, when: When = 'now'): PlanLine => ({
  key,
  stage,
  when,
  p: 0.9,
  probability: '',
  madeOf: [],
  moves,
  whole: moves,
  title: null,
  why: [],
  knockOn: [],
  risk: [],
  steps: '',
  check: '',
  answers: [],
  vanishes: [],
  instead: null,
  decision: null,
  changed: null,
  forecast: null,
  predicted: [],
});

/** A plan of nothing but what is named. */
export const planOf = (more: Partial<Prescription>): Prescription => ({
  now: [],
  later: [],
  try: [],
  rejected: [],
  ask: [],
  conflicts: [],
  heldBack: [],
  seenThrough: [],
  noted: [],
  total: {},
  forecast: null,
  open: [],
  leaveAlone: false,
  ...more,
});
