import Joi from 'joi';
import type { Band, Verdict } from '../prescribe/judge.ts';

/** A value of a set-up, by its place in it: “saddle.heightMm”. */
export interface ChangedValue {
  at: string;
  from: number | string | boolean | null;
  to: number | string | boolean | null;
}

/** What the rider says after riding a change. */
export type RiderWord = 'easier' | 'same' | 'harder';

/** One thing moved on the bike, with what the rider said of it. Putting it back is kept too: it was tried. */
export interface Change {
  id: string;
  madeIso: string;
  values: ChangedValue[];
  word: RiderWord | null;
  putBackIso: string | null;
}

/** A measure as it was judged when the plan was kept. Angles in degrees, distances in mm. */
export interface Finding {
  key: string;
  value: number;
  /** 95 %, absolute. */
  uncertainty: number;
  unit: '°' | 'mm';
  band: Band;
  verdict: Verdict;
}

/** One correction of a plan: by how much a value of the set-up moves, with its 95 % interval, mm. */
export interface PlanStep {
  at: string;
  byMm: number;
  lowMm: number;
  highMm: number;
  /** How much of it today, before filming again. */
  todayMm: number;
}

/** A plan as the fitter kept it: what was found, and what was to be moved. Later readings never change it. */
export interface Plan {
  keptIso: string;
  protocolId: string;
  findings: Finding[];
  steps: PlanStep[];
}

/** A day on which the rider is to be heard or seen again. */
export interface FollowUp {
  id: string;
  /** Day, ISO. */
  due: string;
  why: string;
  doneIso: string | null;
}

const iso = Joi.string().isoDate();
const id = Joi.string()
  .pattern(/^[A-Za-z0-9_-]{1,40}$/)
  .required();
const value = Joi.alternatives(
  Joi.number().min(-3000).max(3000),
  Joi.string().allow('').max(200),
  Joi.boolean(),
  Joi.valid(null),
).required();
const finite = Joi.number().min(-1e5).max(1e5).required();

/** Place of a value in a set-up: two or three names. */
export const setupPlace = Joi.string()
  .pattern(/^[a-z][A-Za-z0-9]*(\.[a-z][A-Za-z0-9]*){0,2}$/)
  .max(60)
  .required();

export const changeSchema = Joi.object<Change>({
  id,
  madeIso: iso.required(),
  values: Joi.array()
    .items(Joi.object({ at: setupPlace, from: value, to: value }))
    .min(1)
    .max(20)
    .required(),
  word: Joi.string().valid('easier', 'same', 'harder').allow(null).required(),
  putBackIso: iso.allow(null).required(),
});

export const findingSchema = Joi.object<Finding>({
  key: Joi.string()
    .pattern(/^[A-Za-z0-9]{1,60}$/)
    .required(),
  value: finite,
  uncertainty: Joi.number().min(0).max(1e5).required(),
  unit: Joi.string().valid('°', 'mm').required(),
  band: Joi.object({ low: finite.allow(null), high: finite.allow(null) }).required(),
  verdict: Joi.string().valid('in', 'edge-low', 'edge-high', 'low', 'high').required(),
});

export const planSchema = Joi.object<Plan>({
  keptIso: iso.required(),
  protocolId: Joi.string().max(60).required(),
  findings: Joi.array().items(findingSchema).max(100).required(),
  steps: Joi.array()
    .items(Joi.object({ at: setupPlace, byMm: finite, lowMm: finite, highMm: finite, todayMm: finite }))
    .max(40)
    .required(),
});

export const followUpSchema = Joi.object<FollowUp>({
  id,
  due: Joi.string()
    .pattern(/^\d{4}-\d{2}-\d{2}$/)
    .required(),
  why: Joi.string().allow('').max(300).required(),
  doneIso: iso.allow(null).required(),
});

/** The earliest day still open; null where there is none. */
export function nextDue(followUps: readonly FollowUp[]): string | null {
  const open = followUps.filter((f) => f.doneIso === null).map((f) => f.due);
  return open.length ? open.reduce((a, b) => (a < b ? a : b)) : null;
}
