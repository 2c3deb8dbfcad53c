import Joi from 'joi';
import { daySchema } from './daySchema.ts';
import { REGIONS, type RegionKey } from '../intake/intake.ts';
import type { Moves } from '../plan/controls.ts';
import type { Band, Verdict } from '../protocol/judge.ts';
import { TRIAL_TESTS, type TrialTests } from '../plan/trialTests.ts';
import { movesSchema } from '../plan/planning.ts';

/** A value of a set-up, by its place in it: “saddle.heightMm”. */
export interface ChangedValue {
  at: string;
  from: number | string | boolean | null;
  to: number | string | boolean | null;
}

/** What the rider says after riding a change. */
export type RiderWord = 'better' | 'same' | 'worse';

/** What was read while riding a change: by hand, or off a trainer and a pressure mat. */
export interface Ridden {
  powerW: number | null;
  cadenceRpm: number | null;
  /** Left leg's share of the power. */
  leftPercent: number | null;
  /** Share of the load on the saddle that is on its left half and on its front half, and its peak. */
  saddleLeftPercent: number | null;
  saddleFrontPercent: number | null;
  saddlePeakKPa: number | null;
}

export const NOT_RIDDEN: Ridden = {
  powerW: null,
  cadenceRpm: null,
  leftPercent: null,
  saddleLeftPercent: null,
  saddleFrontPercent: null,
  saddlePeakKPa: null,
};

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

const round = Joi.number().integer().min(1).max(1000);
const reading = (least: number, most: number): Joi.NumberSchema =>
  Joi.number().min(least).max(most).allow(null).required();

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
  ridden: Joi.object<Ridden>({
    powerW: reading(0, 2500),
    cadenceRpm: reading(20, 220),
    leftPercent: reading(0, 100),
    saddleLeftPercent: reading(0, 100),
    saddleFrontPercent: reading(0, 100),
    saddlePeakKPa: reading(0, 1000),
  }).required(),
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
  verdict: Joi.string()
    .valid('in', 'edge-low', 'edge-high', 'likely-low', 'likely-high', 'low', 'high')
    .required(),
});

export const planSchema = Joi.object<Plan>({
  keptIso: iso.required(),
  round: round.required(),
  protocolId: Joi.string().max(60).required(),
  findings: Joi.array().items(findingSchema).max(100).required(),
  lines: Joi.array()
    .items(
      Joi.object<KeptLine>({
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

export const followUpSchema = Joi.object<FollowUp>({
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
