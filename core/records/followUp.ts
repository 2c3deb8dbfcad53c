import Joi from 'joi';
import { daySchema } from './daySchema.ts';

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

export const followUpSchema = Joi.object<FollowUp, true>({
  id,
  due: daySchema.required(),
  why: Joi.string().allow('').max(300).required(),
  doneIso: iso.allow(null).required(),
});

/** The earliest day still open; null where there is none. */
export function nextDue(followUps: readonly FollowUp[]): string | null {
  const open = followUps.filter((f) => f.doneIso === null).map((f) => f.due);
  return open.length ? open.reduce((a, b) => (a < b ? a : b)) : null;
}
