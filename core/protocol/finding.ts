import Joi from 'joi';
import type { Band, Verdict } from './judge.ts';

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

const finite = Joi.number().min(-1e5).max(1e5).required();

export const findingSchema = Joi.object<Finding, true>({
  key: Joi.string()
    .pattern(/^[A-Za-z0-9]{1,60}$/)
    .required(),
  value: finite,
  uncertainty: Joi.number().min(0).max(1e5).required(),
  unit: Joi.string().valid('°', 'mm').required(),
  band: Joi.object({ low: finite.allow(null), high: finite.allow(null) }).required(),
  verdict: Joi.string()
    .valid('in', 'edge-low', 'edge-high', 'likely-low', 'likely-high', 'low', 'high')
    .required(),
});
