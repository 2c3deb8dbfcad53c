import Joi from 'joi';
import type { Moves } from '../controls/controls.ts';
import { movesSchema } from '../controls/movesSchema.ts';
import { LADDER_KEYS, type LadderKey, type RungWord } from '../../suspects/ladders.ts';
import { ON_BIKE, type OnBike } from '../../suspects/onBike.ts';
import type { Decision } from './plan.ts';
import { QUESTIONS, type QuestionKey } from './questions.ts';
import { USUAL_SCHOOLS, type Schools } from './schools.ts';

/** A named set of moves, to be compared with others. */
export interface Variant {
  id: string;
  name: string;
  moves: Moves;
}

/** What the fitter does while planning: nothing of it is on the bike. */
export interface Planning {
  schools: Schools;
  decisions: Decision[];
  /** Lines of the prescription in the fitter's own order, by key. */
  order: string[];
  /** What stands on the bench; null while it is the prescription itself. */
  trying: Moves | null;
  variants: Variant[];
  /** Cautions that were acknowledged, by key. */
  acknowledged: string[];
  /** What the tests on the bike found. */
  onBike: OnBike;
  /** What the plan asked before it went on, and what was answered. */
  answers: Partial<Record<QuestionKey, string>>;
  /** Where each guided sequence stands: what came of its rungs so far. */
  ladders: Partial<Record<LadderKey, RungWord[]>>;
}

export const NO_PLANNING: Planning = {
  schools: USUAL_SCHOOLS,
  decisions: [],
  order: [],
  trying: null,
  variants: [],
  acknowledged: [],
  onBike: {},
  answers: {},
  ladders: {},
};

const lineKey = Joi.string().pattern(/^[A-Za-z]{1,40}$/);

export const planningSchema = Joi.object<Planning, true>({
  schools: Joi.object<Schools, true>({
    knee: Joi.string().valid('dynamic', 'static').required(),
    foreAft: Joi.string().valid('plumb', 'balance').required(),
    cleat: Joi.string().valid('level', 'behind', 'between', 'midfoot').required(),
    kneePath: Joi.string().valid('stance', 'wedge').required(),
    saddleWidth: Joi.string().valid('support', 'overall').required(),
  }).required(),
  decisions: Joi.array()
    .items(
      Joi.object<Decision, true>({
        key: lineKey.required(),
        state: Joi.string().valid('accepted', 'edited', 'rejected').required(),
        moves: movesSchema.required(),
        reason: Joi.string().allow('').max(500).required(),
        p: Joi.number().min(0).max(1).allow(null).required(),
      }),
    )
    .unique('key')
    .max(40)
    .required(),
  order: Joi.array().items(lineKey).unique().max(40).required(),
  trying: movesSchema.allow(null).required(),
  variants: Joi.array()
    .items(
      Joi.object<Variant, true>({
        id: Joi.string()
          .pattern(/^[A-Za-z0-9_-]{1,40}$/)
          .required(),
        name: Joi.string().trim().min(1).max(60).required(),
        moves: movesSchema.required(),
      }),
    )
    .unique('id')
    .max(12)
    .required(),
  acknowledged: Joi.array().items(lineKey).unique().max(60).required(),
  onBike: Joi.object(
    Object.fromEntries(ON_BIKE.map((t) => [t.key, Joi.string().valid(...t.options.map(([k]) => k))])),
  ).required(),
  answers: Joi.object(
    Object.fromEntries(QUESTIONS.map((q) => [q.key, Joi.string().valid(...q.options.map(([key]) => key))])),
  ).required(),
  ladders: Joi.object(
    Object.fromEntries(
      LADDER_KEYS.map((key) => [
        key,
        Joi.array()
          .items(Joi.string().valid('helped', 'same', 'worse', 'left-out'))
          .max(12),
      ]),
    ),
  ).required(),
});
