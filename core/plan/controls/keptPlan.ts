import Joi from 'joi';
import { findingSchema, type Finding } from '../../protocol/finding.ts';
import type { Moves } from './controls.ts';
import { movesSchema } from './movesSchema.ts';

/** One line of a kept plan: what moves by how much, how much of it before filming again, and why. */
export interface KeptLine {
  key: string;
  moves: Moves;
  today: Moves;
  why: string[];
  check: string;
  /** What is done where no bolt is turned for it; null where the moves say it. */
  title: string | null;
}

/** A plan as the fitter kept it: what was found, and what was to be moved. Later readings never change it. */
export interface Plan {
  keptIso: string;
  /** The round it was made in, from 1. */
  round: number;
  protocolId: string;
  findings: Finding[];
  lines: KeptLine[];
}

const iso = Joi.string().isoDate();
const round = Joi.number().integer().min(1).max(1000);

export const planSchema = Joi.object<Plan, true>({
  keptIso: iso.required(),
  round: round.required(),
  protocolId: Joi.string().max(60).required(),
  findings: Joi.array().items(findingSchema).max(100).required(),
  lines: Joi.array()
    .items(
      Joi.object<KeptLine, true>({
        key: Joi.string()
          .pattern(/^[A-Za-z]{1,40}$/)
          .required(),
        moves: movesSchema.required(),
        today: movesSchema.required(),
        why: Joi.array().items(Joi.string().max(2000)).max(40).required(),
        check: Joi.string().allow('').max(1000).required(),
        title: Joi.string().max(200).allow(null).required(),
      }),
    )
    .max(40)
    .required(),
});
