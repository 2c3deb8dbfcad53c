import Joi from 'joi';
import { RECORD_VERSIONS } from '../records/migrations.ts';
import type { FitSession } from '../records/types.ts';
import { summaryOfVisit, type VisitSummary } from './summaries.ts';

const text = Joi.string().allow('').required();
const day = text.allow(null);
const film = {
  id: text,
  revision: Joi.number().required(),
  clipName: text,
  clipBytes: Joi.number().required(),
};

const schema = Joi.object<VisitSummary, true>({
  id: Joi.string().required(),
  riderId: Joi.string().required(),
  startedIso: text,
  deletedIso: day,
  protocolName: text,
  bikeId: text,
  bikeName: text,
  ready: Joi.array().items(Joi.boolean()).required(),
  next: day,
  nextPath: day,
  complaints: Joi.array()
    .items(Joi.object({ name: text, severity: Joi.number().required() }))
    .required(),
  nextDue: day,
  dues: Joi.array()
    .items(Joi.object({ id: text, due: text, why: text }))
    .required(),
  takes: Joi.array().items(Joi.object(film)).required(),
  removed: Joi.array()
    .items(Joi.object({ ...film, removedIso: text }))
    .required(),
});

/**
 * The summary of a stored visit of today's shape without checking what the summary does not hold: a tenth of the time of a whole
 * check, which is made when the visit is opened.
 * @returns null where only a whole check can tell: another shape, or damage in what a list shows
 */
export function summaryAtSight(stored: unknown): VisitSummary | null {
  if ((stored as { version?: unknown } | null)?.version !== RECORD_VERSIONS.session) return null;
  try {
    const summary = summaryOfVisit(stored as FitSession);
    return schema.validate(summary, { convert: false }).error ? null : summary;
  } catch {
    // Something is not where a summary looks for it.
    return null;
  }
}
