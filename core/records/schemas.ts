import Joi from 'joi';
import { MEASURE_KEYS, type Protocol } from '../protocol/protocols.ts';
import { LANDMARKS } from '../landmarks/landmarks.ts';
import { CURRENCIES } from '../units/money.ts';
import { RECORD_VERSIONS, upToDate, type RecordKind } from './migrations.ts';
import { bikeSchema, bodySchema, intakeSchema } from './stationSchemas.ts';
import type { CameraPath } from '../tracking/steadied.ts';
import { devicesSchema } from '../kinematics/devices.ts';
import { handOverSchema, PAPERS } from './handOver.ts';
import { planningSchema } from '../plan/terms/planning.ts';
import { staticsSchema } from '../body/staticsSchema.ts';
import {
  DAY_FORMATS,
  type Bike,
  type Correction,
  type FitSession,
  type Hidden,
  type Mark,
  type PartsBin,
  type ProtocolShelf,
  type Rider,
  type Studio,
  type Take,
  type TrackingState,
  type VideoInfo,
} from './types.ts';
import { changeSchema } from '../plan/terms/change.ts';
import { followUpSchema } from './followUp.ts';
import { planSchema } from '../plan/controls/keptPlan.ts';
import { PART_KINDS, PART_NUMBERS, type Part } from '../bike/parts.ts';

const id = Joi.string()
  .pattern(/^[A-Za-z0-9_-]{1,40}$/)
  .required();
const finite = Joi.number().unsafe().min(-1e6).max(1e6);
const iso = Joi.string().isoDate().required();
const point = Joi.object({ x: finite.required(), y: finite.required() });

const version = (kind: RecordKind): Joi.NumberSchema => Joi.number().valid(RECORD_VERSIONS[kind]).required();

/** A share of an answer, with how surely it is known. */
const shareSchema = Joi.object({
  mean: Joi.number().min(0).max(1).required(),
  sd: Joi.number().min(0).max(1).required(),
}).required();

export const riderName = Joi.string().trim().min(1).max(120).messages({
  'string.empty': 'Type the rider’s name.',
  'string.max': 'A name of at most 120 characters, please.',
});

export const riderEmail = Joi.string()
  .trim()
  .allow('')
  .max(200)
  .pattern(/^[^\s@]+@[^\s@]+$/)
  .messages({ 'string.pattern.base': 'An address has one @ and no space.' });
export const riderPhone = Joi.string().trim().allow('').max(60);

const riderSchema = Joi.object<Rider, true>({
  version: version('rider'),
  id,
  name: riderName.required(),
  note: Joi.string().allow('').max(2000).required(),
  email: riderEmail.required(),
  phone: riderPhone.required(),
  createdIso: iso,
  deletedIso: Joi.string().isoDate().allow(null).required(),
  habits: Joi.object({ kappa: shareSchema, rho: shareSchema, learnedIso: iso }).allow(null).required(),
});

const bikeRecordSchema = Joi.object<Bike, true>({
  version: version('bike'),
  id,
  riderId: id,
  name: Joi.string().allow('').max(200).required(),
  note: Joi.string().allow('').max(2000).required(),
  createdIso: iso,
});

const mark = Joi.object<Pick<Mark, 'x' | 'y' | 'onSticker'>, true>({
  x: finite.required(),
  y: finite.required(),
  onSticker: Joi.boolean().required(),
});
export const marksSchema = Joi.object(Object.fromEntries(LANDMARKS.map((k) => [k, mark])));

export const rimsSchema = Joi.object<Take['rims'], true>({
  rearTop: point,
  rearBottom: point,
  frontTop: point,
  frontBottom: point,
});

export const widthSchema = Joi.object<Take['width'], true>({
  of: Joi.string().valid('bar', 'hub', 'pedals').required(),
  mm: Joi.number().min(20).max(1200).allow(null).required(),
  right: point.allow(null).required(),
  left: point.allow(null).required(),
});

const landmark = Joi.string()
  .valid(...LANDMARKS)
  .required();
const frame = Joi.number().integer().min(0).max(10_000_000).required();

export const correctionsSchema = Joi.array()
  .items(
    Joi.object<Pick<Correction, 'landmark' | 'frame' | 'x' | 'y'>, true>({
      landmark,
      frame,
      x: finite.required(),
      y: finite.required(),
    }),
  )
  .max(5000);
export const hiddenSchema = Joi.array()
  .items(
    Joi.object<Hidden, true>({
      landmark,
      from: frame,
      to: Joi.number().integer().min(Joi.ref('from')).required(),
    }),
  )
  .max(1000);

const series = Joi.array().items(finite).max(100_000).required();
export const cameraPathSchema = Joi.object<CameraPath, true>({ tS: series, xPx: series, yPx: series }).custom(
  (path: CameraPath, helpers) => {
    const long = path.xPx.length === path.tS.length && path.yPx.length === path.tS.length;
    return long && path.tS.every((t, i) => i === 0 || t > path.tS[i - 1])
      ? path
      : helpers.message({ custom: 'A camera’s path has a place for each of its times, in their order.' });
  },
);

export const trackingSchema = Joi.object<TrackingState, true>({
  state: Joi.string().valid('none', 'stopped', 'done').required(),
  framesDone: Joi.number().integer().min(0).required(),
  estimated: Joi.boolean().required(),
  revision: Joi.number().integer().min(0).required(),
});

export const takeSchema = Joi.object<Take, true>({
  id,
  round: Joi.number().integer().min(1).max(1000).required(),
  setup: bikeSchema.allow(null).required(),
  devices: devicesSchema.required(),
  view: Joi.string().valid('drive', 'nonDrive', 'front', 'rear').required(),
  position: Joi.string().valid('tops', 'hoods', 'drops', 'extensions', 'grips').allow(null).required(),
  effort: Joi.string().valid('easy', 'working', 'hard').allow(null).required(),
  effortW: Joi.number().min(0).max(2500).allow(null).required().messages({
    'number.min': 'Watts, from 0 to 2500.',
    'number.max': 'Watts, from 0 to 2500.',
  }),
  cadenceRpm: Joi.number().min(20).max(220).allow(null).required().messages({
    'number.min': 'Turns a minute, from 20 to 220.',
    'number.max': 'Turns a minute, from 20 to 220.',
  }),
  baselineOf: Joi.string().max(40).allow(null).required(),
  pairWith: Joi.string().max(40).allow(null).required(),
  note: Joi.string().allow('').max(2000).required(),
  trim: Joi.object({ from: frame, to: Joi.number().integer().min(Joi.ref('from')).required() })
    .allow(null)
    .required(),
  clipName: Joi.string().min(1).max(300).required(),
  clipBytes: Joi.number().integer().min(0).required(),
  video: Joi.object<VideoInfo, true>({
    widthPx: Joi.number().integer().min(1).max(16384).required(),
    heightPx: Joi.number().integer().min(1).max(16384).required(),
    codec: Joi.string().max(60).required(),
    frames: Joi.number().integer().min(1).required(),
    durationS: Joi.number().min(0).required(),
    framesPerS: Joi.number().min(0).max(10000).required(),
    evenlyTimed: Joi.boolean().required(),
    rotationDeg: Joi.number().valid(0, 90, 180, 270).required(),
  }).required(),
  demo: Joi.object({
    clipUrl: Joi.string()
      .pattern(/^\/demo\/[a-z-]+\.(webm|mp4)$/)
      .required(),
    tracksUrl: Joi.string()
      .pattern(/^\/demo\/[a-z-]+\.tracks\.csv$/)
      .allow(null)
      .required(),
  })
    .allow(null)
    .required(),
  axles: Joi.object({ rear: point.allow(null).required(), front: point.allow(null).required() }).required(),
  width: widthSchema.required(),
  rims: rimsSchema.required(),
  markedFrame: Joi.number().integer().min(0).required(),
  marks: marksSchema.required(),
  corrections: correctionsSchema.required(),
  hidden: hiddenSchema.required(),
  cameraPath: cameraPathSchema.allow(null).required(),
  tracking: trackingSchema.required(),
});

const bandEnd = Joi.number().min(-500).max(500).allow(null).required();

export const protocolSchema = Joi.object<Protocol, true>({
  id,
  revision: Joi.number().integer().min(1).max(10_000).required(),
  name: Joi.string().trim().min(1).max(120).required(),
  position: Joi.string().allow('').max(120).required(),
  reason: Joi.string().allow('').max(2000).required(),
  source: Joi.string().allow('').max(2000).required(),
  date: iso,
  bands: Joi.object(
    Object.fromEntries(
      MEASURE_KEYS.map((key) => [
        key,
        Joi.object({ low: bandEnd, high: bandEnd })
          .required()
          .custom((band: { low: number | null; high: number | null }, helpers) =>
            band.low !== null && band.high !== null && band.low > band.high
              ? helpers.error('band.turned')
              : band,
          )
          .messages({ 'band.turned': 'The lower end lies above the upper one.' }),
      ]),
    ),
  ).required(),
  reasons: Joi.object(
    Object.fromEntries(MEASURE_KEYS.map((key) => [key, Joi.string().allow('').max(1000)])),
  ).required(),
});

export const sessionSchema = Joi.object<FitSession, true>({
  version: version('session'),
  id,
  riderId: id,
  startedIso: iso,
  deletedIso: Joi.string().isoDate().allow(null).required(),
  bikeId: id,
  followsId: id.allow(null),
  protocolId: Joi.string().max(60).required(),
  protocol: protocolSchema.allow(null).required(),
  intake: intakeSchema.required(),
  body: bodySchema.required(),
  asFound: bikeSchema.required(),
  current: bikeSchema.allow(null).required(),
  final: bikeSchema.allow(null).required(),
  changes: Joi.array().items(changeSchema).unique('id').max(1000).required(),
  plan: planSchema.allow(null).required(),
  earlierPlans: Joi.array().items(planSchema).max(200).required(),
  followUps: Joi.array().items(followUpSchema).unique('id').max(100).required(),
  statics: staticsSchema.required(),
  takes: Joi.array().items(takeSchema).unique('id').max(100).required(),
  removedTakes: Joi.array()
    .items(Joi.object({ take: takeSchema.required(), removedIso: Joi.string().isoDate().required() }))
    .max(200)
    .required(),
  takeId: Joi.string().max(40).allow(null).required(),
  planning: planningSchema.required(),
  handOver: handOverSchema.required(),
});

const studioSchema = Joi.object<Studio, true>({
  version: version('studio'),
  name: Joi.string().allow('').max(120).required(),
  fitter: Joi.string().allow('').max(120).required(),
  contact: Joi.string().allow('').max(500).required(),
  glance: Joi.array()
    .items(Joi.string().valid(...MEASURE_KEYS))
    .unique()
    .min(3)
    .max(5)
    .required(),
  theme: Joi.string().valid('light', 'dark', 'system').required(),
  jointConvention: Joi.string().valid('bend', 'inside').required(),
  lengthUnit: Joi.string().valid('mm', 'cm', 'in').required(),
  massUnit: Joi.string().valid('kg', 'lb').required(),
  paper: Joi.string()
    .valid(...PAPERS)
    .required(),
  dayFormat: Joi.string()
    .valid(...DAY_FORMATS)
    .required(),
  protocolId: Joi.string().max(60).required(),
  currency: Joi.string()
    .valid(...CURRENCIES)
    .required(),
  remote: Joi.object<Studio['remote'], true>({
    next: Joi.string().allow('').max(40).required(),
    back: Joi.string().allow('').max(40).required(),
  }).required(),
});

export type Checked<T> = { ok: true; value: T } | { ok: false; reason: 'newer' | 'broken'; message: string };

export const partSchema = Joi.object<Part>({
  id,
  kind: Joi.string()
    .valid(...PART_KINDS)
    .required(),
  name: Joi.string().min(1).max(120).required(),
  ...Object.fromEntries(
    PART_NUMBERS.map(({ key, min, max }) => [key, Joi.number().min(min).max(max).allow(null).required()]),
  ),
  count: Joi.number().integer().min(0).max(9999).required(),
});

const partsSchema = Joi.object<PartsBin, true>({
  version: version('parts'),
  parts: Joi.array().items(partSchema).unique('id').max(5000).required(),
  removed: Joi.array()
    .items(Joi.object({ part: partSchema.required(), removedIso: Joi.string().isoDate().required() }))
    .max(5000)
    .required(),
});

const protocolsSchema = Joi.object<ProtocolShelf, true>({
  version: version('protocols'),
  protocols: Joi.array()
    .items(protocolSchema)
    .unique((a: Protocol, b: Protocol) => a.id === b.id && a.revision === b.revision)
    .max(2000)
    .required(),
});

export interface RecordOf {
  protocols: ProtocolShelf;
  parts: PartsBin;
  rider: Rider;
  bike: Bike;
  session: FitSession;
  studio: Studio;
}

const SCHEMAS: { [K in RecordKind]: Joi.ObjectSchema<RecordOf[K]> } = {
  parts: partsSchema,
  protocols: protocolsSchema,
  rider: riderSchema,
  bike: bikeRecordSchema,
  session: sessionSchema,
  studio: studioSchema,
};

/**
 * Checks a stored or imported record against its schema, after bringing an older one up to date. A record from a newer version is
 * distinguished from a broken one, so that it can be kept untouched.
 */
export function checkRecord<K extends RecordKind>(kind: K, record: unknown): Checked<RecordOf[K]> {
  const claimed = (record as { version?: unknown } | null)?.version;
  if (typeof claimed === 'number' && claimed > RECORD_VERSIONS[kind]) {
    return {
      ok: false,
      reason: 'newer',
      message: `This record was written by a newer Deep Angle (its shape is ${claimed}, this one knows ${RECORD_VERSIONS[kind]}). It is kept as it is; update to open it.`,
    };
  }
  const current =
    typeof record === 'object' && record !== null && !Array.isArray(record)
      ? upToDate(kind, record as Record<string, unknown>)
      : record;
  const { error, value } = SCHEMAS[kind].required().validate(current, { abortEarly: true, convert: false });
  return error
    ? { ok: false, reason: 'broken', message: error.message }
    : { ok: true, value: value as RecordOf[K] };
}

/** What Joi offers of the Standard Schema interface, which its own types leave out. */
interface ToJsonSchema {
  '~standard': { jsonSchema: { input: (options: { target: string }) => object } };
}

/** A record's shape as a JSON Schema (draft 2020-12), for files that leave the application. */
export const jsonSchemaOf = (kind: RecordKind): object =>
  (SCHEMAS[kind] as unknown as ToJsonSchema)['~standard'].jsonSchema.input({ target: 'draft-2020-12' });
