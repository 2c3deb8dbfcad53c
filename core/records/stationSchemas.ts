import Joi from 'joi';
import { daySchema } from './daySchema.ts';
import type { BikeSetup } from '../bike/setup.ts';
import { BODY_TESTS, type BodyRecord, type BodyTest } from '../body/bodyTests.ts';
import { DISCIPLINES, GOALS, RED_FLAGS, REGIONS, type Intake, type Complaint } from '../intake/intake.ts';

/** What no bike and no body can have, with the sentence that says so. */
function range(min: number, max: number, unit: string): Joi.NumberSchema {
  const text = `Between ${String(min).replace('-', '−')} and ${max} ${unit}, please: this is beyond what can be.`;
  return Joi.number()
    .min(min)
    .max(max)
    .messages({ 'number.base': `Type a number in ${unit}.`, 'number.min': text, 'number.max': text });
}
const mm = (min: number, max: number): Joi.NumberSchema => range(min, max, 'mm');
const deg = (min: number, max: number): Joi.NumberSchema => range(min, max, 'degrees');

/** The bounds of every number of a bike's set-up, by its place in the record. */
export const BIKE_BOUNDS = {
  'frame.stackMm': mm(350, 800),
  'frame.reachMm': mm(250, 600),
  'frame.headAngleDeg': deg(55, 80),
  'frame.seatTubeMm': mm(200, 800),
  'frame.seatAngleDeg': Joi.number().min(60).max(90).messages({
    'number.base': 'Type the seat tube’s angle in degrees from horizontal.',
    'number.min': 'The seat tube’s angle is measured from horizontal: 60 to 90 degrees.',
    'number.max': 'The seat tube’s angle is measured from horizontal: 60 to 90 degrees.',
  }),
  'frame.frontCentreMm': mm(450, 900),
  'frame.chainstayMm': mm(350, 600),
  'frame.bbDropMm': mm(-60, 120),
  'frame.forkRakeMm': mm(0, 100),
  'frame.wheelbaseMm': Joi.number().min(700).max(2500).messages({
    'number.base': 'Type the wheelbase in millimetres, axle to axle.',
    'number.min': 'A wheelbase under 700 mm is not a bicycle’s: type millimetres, axle to axle.',
    'number.max': 'A wheelbase over 2500 mm is not a bicycle’s: type millimetres, axle to axle.',
  }),
  'frame.wheelDiameterMm': mm(350, 800),
  'frame.tyreWidthMm': mm(15, 130),
  'crank.lengthMm': Joi.number().min(100).max(220).messages({
    'number.base': 'Type the crank length in millimetres, as stamped on the arm.',
    'number.min': 'A crank under 100 mm is not made: type millimetres, as stamped on the arm.',
    'number.max': 'A crank over 220 mm is not made: type millimetres, as stamped on the arm.',
  }),
  'crank.qFactorMm': mm(100, 260),
  'pedals.axleLengthMm': mm(40, 90),
  'pedals.stackMm': mm(0, 40),
  'pedals.floatDeg': deg(0, 45),
  'saddle.lengthMm': mm(120, 350),
  'saddle.widthMm': mm(90, 320),
  'saddle.heightMm': mm(350, 950),
  'saddle.heightToSpindleMm': mm(450, 1150),
  'saddle.setbackNoseMm': mm(-200, 250),
  'saddle.setback80Mm': mm(-100, 400),
  'saddle.noseTo80Mm': mm(20, 220),
  'saddle.tiltDeg': deg(-30, 30),
  'saddle.postShowingMm': mm(0, 450),
  'saddle.postShowingMostMm': mm(50, 450),
  'stem.lengthMm': mm(0, 180),
  'stem.angleDeg': deg(-60, 60),
  'stem.spacersMm': mm(0, 150),
  'stem.steererAboveMm': mm(0, 150),
  'bar.widthMm': mm(250, 900),
  'bar.reachMm': mm(-150, 250),
  'bar.hoodRiseMm': mm(-100, 120),
  'bar.dropMm': mm(0, 250),
  'bar.rotationDeg': deg(-45, 60),
  'bar.fromNoseMm': mm(250, 900),
  'bar.belowSaddleMm': mm(-350, 350),
  'levers.fromEndMm': mm(0, 500),
  'levers.turnInDeg': deg(-20, 45),
  'levers.reachMm': mm(20, 130),
  'extensions.padRiseMm': mm(-50, 200),
  'extensions.padAheadMm': mm(-150, 150),
  'extensions.padSpacingMm': mm(50, 400),
  'extensions.lengthMm': mm(100, 500),
} as const;

/** The bounds of one foot's numbers. */
export const FOOT_BOUNDS = {
  cleatBehindMm: mm(-30, 160),
  cleatOutwardMm: mm(-20, 20),
  heelOutDeg: deg(-30, 30),
  shoeSizeEu: range(28, 54, 'European sizes'),
  soleStackMm: mm(0, 40),
} as const;

/** What may lie under a cleat. */
export const UNDER_CLEAT = { wedgeDeg: deg(-10, 10), shimMm: mm(0, 30) } as const;

const text = (most: number): Joi.StringSchema => Joi.string().allow('').max(most).required();
const maybe = (s: Joi.NumberSchema): Joi.NumberSchema => s.allow(null).required();
const part = (name: string): Record<string, Joi.Schema> =>
  Object.fromEntries(
    Object.entries(BIKE_BOUNDS)
      .filter(([key]) => key.startsWith(`${name}.`))
      .map(([key, schema]) => [key.slice(name.length + 1), maybe(schema)]),
  );

const foot = Joi.object({
  ...Object.fromEntries(Object.entries(FOOT_BOUNDS).map(([key, schema]) => [key, maybe(schema)])),
  wedgeDeg: UNDER_CLEAT.wedgeDeg.required(),
  shimMm: UNDER_CLEAT.shimMm.required(),
  washers: Joi.number().integer().min(0).max(4).required(),
  insole: text(200),
}).required();

export const bikeSchema = Joi.object<BikeSetup, true>({
  name: text(200),
  frame: Joi.object({
    ...part('frame'),
    seatAngleDeg: BIKE_BOUNDS['frame.seatAngleDeg'].required(),
  }).required(),
  crank: Joi.object(part('crank')).required(),
  pedals: Joi.object({ ...part('pedals'), model: text(120) }).required(),
  feet: Joi.object({ left: foot, right: foot }).required(),
  saddle: Joi.object({
    ...part('saddle'),
    model: text(120),
    reliefChannel: Joi.boolean().allow(null).required(),
  }).required(),
  stem: Joi.object({
    ...part('stem'),
    flipped: Joi.boolean().required(),
    onePiece: Joi.boolean().required(),
    capMm: mm(0, 60).required(),
    clampHeightMm: mm(20, 80).required(),
  }).required(),
  bar: Joi.object({ ...part('bar'), model: text(120) }).required(),
  levers: Joi.object(part('levers')).required(),
  extensions: Joi.object(part('extensions')).allow(null).required(),
});

/** What a body test may have found: a number within what bodies are, or one of its findings. */
export function testValue(test: BodyTest): Joi.Schema {
  return test.number
    ? range(test.number.min, test.number.max, test.number.unit === '°' ? 'degrees' : test.number.unit)
    : Joi.string().valid(...test.choices!.map(([key]) => key));
}

const result = (test: BodyTest): Joi.ObjectSchema => {
  const value = testValue(test).allow(null).required();
  const none = Joi.valid(null).required();
  const two = test.sides === 'two';
  return Joi.object({
    left: two ? value : none,
    right: two ? value : none,
    both: two ? none : value,
    skipped: Joi.string().max(300).allow(null).required(),
  });
};

export const bodySchema = Joi.object<BodyRecord, true>({
  results: Joi.object(Object.fromEntries(BODY_TESTS.map((t) => [t.key, result(t)]))).required(),
  adjustmentsOff: Joi.array().items(Joi.string().max(60)).max(50).required(),
});

export const intakeSchema = Joi.object<Intake, true>({
  goals: Joi.array()
    .items(Joi.string().valid(...GOALS))
    .unique()
    .required(),
  discipline: Joi.string()
    .valid(...DISCIPLINES.map((d) => d.key))
    .allow(null)
    .required(),
  ageYears: maybe(range(4, 110, 'years').integer()),
  hoursAWeek: maybe(range(0, 60, 'hours')),
  longestRideKm: maybe(range(0, 2000, 'km')),
  event: text(300),
  eventDate: daySchema.allow(null).required(),
  experience: Joi.string().valid('new', 'some', 'years').allow(null).required(),
  returning: Joi.boolean().required(),
  past: text(4000),
  work: text(1000),
  changed: text(2000),
  complaints: Joi.array()
    .items(
      Joi.object<Complaint, true>({
        id: Joi.string()
          .pattern(/^[A-Za-z0-9_-]{1,40}$/)
          .required(),
        region: Joi.string()
          .valid(...REGIONS.map((r) => r.key))
          .required(),
        side: Joi.string().valid('left', 'right', 'both', 'middle').required(),
        words: text(500),
        severity: Joi.number().integer().min(0).max(10).required(),
        onset: Joi.string().valid('at-once', 'builds-up', 'after').required(),
        since: text(200),
        eases: text(500),
        goneIso: Joi.string().isoDate().allow(null).required(),
        carried: Joi.boolean().required(),
      }),
    )
    .max(40)
    .required(),
  redFlags: Joi.array()
    .items(
      Joi.object({
        key: Joi.string()
          .valid(...RED_FLAGS.map((f) => f.key))
          .required(),
        acknowledgedIso: Joi.string().isoDate().allow(null).required(),
      }),
    )
    .unique('key')
    .required(),
  flagsAskedIso: Joi.string().isoDate().allow(null).required(),
  filmConsent: Joi.object({
    givenIso: Joi.string().isoDate().required(),
    by: Joi.string().min(1).max(120).required(),
  })
    .allow(null)
    .required(),
});
