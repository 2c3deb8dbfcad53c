import Joi from 'joi';
import { STATIC_KEYS } from './statics.ts';

/** One goniometer reading as it is typed, degrees. */
export const STATIC_ANGLE = Joi.number().min(-20).max(180).messages({
  'number.min': 'Degrees, from −20 to 180.',
  'number.max': 'Degrees, from −20 to 180.',
});
const reading = STATIC_ANGLE.allow(null).required();

export const staticsSchema = Joi.object(
  Object.fromEntries(
    STATIC_KEYS.map((k) => [k, Joi.object({ left: reading, right: reading, both: reading }).required()]),
  ),
);
