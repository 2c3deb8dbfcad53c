import Joi from 'joi';
import { isDay } from '../units/day.ts';

/** A day of the calendar. */
export const daySchema = Joi.string()
  .pattern(/^\d{4}-\d{2}-\d{2}$/)
  .custom((text: string, helpers) => (isDay(text) ? text : helpers.error('day.calendar')))
  .messages({ 'day.calendar': '{{#label}} is no day of the calendar' });
