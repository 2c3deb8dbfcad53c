import Joi from 'joi';
import type { BikeSetup } from '../bike/setup.ts';
import { bikeSchema } from './stationSchemas.ts';
import { findingSchema, type Finding } from '../protocol/finding.ts';

/** The parts of what the rider takes home, in their order. */
export const REPORT_PARTS = [
  { key: 'why', title: 'What we looked for' },
  { key: 'found', title: 'What we found' },
  { key: 'changed', title: 'What was changed, and why' },
  { key: 'expect', title: 'What to expect' },
  { key: 'home', title: 'What to do at home' },
  { key: 'stop', title: 'When to stop, and whom to ask' },
  { key: 'dates', title: 'When we meet again' },
] as const;
export type ReportPartKey = (typeof REPORT_PARTS)[number]['key'];

export const PAPERS = ['A4', 'LETTER'] as const;
export type Paper = (typeof PAPERS)[number];

/** What goes out with the rider and to the next fitter or mechanic. */
export interface HandOver {
  paper: Paper;
  /** The fitter's own words in place of the proposed ones. */
  texts: Partial<Record<ReportPartKey, string>>;
  leftOut: ReportPartKey[];
  /** The measures as they were read last, when the bike was handed over. */
  findings: Finding[];
  /** Jobs of the work order that are done, by key. */
  ticked: string[];
  /** The bike that the position is carried over to: as far as it is known. */
  other: BikeSetup | null;
}

export const NO_HAND_OVER: HandOver = {
  paper: 'A4',
  texts: {},
  leftOut: [],
  findings: [],
  ticked: [],
  other: null,
};

const part = Joi.string().valid(...REPORT_PARTS.map((p) => p.key));

export const handOverSchema = Joi.object<HandOver, true>({
  paper: Joi.string()
    .valid(...PAPERS)
    .required(),
  texts: Joi.object(
    Object.fromEntries(REPORT_PARTS.map((p) => [p.key, Joi.string().allow('').max(8000)])),
  ).required(),
  leftOut: Joi.array().items(part).unique().required(),
  findings: Joi.array().items(findingSchema).max(100).required(),
  ticked: Joi.array()
    .items(Joi.string().pattern(/^[A-Za-z0-9.:-]{1,80}$/))
    .unique()
    .max(200)
    .required(),
  other: bikeSchema.allow(null).required(),
});
