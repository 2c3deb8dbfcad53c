import Joi from 'joi';
import { CONTROL_KEYS } from './controlTable.ts';
import type { Moves } from './controls.ts';

export const movesSchema = Joi.object<Moves>(
  Object.fromEntries(CONTROL_KEYS.map((key) => [key, Joi.number().min(-200).max(200)])),
);
