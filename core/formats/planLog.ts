import Joi from 'joi';
import type { BikeSetup } from '../bike/setup.ts';
import { bikeSchema } from '../records/stationSchemas.ts';
import type { FitSession } from '../records/types.ts';
import { changeSchema, type Change } from '../plan/terms/change.ts';
import { followUpSchema, type FollowUp } from '../records/followUp.ts';
import { planSchema, type Plan } from '../plan/controls/keptPlan.ts';

/** A visit's plans and change log with the bike they are about, as one readable file. */
export interface PlanLog {
  format: 'deep-angle-plan-log';
  version: 1;
  startedIso: string;
  bike: { asFound: BikeSetup; current: BikeSetup | null; final: BikeSetup | null };
  /** The rounds before, then the last one kept. */
  plans: Plan[];
  changes: Change[];
  followUps: FollowUp[];
}

const schema = Joi.object<PlanLog, true>({
  format: Joi.string().valid('deep-angle-plan-log').required(),
  version: Joi.number().valid(1).required(),
  startedIso: Joi.string().isoDate().required(),
  bike: Joi.object({
    asFound: bikeSchema.required(),
    current: bikeSchema.allow(null).required(),
    final: bikeSchema.allow(null).required(),
  }).required(),
  plans: Joi.array().items(planSchema).max(1000).required(),
  changes: Joi.array().items(changeSchema).max(2000).required(),
  followUps: Joi.array().items(followUpSchema).max(200).required(),
});

interface ToJsonSchema {
  '~standard': { jsonSchema: { input: (options: { target: string }) => object } };
}

/** The file's JSON Schema (draft 2020-12), as it is published. */
export const planLogJsonSchema = (): object => ({
  $id: 'deep-angle-plan-log.schema.json',
  title: 'Plans and change log of a bike-fitting visit; lengths in mm, angles in degrees, times ISO 8601',
  ...(schema as unknown as ToJsonSchema)['~standard'].jsonSchema.input({ target: 'draft-2020-12' }),
});

export function planLogOf(s: FitSession): PlanLog {
  return {
    format: 'deep-angle-plan-log',
    version: 1,
    startedIso: s.startedIso,
    bike: { asFound: s.asFound, current: s.current, final: s.final },
    plans: [...s.earlierPlans, ...(s.plan ? [s.plan] : [])],
    changes: s.changes,
    followUps: s.followUps,
  };
}

export const writePlanLog = (s: FitSession): string => `${JSON.stringify(planLogOf(s), null, 2)}\n`;

/** A plan log out of a file, checked whole; or a sentence on what is wrong. */
export function parsePlanLog(text: string): { ok: true; log: PlanLog } | { ok: false; message: string } {
  let read: unknown;
  try {
    read = JSON.parse(text);
  } catch {
    return { ok: false, message: 'This is no JSON file: choose a plan and log that was saved here.' };
  }
  if (typeof read !== 'object' || read === null || (read as PlanLog).format !== 'deep-angle-plan-log')
    return { ok: false, message: 'This file holds no plan and log: choose one that was saved here.' };
  const checked = schema.validate(read, { convert: false });
  return checked.error
    ? { ok: false, message: `The plan and log can’t be imported: ${checked.error.message}.` }
    : { ok: true, log: checked.value as PlanLog };
}

/** What of a session a plan log stands for: given back as a whole, so that taking it in can be undone. */
export function restoredFrom({
  plans,
  changes,
  followUps,
  bike,
}: PlanLog): Pick<FitSession, 'plan' | 'earlierPlans' | 'changes' | 'current' | 'final' | 'followUps'> {
  return {
    plan: plans.at(-1) ?? null,
    earlierPlans: plans.slice(0, -1),
    changes,
    current: bike.current,
    final: bike.final,
    followUps,
  };
}
