import Joi from 'joi';
import { REGIONS, type RegionKey } from '../../intake/intake.ts';
import { riddenSchema, type Ridden } from '../../kinematics/ridden.ts';
import { TRIAL_TESTS, type TrialTests } from './trialTests.ts';

/** A value of a set-up, by its place in it: “saddle.heightMm”. */
export interface ChangedValue {
  at: string;
  from: number | string | boolean | null;
  to: number | string | boolean | null;
}

/** What the rider says after riding a change. */
export type RiderWord = 'better' | 'same' | 'worse';

/** One thing moved on the bike, with what the rider said of it. Putting it back is kept too: it was tried. */
export interface Change {
  id: string;
  madeIso: string;
  /** The round it belongs to: how often the rider had been filmed. */
  round: number;
  /** The line of the plan that it is a step of; null for something else. */
  lineKey: string | null;
  values: ChangedValue[];
  word: RiderWord | null;
  /** Where it was felt, and in which words. */
  felt: RegionKey[];
  note: string;
  tests: TrialTests;
  ridden: Ridden;
  putBackIso: string | null;
  /** What it did to the figures, measured while the camera ran; null where nobody was watching. */
  measured: MeasuredChange | null;
}

/** A figure before and after a change, as the camera saw it: degrees, with the 95 % of the difference. */
export interface ChangedFigure {
  key: string;
  before: number;
  after: number;
  uncertainty: number;
}

export interface MeasuredChange {
  figures: ChangedFigure[];
  /** Turns of the crank on either side. */
  turnsBefore: number;
  turnsAfter: number;
  /** The rider got off, rose or rested in between: sitting down anew is in each ±. */
  satAnew: boolean;
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
const round = Joi.number().integer().min(1).max(1000);

/** Place of a value in a set-up: two or three names. */
export const setupPlace = Joi.string()
  .pattern(/^[a-z][A-Za-z0-9]*(\.[a-z][A-Za-z0-9]*){0,2}$/)
  .max(60)
  .required();

const degrees = Joi.number().min(-360).max(360).required();
const turns = Joi.number().integer().min(1).max(100_000).required();
const measuredSchema = Joi.object<MeasuredChange, true>({
  figures: Joi.array()
    .items(
      Joi.object<ChangedFigure, true>({
        key: Joi.string()
          .pattern(/^[A-Za-z0-9]{1,40}$/)
          .required(),
        before: degrees,
        after: degrees,
        uncertainty: Joi.number().min(0).max(360).required(),
      }),
    )
    .unique('key')
    .max(20)
    .required(),
  turnsBefore: turns,
  turnsAfter: turns,
  satAnew: Joi.boolean().required(),
});

export const changeSchema = Joi.object<Change, true>({
  id,
  madeIso: iso.required(),
  values: Joi.array()
    .items(Joi.object({ at: setupPlace, from: value, to: value }))
    .min(1)
    .max(20)
    .required(),
  round: round.required(),
  lineKey: Joi.string()
    .pattern(/^[A-Za-z]{1,40}$/)
    .allow(null)
    .required(),
  word: Joi.string().valid('better', 'same', 'worse').allow(null).required(),
  felt: Joi.array()
    .items(Joi.string().valid(...REGIONS.map((r) => r.key)))
    .unique()
    .required(),
  note: Joi.string().allow('').max(1000).required(),
  tests: Joi.object(
    Object.fromEntries(TRIAL_TESTS.map((t) => [t.key, Joi.string().valid(...t.options.map(([key]) => key))])),
  ).required(),
  ridden: riddenSchema.required(),
  putBackIso: iso.allow(null).required(),
  measured: measuredSchema.allow(null).required(),
});
